/** Screens of the console, mounted on their own in a made-up document, with a server as small as the test needs. */
import { siteLook } from '../../core/site/look'
import { flushPromises, mount } from '@vue/test-utils'
import type { VueWrapper } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { onTestFinished, vi } from 'vitest'
import type { Component } from 'vue'
import { defineComponent, h } from 'vue'
import { useLoft } from '~/loft/core/loft'
import { forgetUnread } from '~/loft/core/reading'
import type { ActionName } from '../../server/actions/actions'
import type { DraftChange, LoftAnswer, LoftStart, SavedChanges } from '../../app/loft/core/loft-api'
import type { SentVersion } from '~~/server/services/console/start'
import { nameOf } from '~~/core/editions/contents'
import type { Version } from '~~/core/editions/contents'
import { entriesOf } from '~~/core/rulebook/rulebook'
import { wexlowRulebook } from '~~/demo/wexlow/rulebook'
import type { Rulebook } from '~~/core/rulebook/rulebook'
import './core-here'
import { led, route } from './nuxt-names'
import { wexlowSite, wexlowVersions } from '../support/wexlow-site'

// What a place loads when it is first looked at is there at once.
import.meta.glob('../../app/loft/**/*.vue', { eager: true })

const NuxtLink = defineComponent({
  props: { to: { type: [String, Object], default: '' } },
  setup:
    (props, { slots }) =>
    () =>
      h(
        'a',
        { href: typeof props.to === 'string' ? props.to : (props.to as { path: string }).path },
        slots.default?.(),
      ),
})

export interface Call {
  method: string
  path: string
  body: unknown
}
/** What the route answers, what says so when it is asked, or how it refuses. */
type Answered<N extends ActionName> = LoftAnswer<N> | Error | ((call: Call) => LoftAnswer<N> | Error)
type Named<N extends string> = N extends `${infer A}:${string}/${infer Rest}`
  ? `${A}${string}/${Named<Rest>}`
  : N extends `${infer A}:${string}`
    ? `${A}${string}`
    : N
/** Actions whose addresses are no other's. */
type Plain = { [N in ActionName]: N extends `${string}:${string}` ? never : N }[ActionName]
type Open = {
  [N in ActionName]: N extends Plain ? never : Extract<Plain, Named<N>> extends never ? N : never
}[ActionName]
/** Answers by `METHOD path` without the question mark and what follows, as the routes give them. */
export type Answers = { [N in Plain]?: Answered<N> } & { [N in Open as Named<N>]?: Answered<N> } & Record<
    string,
    unknown
  >

export interface Screen {
  wrapper: VueWrapper
  loft: ReturnType<typeof useLoft>
  calls: Call[]
  answers: Answers
  /** The element with this role and accessible name, or with this name alone. */
  find(name: string): HTMLElement
  text(): string
  press(name: string): Promise<void>
  type(name: string, value: string): Promise<void>
  key(element: HTMLElement, key: string, more?: KeyboardEventInit): Promise<void>
}

export type StartChanges = Partial<LoftStart> & {
  /** The rules of the draft; what differs from the live ones is its changes. */
  draft?: Rulebook
}

const versionsOf = (book: Rulebook): Version[] => entriesOf(book).map((entry, i) => ({ ...entry, position: i + 1 }))
const stored = (one: Version): SentVersion => ({ ...one, id: 1, revision: 1 })

/** The changes that make `book` of what is live. */
export function changesTo(book: Rulebook, live: Rulebook): LoftStart['changes'] {
  const before = new Map(versionsOf(live).map(one => [nameOf(one), one]))
  const after = new Map(versionsOf(book).map(one => [nameOf(one), one]))
  return [...new Set([...before.keys(), ...after.keys()])].flatMap(name => {
    const [then, now] = [before.get(name), after.get(name)]
    if (JSON.stringify(then?.body) === JSON.stringify(now?.body)) return []
    const { kind, key } = (now ?? then)!
    return [
      {
        kind,
        key,
        id: 2,
        revision: 1,
        position: then?.position ?? now!.position,
        before: then?.body ?? null,
        after: now?.body ?? null,
        changedBy: 'Ines Varga',
        changedAt: '2026-11-24T09:05:00Z',
      },
    ]
  })
}

