/** The shape of a condition: one key, one meaning. What each means is in `leaves/`. */
import { z } from 'zod'
import {
  choices,
  count,
  country,
  date,
  device,
  duration,
  host,
  language,
  minor,
  network,
  oneOfKeys,
  reference,
  region,
  report,
  shape,
  time,
  weekday,
  within,
  isObject,
} from '../rulebook/shapes'
import { kinds } from '../rulebook/kinds'
import type { Kind } from '../rulebook/kinds'

const one = <T>(keys: Record<string, z.ZodType>) => oneOfKeys<T>(() => keys)
const list = <S extends z.ZodType>(each: S) => z.strictObject({ in: choices(each) })
const value = z.union([z.string(), z.number(), z.boolean()])
export type FactValue = z.infer<typeof value>

/** Comparisons of a fact or a record's field; all that are given must hold. */
export interface Comparison {
  is?: FactValue
  in?: FactValue[]
  atLeast?: FactValue
  atMost?: FactValue
}
const comparison = {
  is: value.optional(),
  in: choices(value).optional(),
  atLeast: value.optional(),
  atMost: value.optional(),
}

const range = z.strictObject({ from: date.optional(), until: date.optional() }).check(sink => {
  const { from, until } = sink.value as { from?: unknown; until?: unknown }
  if (from === undefined && until === undefined) report(sink, 'one-key', [], 'From, until or both.')
  if (typeof from === 'string' && typeof until === 'string' && from > until)
    report(sink, 'ends-before-start', ['until'])
})

const hours = z.strictObject({ from: time, until: time }).check(sink => {
  const { from, until } = sink.value as { from: string; until: string }
  if (from === until) report(sink, 'ends-at-start', ['until'])
})

/** What stands behind the key of each leaf. Order is the order suggestions list them in. */
export const leafShapes = {
  everyone: z.literal(true),
  nobody: z.literal(true),
  audience: reference,
  signedIn: z.boolean(),
  level: one<{ atLeast: string } | { atMost: string } | { in: string[] }>({
    atLeast: reference,
    atMost: reference,
    in: choices(reference),
  }),
  role: one<{ anyOf: string[] } | { allOf: string[] }>({ anyOf: choices(reference), allOf: choices(reference) }),
  permission: reference,
  person: list(reference),
  firm: list(reference),
  bought: one<{ product: string } | { category: string }>({ product: reference, category: reference }),
  orders: z.strictObject({ atLeast: count }),
  spent: z.strictObject({ atLeast: minor }),
  memberFor: z.strictObject({ atLeast: duration, level: reference.optional() }),
  basket: one<{ product: string } | { category: string }>({ product: reference, category: reference }),
  opens: one<Partial<Record<Kind, string>>>(Object.fromEntries(kinds.map(kind => [kind, reference]))),
  date: range,
  time: hours,
  weekday: list(weekday),
  device: list(device),
  browser: list(reference),
  country: list(country),
  region: list(region),
  language: list(language),
  address: list(network),
  referrer: list(host),
  query: z.strictObject({ name: reference, in: choices(z.string()).optional() }),
  fact: z.strictObject({ name: reference, ...comparison }),
  mine: z.literal(true),
  assigned: reference,
  record: z.strictObject({ field: reference, ...comparison }).check(sink => {
    if (Object.keys(sink.value as object).length < 2) report(sink, 'one-key', [], 'Is, in, atLeast or atMost.')
  }),
} as const

export type LeafKey = keyof typeof leafShapes
export type LeafArgument<K extends LeafKey> = z.infer<(typeof leafShapes)[K]>
export type Leaf = { [K in LeafKey]: { [P in K]: LeafArgument<K> } }[LeafKey]
export type Condition = { all: Condition[] } | { any: Condition[] } | { not: Condition } | Leaf

const joins: Record<string, z.ZodType> = {
  all: z.lazy(() => z.array(condition)),
  any: z.lazy(() => z.array(condition)),
  not: z.lazy(() => condition),
}

const depthLimit = 60

/** A condition. Nesting deeper than 60 is refused, so that nothing that walks one can run out of stack. */
export const condition: z.ZodType<Condition> = shape<Condition>(sink => {
  if (depthOf(sink.value) > depthLimit) return report(sink, 'bad-value', [], `Nested at most ${depthLimit} deep.`)
  within(
    sink,
    oneOfKeys(() => ({ ...joins, ...leafShapes })),
    sink.value,
    [],
  )
})

function depthOf(root: unknown): number {
  let deepest = 0
  const open: [unknown, number][] = [[root, 1]]
  while (open.length && deepest <= depthLimit) {
    const [node, depth] = open.pop()!
    deepest = Math.max(deepest, depth)
    if (!isObject(node)) continue
    const parts = [node.all, node.any].flatMap(part => (Array.isArray(part) ? part : []))
    for (const part of [...parts, node.not]) if (isObject(part)) open.push([part, depth + 1])
  }
  return deepest
}

/** The only key of a condition, and what stands behind it. */
export function keyOf(node: Condition): [LeafKey | 'all' | 'any' | 'not', unknown] {
  const key = Object.keys(node)[0] as LeafKey
  return [key, (node as Record<string, unknown>)[key]]
}

export type Visit = (key: LeafKey, argument: never, path: (string | number)[], negated: boolean) => void

/** Walks every leaf with its path and whether it stands under an odd number of `not`s. */
export function eachLeaf(node: Condition, visit: Visit, path: (string | number)[] = [], negated = false): void {
  const [key, argument] = keyOf(node)
  if (key === 'not') return eachLeaf(argument as Condition, visit, [...path, 'not'], !negated)
  if (key === 'all' || key === 'any')
    return (argument as Condition[]).forEach((part, i) => eachLeaf(part, visit, [...path, key, i], negated))
  visit(key, argument as never, path, negated)
}

/** Leaves read in the visitor's favour when a master key is used. */
export const heldLeaves: ReadonlySet<string> = new Set([
  'level',
  'role',
  'permission',
  'person',
  'firm',
  'bought',
  'orders',
  'spent',
  'memberFor',
  'fact',
  'mine',
  'assigned',
])
/** Leaves that look at the record the gate stands before. */
export const recordLeaves: ReadonlySet<string> = new Set(['mine', 'assigned', 'record'])
