/** What one visitor is sent for one address, with what the database holds; and how long whom that may be kept for. */
import type { OwnShown } from '../../../core/kinds/block'
import { createHash } from 'node:crypto'
import { LRUCache } from 'lru-cache'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { FactGroup } from '../../../core/visitor/fact-group'
import type { Kind } from '../../../core/kinds/kinds'
import { assemble } from '../../../core/pages/assemble'
import type { PageSource } from '../../../core/pages/made-from/page-source'
import type { QuestionAsk } from '../../../core/pages/made-from/questions'
import type { Assembled, PageView, SignUpForm } from '../../../core/view/view'
import { renderText } from '../../../core/texts/passages'
import type { Rendering } from '../../../core/texts/passages'
import type { PanelSort } from '../../../core/blocks/panel-sorts'
import type { AnyDb } from '../../db/database'
import { signUpForm } from '../entrance/sign-up-form'
import { formsTold } from '../forms/forms'
import { contentOf } from '../versions/versions'
import type { Snapshot } from '../live/snapshot'
import { panelOf } from './member-panels'
import { slotsOf } from './slots'
import type { Slots } from './slots'

declare module 'h3' {
  interface H3EventContext {
    /** The page of the site, or the site around a page of the application's own. */
    view?: PageView
  }
}

export interface ViewAsk {
  snapshot: Snapshot
  decider: CompiledDecider
  db: AnyDb
  path: string
  /** The site's own page this is the frame of. */ own?: OwnShown | undefined
  base?: string
  walked?: PageView['walked']
  /** The name of a deed just done, told once. */ done?: string | undefined
  /** Where somebody was refused before they came to sign in. */ back?: string | undefined
  /** Of these languages the one the browser likes best. */ spoken?:
    ((offered: readonly string[]) => string | undefined) | undefined
  /** The browser's own session, marked in the list of sessions. */ sessionId?: string | undefined
  /** Panels that are not for whoever looks. */ hidden?: ReadonlySet<PanelSort>
}

/** A view with the visitor's own words, which go into what is sent. */
export type SentView = Assembled & { slots: Slots }

export async function assembleView(ask: ViewAsk): Promise<SentView> {
  const { snapshot, decider, path, own, base, walked, done, back } = ask
  const slots = slotsOf(decider, snapshot.firms, path)
  const source = sourceOf(ask, slots)
  return { ...(await assemble({ rules: snapshot.rules, decider, source, path, own, base, walked, done, back })), slots }
}

/** What a view would be made from, for whatever else is made of the same; `fill` puts a reader's own words into their places. */
export function sourceFor(ask: Omit<ViewAsk, 'path'>): { source: PageSource; fill(html: string): string } {
  const slots = slotsOf(ask.decider, ask.snapshot.firms)
  return { source: sourceOf({ ...ask, path: '' }, slots), fill: html => slots.fill(html) }
}

/** Texts are read again and again, and most are sent the same to everybody. Bytes. */
const rendered = new LRUCache<string, string>({
  maxSize: 16 * 1_048_576,
  sizeCalculation: (html, key) => html.length + key.length + 128,
})
function renderedText(markdown: string, rendering: Rendering): string {
  const { base = '', admitted } = rendering
  // What stands for the reader differs between readers: such a text is rendered each time.
  if (markdown.includes(':reader')) return renderText(markdown, rendering)
  const key = `${base}\n${JSON.stringify(admitted)}\n${markdown}`
  let html = rendered.get(key)
  if (html === undefined) rendered.set(key, (html = renderText(markdown, rendering)))
  return html
}

/** What can be applied for, as pages tell it; made once for an edition and its forms. */
const told = new WeakMap<Snapshot, PageSource['forms']>()
function toldForms(snapshot: Snapshot): PageSource['forms'] {
  let forms = told.get(snapshot)
  if (!forms) told.set(snapshot, (forms = formsTold(snapshot.forms, snapshot.rules.rulebook)))
  return forms
}

