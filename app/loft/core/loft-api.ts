import type { z } from 'zod'
import type { ActionName, Actions } from '~~/server/actions/actions'
import type { Saved } from '~~/server/services/editions/saved-answer'
import type { PeopleQuery } from '~~/server/services/people/people'
import { askedAsRole } from './seen-as-role'

/** A refusal of the server: its code, its sentence, and what else it told. */
export class Refusal extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly extra: Record<string, unknown>,
  ) {
    super(message)
  }
}

/** What an answer becomes on the way: dates are texts. */
export type Jsonified<T> = T extends Date
  ? string
  : T extends (infer E)[]
    ? Jsonified<E>[]
    : T extends object
      ? { [K in keyof T]: Jsonified<T[K]> }
      : T

type ParamOf<N extends string> = N extends `${string}:${infer P}/${infer Rest}`
  ? P | ParamOf<Rest>
  : N extends `${string}:${infer P}`
    ? P
    : never
type InputOf<N extends ActionName> = Actions[N] extends { input?: infer S }
  ? S extends z.ZodType
    ? z.input<S>
    : undefined
  : undefined

/** What an action is given: what its address leaves open, and its input, of looks as the query. */
export type LoftAsk<N extends ActionName> = ([ParamOf<N>] extends [never]
  ? unknown
  : { params: Record<ParamOf<N>, string | number> }) &
  ([InputOf<N>] extends [undefined]
    ? unknown
    : N extends `GET ${string}`
      ? { query?: InputOf<N> }
      : { body: InputOf<N> })
/** What it answers. */
export type LoftAnswer<N extends ActionName> = Actions[N] extends { run(ask: never): infer R }
  ? Jsonified<Awaited<R>>
  : never

type Loose = { params?: Record<string, string | number>; query?: Record<string, unknown>; body?: unknown }

/** The method and address of an action with what its address leaves open, below /api/loft. */
function addressOf(name: ActionName, { params = {}, query = {} }: Loose = {}): { method: string; path: string } {
  const [method, pattern] = name.split(' ') as [string, string]
  const path = pattern.replaceAll(/:(\w+)/g, (_, param: string) => encodeURIComponent(params[param]!))
  const asked = new URLSearchParams(
    Object.entries(query).flatMap(([key, value]) => (value === undefined ? [] : [[key, String(value)]])),
  ).toString()
  return { method, path: asked ? `${path}?${asked}` : path }
}

/** What the console starts from, and one change of its draft. */
export type LoftStart = LoftAnswer<'GET start'>
export type DraftChange = LoftStart['changes'][number]
export type LookedThing = Omit<LoftAnswer<'GET things/:kind/:key'>, 'inside'>
export type SavedChanges = Jsonified<Saved>

/** One of several steps that are done as one. */
export type DraftStep = LoftAsk<'POST draft/steps'>['body']['steps'][number]

/** Actions that change the draft: each answers what it changed. */
export type DraftAction = {
  [N in ActionName]: LoftAnswer<N> extends SavedChanges ? N : never
}[ActionName]

/** Persons and firms by the beginning of a name. */
export const askNames = (text: string) => loftApi('GET names', { query: { q: text.trim().slice(0, 100) } })

/** People by a query, a page at a time. */
export const askPeople = (query: PeopleQuery) => loftApi('GET people', { query: { q: JSON.stringify(query) } })

/**
 * Calls an action of the console by its declared name, such as `PUT firms/:id`. Throws `Refusal` for a
 * problem, with code `offline` when nothing answered.
 */
export async function loftApi<N extends ActionName>(
  name: N,
  ...[asked]: object extends LoftAsk<N> ? [asked?: LoftAsk<N>] : [asked: LoftAsk<N>]
): Promise<LoftAnswer<N>> {
  const text = await loftText(name, asked as Loose)
  return (text === undefined ? undefined : readText(text)) as LoftAnswer<N>
}

const readText = (text: string): unknown => {
  try {
    return JSON.parse(text)
  } catch {
    return {}
  }
}

/** The same, as the text of its JSON, for whoever hands it on; undefined for an answer of nothing. */
export async function loftText(name: ActionName, asked?: Loose): Promise<string | undefined> {
  const { method, path } = addressOf(name, asked)
  const body = asked?.body
  return answerTo(path, method, body === undefined ? undefined : { type: 'application/json', of: JSON.stringify(body) })
}

/** Sends a file as it is to an action that reads one. */
export async function loftFile<N extends ActionName>(
  name: N,
  file: Blob,
  query: Record<string, unknown> = {},
): Promise<LoftAnswer<N>> {
  const { method, path } = addressOf(name, { query })
  return readText((await answerTo(path, method, { type: 'text/csv', of: file })) ?? '') as LoftAnswer<N>
}

async function answerTo(
  path: string,
  method: string,
  body?: { type: string; of: BodyInit },
): Promise<string | undefined> {
  const answer = await fetch(`/api/loft/${path}`, {
    method,
    headers: { ...askedAsRole(), ...(body ? { 'content-type': body.type } : {}) },
    ...(body ? { body: body.of } : {}),
  }).catch(() => null)
  if (!answer) throw new Refusal('offline', 'The server does not answer. What you typed is still here; try again.', {})
  if (answer.status === 204) return undefined
  const text = await answer.text().catch(() => '{}')
  if (answer.ok) return text
  const told = readText(text) as Record<string, unknown>
  const code =
    String(told.type ?? '')
      .split(':')
      .at(-1) ?? ''
  if (code === 'sign-in-needed')
    await navigateTo(`/sign-in?back=${encodeURIComponent(location.pathname)}`, { external: true })
  throw new Refusal(code, String(told.detail ?? told.title ?? 'That did not work.'), told)
}