/** What a keeper of the demo's rules is told by the server, with what the test changes of it. */
export function startData(
  { draft, ...changes }: StartChanges = {},
  book: Rulebook = structuredClone(wexlowRulebook),
): LoftStart {
  const { name, timezone, currency, locale } = wexlowSite
  return {
    me: { id: 'p-ines', name: 'Ines Varga', masterKey: true, rules: [], roles: ['keeper'] },
    edition: 1,
    draftVersion: 0,
    damaged: [],
    frame: { name, timezone, currency, locale },
    versions: [...versionsOf(book), ...wexlowVersions].map(stored),
    changes: draft ? changesTo(draft, book) : [],
    named: { people: [], firms: [] },
    firstSteps: null,
    partsOff: [],
    words: { offered: [], byBrowser: true, said: {} },
    look: siteLook.parse({}),
    signUp: { mode: 'open', facts: [] },
    forms: [],
    waiting: 0,
    ...changes,
  }
}

function answerOf(answers: Answers, call: Call): unknown {
  const answer = answers[`${call.method} ${call.path.split('?')[0]!}`]
  return typeof answer === 'function' ? (answer as (call: Call) => unknown)(call) : answer
}

/** What a change of the draft answers, where a test says nothing of it: an entry is kept as it was sent. */
function savedChange({ method, path, body }: Call, data: LoftStart): SavedChanges | undefined {
  if (method === 'GET' || !/^(entries|things|landings|draft)\//.test(path)) return undefined
  const [kind, key] = path.split('/').slice(1).map(decodeURIComponent)
  if (!path.startsWith('entries/') || !kind || !key) return { draftVersion: 0, step: null, changed: [] }
  const live = data.versions.find(one => one.kind === kind && one.key === key)
  const change: DraftChange = {
    kind: kind as DraftChange['kind'],
    key,
    id: 2,
    revision: 1,
    position: live?.position ?? data.versions.length + 1,
    before: live?.body ?? null,
    after: (body as { body?: DraftChange['after'] } | undefined)?.body ?? null,
    changedBy: data.me.name,
    changedAt: '2026-11-24T09:06:00Z',
  }
  return { draftVersion: 0, step: null, changed: [{ kind: change.kind, key, change }] }
}

/** The server's side: every call is noted, and answered with JSON, 204 where nothing is said, or a problem. */
function serve(answers: Answers, calls: Call[], data: LoftStart): void {
  vi.stubGlobal('fetch', async (path: string, { method = 'GET', body }: RequestInit = {}) => {
    const call = {
      method,
      path: path.replace('/api/loft/', ''),
      body: typeof body === 'string' ? (JSON.parse(body) as unknown) : body,
    }
    calls.push(call)
    // What is read and no test speaks of is not there.
    const missing = method === 'GET' ? refusal('not-found', 'There is no such thing.') : undefined
    const answer = answerOf(answers, call) ?? savedChange(call, data) ?? missing
    if (answer instanceof Error)
      return new Response(
        JSON.stringify({
          type: `urn:bravik:problem:${answer.name}`,
          detail: answer.message,
          ...(answer as { extra?: object }).extra,
        }),
        { status: 409 },
      )
    return answer === undefined
      ? new Response(null, { status: 204 })
      : new Response(JSON.stringify(answer), { status: 200 })
  })
}

/** Clocks stand still until they are moved: for lists that wait until no more is typed. Ends with the test. */
export function holdTimers(): { pass(ms: number): Promise<void> } {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
  onTestFinished(() => void vi.useRealTimers())
  return {
    pass: async ms => {
      await vi.advanceTimersByTimeAsync(ms)
      await flushPromises()
    },
  }
}

type Listed = LoftAnswer<'GET people'>['people'][number]
/** Somebody as the list of people tells of them. */
export const listed = (id: string, name: string, more: Partial<Listed> = {}): Listed => ({
  id,
  name,
  email: `${id}@wexlow.example`,
  createdAt: '2026-11-20T09:30:00Z',
  standing: 'active',
  memberships: [],
  roles: [],
  firm: null,
  ...more,
})
/** The first of a list of people, all of them. */
export const everybody = (...people: Listed[]): LoftAnswer<'GET people'> => ({
  people,
  count: people.length,
  more: false,
})

export const refusal = (code: string, message: string) => Object.assign(new Error(message), { name: code })

let mounted: VueWrapper | null = null
let earlier: ReturnType<typeof useLoft> | null = null

export interface Mounting {
  props?: Record<string, unknown>
  answers?: Answers
  data?: LoftStart
  at?: Partial<typeof route>
}

export async function mountScreen(
  component: Component,
  { props = {}, answers = {}, data = startData(), at = {} }: Mounting = {},
): Promise<Screen> {
  // What an earlier test typed and did not wait for is its own.
  await earlier?.settled()
  mounted?.unmount()
  forgetUnread()
  document.body.innerHTML = ''
  led.length = 0
  Object.assign(route, { path: '/loft', query: {}, params: {}, ...at })
  const calls: Call[] = []
  const told: Answers = {
    'GET start': () => structuredClone(data),
    'GET names': { people: [], firms: [] },
    'GET search': [],
    'GET firms': [],
    ...answers,
  }
  serve(told, calls, data)
  const pinia = createPinia()
  setActivePinia(pinia)
  const loft = useLoft()
  await loft.load()
  calls.length = 0
  // Lists that show only what fits take a height from the document, which has none here.
  vi.spyOn(HTMLElement.prototype, 'clientHeight', 'get').mockReturnValue(2000)
  vi.spyOn(HTMLElement.prototype, 'clientWidth', 'get').mockReturnValue(1200)
  const wrapper = mount(component, {
    props,
    attachTo: document.body,
    global: { plugins: [pinia], components: { NuxtLink }, mocks: { $route: route } },
  })
  mounted = wrapper
  earlier = loft
  await flushPromises()
  await flushPromises()
  return {
    wrapper,
    loft,
    calls,
    answers: told,
    find,
    text: () => document.body.textContent!.replaceAll(/\s+/g, ' ').trim(),
    press,
    type,
    key,
  }
}

const calledOf = (element: Element) =>
  (
    element.getAttribute('aria-label') ??
    (element.closest('label')?.textContent || element.textContent) ??
    element.getAttribute('placeholder') ??
    ''
  )
    .replaceAll(/\s+/g, ' ')
    .trim()

function find(name: string): HTMLElement {
  // What is pressed or typed into comes before what only holds it.
  const all = ['button, a, input, select, textarea', '[role]'].flatMap(what => [
    ...document.querySelectorAll<HTMLElement>(what),
  ])
  const found = all.find(one => calledOf(one) === name) ?? all.find(one => calledOf(one).startsWith(name))
  if (!found) throw new Error(`Nothing is called “${name}”. There is: ${all.map(calledOf).filter(Boolean).join(' | ')}`)
  return found
}

async function press(name: string): Promise<void> {
  const element = find(name)
  element.click()
  await flushPromises()
}

/** Types into a field, picks in a list, or ticks: what it takes depends on what is found. */
async function type(name: string, value: string): Promise<void> {
  const field = find(name) as HTMLInputElement
  field.value = value
  for (const event of ['input', 'change']) field.dispatchEvent(new Event(event, { bubbles: true }))
  await flushPromises()
}

async function key(element: HTMLElement, pressed: string, more: KeyboardEventInit = {}): Promise<void> {
  element.dispatchEvent(new KeyboardEvent('keydown', { key: pressed, bubbles: true, cancelable: true, ...more }))
  await flushPromises()
}