/** What of a source the questions of a page need: nothing of it is read anywhere. */
export const pageSource = ({ snapshot, spoken }: Pick<ViewAsk, 'snapshot' | 'spoken'>): QuestionAsk['source'] => ({
  words: snapshot.settings.words,
  ...(spoken ? { spoken } : {}),
  signUp: signUpOf(snapshot),
  forms: toldForms(snapshot),
})
const signUps = new WeakMap<Snapshot, SignUpForm>()
function signUpOf(snapshot: Snapshot): SignUpForm {
  let form = signUps.get(snapshot)
  if (!form) {
    form = signUpForm({ book: snapshot.rules.rulebook, settings: snapshot.settings })
    signUps.set(snapshot, form)
  }
  return form
}

function sourceOf({ snapshot, decider, db, walked, sessionId, hidden, spoken }: ViewAsk, slots: Slots): PageSource {
  const contents = new Map<number, Record<string, unknown>>()
  const rowOf = (kind: Kind, id: string) => snapshot.contents.get(kind, id)?.id
  return {
    read: async things => {
      const rows = things
        .map(({ kind, id }) => rowOf(kind, id))
        .filter(row => row !== undefined && !contents.has(row)) as number[]
      for (const [row, content] of await contentOf(db, rows)) contents.set(row, content)
    },
    content: (kind, id) => contents.get(rowOf(kind, id) ?? -1) ?? {},
    text: renderedText,
    mark: name => slots.mark(name),
    panel: async (shows, { href, words }) =>
      hidden?.has(shows)
        ? null
        : panelOf(shows, { snapshot, decider, db, sessionId, walked: walked !== undefined, href, words }),
    ...pageSource({ snapshot, spoken }),
    look: snapshot.settings.look,
  }
}

/** How the answer may be kept: by everybody when nobody's facts were looked at, by the visitor's own browser otherwise, always asked again. */
export function cacheHeaders(
  {
    view,
    facts,
    redirect,
    personal: own,
  }: Pick<Assembled, 'facts' | 'redirect' | 'personal'> & {
    view: Pick<PageView, 'status' | 'walked'>
  },
  headerOf: Partial<Record<FactGroup, string>>,
  asked?: KeepingAsk,
): Record<string, string> {
  if (redirect || own || view.status !== 200 || view.walked)
    return { 'cache-control': 'private, no-store', vary: 'Cookie' }
  return keepingFor(facts, headerOf, asked)
}

export interface KeepingAsk {
  /** Nobody is signed in. */ guest: boolean
  /** Seconds a shared cache may answer without asking; 0: it asks each time. */ sharedSeconds: number
}

/** The same for what is sent as it is, by what was looked at to decide whether it is sent. */
export function keepingFor(
  facts: ReadonlySet<FactGroup>,
  headerOf: Partial<Record<FactGroup, string>>,
  { guest = false, sharedSeconds = 0 }: Partial<KeepingAsk> = {},
): Record<string, string> {
  const personal = [...facts].filter(fact => fact !== 'clock' && fact !== 'query')
  const vary = [...new Set(personal.map(fact => headerOf[fact]).filter(Boolean))].sort().join(', ')
  // What guests are sent is the same for all who send the same of these headers, which a shared cache tells apart.
  const shared = personal.every(fact => guest && toldApart.has(fact))
  const seconds = sharedSeconds > 0 ? `s-maxage=${sharedSeconds}, ` : ''
  return {
    'cache-control': shared ? `public, ${seconds}max-age=0, must-revalidate` : 'private, no-cache',
    ...(vary ? { vary } : {}),
  }
}

/** Facts that are in a header as the browser sends it. */
const toldApart: ReadonlySet<FactGroup> = new Set(['person', 'basket', 'device', 'language', 'referrer'])

/** The view key: equal for every visitor who is sent the same page. */
export function viewKey(view: PageView): string {
  return createHash('sha256')
    .update(JSON.stringify({ ...view, words: view.words.id }))
    .digest('base64url')
    .slice(0, 32)
}
