/** What one visitor is sent for one address, with what the database holds; and how long whom that may be kept for. */
import { createHash } from 'node:crypto'
import { LRUCache } from 'lru-cache'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { FactGroup } from '../../../core/conditions/leaves/leaf'
import type { Kind } from '../../../core/kinds/kinds'
import { assemble } from '../../../core/pages/assemble'
import type { PageSource } from '../../../core/pages/assemble'
import type { Assembled, PageView } from '../../../core/pages/view'
import { renderText } from '../../../core/texts/passages'
import type { Rendering } from '../../../core/texts/passages'
import type { PanelSort } from '../../../core/blocks/panel-sorts'
import type { Tx } from '../../db/database'
import { signUpForm } from '../entrance/sign-up'
import { formsTold } from '../people/applications'
import { contentOf } from '../versions/versions'
import type { Snapshot } from '../editions/snapshot'
import { panelOf } from './member-panels'
import { slotsOf } from './slots'
import type { Slots } from './slots'

export interface ViewAsk {
  snapshot: Snapshot
  decider: CompiledDecider
  db: Tx
  path: string
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
  const { snapshot, decider, path, base, walked, done, back } = ask
  const slots = slotsOf(decider, snapshot.firms)
  const source = sourceOf(ask, slots)
  return { ...(await assemble({ rules: snapshot.rules, decider, source, path, base, walked, done, back })), slots }
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
    words: snapshot.settings.words,
    look: snapshot.settings.look,
    ...(spoken ? { spoken } : {}),
    signUp: signUpForm({ book: snapshot.rules.rulebook, settings: snapshot.settings }),
    forms: () => formsTold(db, snapshot.rules.rulebook),
  }
}

/** How the answer may be kept: by everybody when nobody's facts were looked at, by the visitor's own browser otherwise, always asked again. */
export function cacheHeaders(
  { view, facts, redirect, personal: own }: Assembled,
  headerOf: Partial<Record<FactGroup, string>>,
): Record<string, string> {
  if (redirect || own || view.status !== 200 || view.walked)
    return { 'cache-control': 'private, no-store', vary: 'Cookie' }
  return keepingFor(facts, headerOf)
}

/** The same for what is sent as it is, by what was looked at to decide whether it is sent. */
export function keepingFor(
  facts: ReadonlySet<FactGroup>,
  headerOf: Partial<Record<FactGroup, string>>,
): Record<string, string> {
  const personal = [...facts].filter(fact => fact !== 'clock' && fact !== 'query')
  const vary = [...new Set(personal.map(fact => headerOf[fact]).filter(Boolean))].sort().join(', ')
  return {
    'cache-control': personal.length ? 'private, no-cache' : 'public, max-age=0, must-revalidate',
    ...(vary ? { vary } : {}),
  }
}

/** The view key: equal for every visitor who is sent the same page. */
export function viewKey(view: PageView): string {
  return createHash('sha256')
    .update(JSON.stringify({ ...view, words: view.words.id }))
    .digest('base64url')
    .slice(0, 32)
}
