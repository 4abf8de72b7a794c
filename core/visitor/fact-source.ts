/**
 * Where a fact comes from. Without a source it is a field of the person's profile. One from the request anybody can
 * write; one from a service is what that answers, and unknown as long as it does not. What cannot be read is absent,
 * and absent refuses.
 */
import { z } from 'zod'
import { id, text } from '../shapes'
import { pathOf } from '../pointer'
import type { FactGroup } from './fact-group'
import { fitsType } from './fact-type'
import { foldedVatNumber, isVatNumber } from './vat-number'

/** Names of parameters and cookies (RFC 6265: a token). */
const name = text('bad-value', value => /^[A-Za-z0-9_.~-]{1,80}$/.test(value), 'Letters, digits, dots and dashes.')
/** Under the service's own address; `{email}` and the like are filled in. */
const servicePath = text(
  'bad-value',
  value => value.length <= 300 && /^\/[^\s\\#]*$/.test(value) && !value.startsWith('//'),
  'A path such as /wheels?of={email}.',
)
const jsonPointer = text(
  'bad-value',
  value => value.length <= 200 && (value === '' || value.startsWith('/')),
  'A JSON Pointer such as /wheels (RFC 6901).',
)

export const factSource = z.union([
  z.strictObject({ query: name }),
  z.strictObject({ cookie: name }),
  z.strictObject({
    service: id,
    path: servicePath,
    /** Where in the answer it stands. */ at: jsonPointer,
    /** Milliseconds it may take. Default: `usualWithinMs`. */ withinMs: z.int().min(50).max(5000).optional(),
    /** Seconds an answer is kept. Default: `usualKeepSeconds`. */ keepSeconds: z.int().min(0).max(86_400).optional(),
  }),
])
export type FactSource = z.infer<typeof factSource>
export type ServiceSource = Extract<FactSource, { service: string }>
export const usualWithinMs = 800
export const usualKeepSeconds = 60

interface SourcedFact {
  id: string
  type: string
  choices?: readonly string[] | undefined
  from?: FactSource | undefined
}
export type FactValue = string | number | boolean

const flags: Record<string, boolean> = {
  true: true,
  yes: true,
  on: true,
  1: true,
  false: false,
  no: false,
  off: false,
  0: false,
}

/** A value as the fact's type has it: texts are read, anything else must fit as it is. Undefined where it does not. */
export function factValue(
  { type, choices }: Pick<SourcedFact, 'type' | 'choices'>,
  given: unknown,
): FactValue | undefined {
  const read =
    typeof given !== 'string'
      ? given
      : type === 'number'
        ? given.trim() === ''
          ? undefined
          : Number(given)
        : type === 'flag'
          ? flags[given.trim().toLowerCase()]
          : type === 'vatNumber'
            ? foldedVatNumber(given)
            : given
  if (!fitsType(read, type)) return undefined
  if (type === 'vatNumber' && !isVatNumber(read as string)) return undefined
  if (type === 'choice' && !choices?.includes(read as string)) return undefined
  return read as FactValue
}

/** The longest value taken from a request or an answer, in characters. */
const mostOfValue = 1000

/** What the request says of facts that come from it. */
export function factsOfRequest(
  facts: readonly SourcedFact[],
  request: { query: Readonly<Record<string, string>>; cookie(name: string): string | undefined },
): Record<string, FactValue> {
  const found: Record<string, FactValue> = {}
  for (const fact of facts) {
    const { from } = fact
    if (!from || 'service' in from) continue
    const text =
      'query' in from
        ? Object.hasOwn(request.query, from.query)
          ? request.query[from.query]
          : undefined
        : request.cookie(from.cookie)
    const value = text !== undefined && text.length <= mostOfValue ? factValue(fact, text) : undefined
    if (value !== undefined) found[fact.id] = value
  }
  return found
}

/** Of facts kept with a person those that come from their profile: what stands there under another's id counts for nothing. */
export const ownFacts = (facts: readonly SourcedFact[], kept: Readonly<Record<string, unknown>> = {}) => {
  const sourced = new Set(facts.filter(one => one.from).map(one => one.id))
  return sourced.size ? Object.fromEntries(Object.entries(kept).filter(([id]) => !sourced.has(id))) : kept
}

/** What stands at a JSON Pointer (RFC 6901) of an answer; undefined where there is nothing. */
export function valueAt(document: unknown, pointer: string): unknown {
  let at = document
  for (const key of pathOf(pointer)) {
    if (typeof at !== 'object' || at === null || !Object.hasOwn(at, key)) return undefined
    at = (at as Record<string, unknown>)[key]
  }
  return at
}

/** What a path may be filled in with, and whether it is known of somebody who is not signed in. */
export const pathPlaces = ['person', 'email', 'firm', 'country', 'language'] as const
export type PathPlace = (typeof pathPlaces)[number]

/** The path with its places filled in, escaped; null where one of them is not known. */
export function filledPath(path: string, known: Partial<Record<PathPlace, string | undefined>>): string | null {
  let missing = false
  const filled = path.replace(/\{(\w+)\}/g, (_, place: string) => {
    const value = Object.hasOwn(known, place) ? known[place as PathPlace] : undefined
    if (!value) missing = true
    return encodeURIComponent(value ?? '')
  })
  return missing ? null : filled
}

/** What each place of a path is known from; whose it is, is noted of every fact. */
const groupOf: Record<PathPlace, FactGroup> = {
  person: 'person',
  email: 'person',
  firm: 'person',
  country: 'country',
  language: 'language',
}

/** Parts of a request a fact is read from, or asked for by: what an answer may be kept by. */
export function groupsOf(from: FactSource | undefined): FactGroup[] {
  if (!from) return ['person']
  if ('query' in from) return ['query']
  if ('cookie' in from) return ['person']
  return pathPlaces.filter(place => from.path.includes(`{${place}}`)).map(place => groupOf[place])
}
