/** The shape of a condition: one key, one meaning. What each leaf means is in `leaves/`. */
import { z } from 'zod'
import { isObject, oneOfKeys, report, shape, within } from '../shapes'
import { leaves } from './leaves/leaves'
import type { Leaf, LeafArgument, LeafKey } from './leaves/leaves'

export type { Comparison, FactValue } from './leaves/comparison'
export type { Leaf, LeafArgument, LeafKey }

const leafShapes: Record<string, z.ZodType> = Object.fromEntries(
  Object.entries(leaves).map(([key, one]) => [key, one.shape]),
)

export type Condition = { all: Condition[] } | { any: Condition[] } | { not: Condition } | Leaf

const joins: Record<string, z.ZodType> = {
  all: z.lazy(() => z.array(condition)),
  any: z.lazy(() => z.array(condition)),
  not: z.lazy(() => condition),
}

const depthLimit = 60
/** Leaves and joins of one condition. */
const partsLimit = 500

/**
 * A condition. Nesting deeper than 60 is refused, so that nothing that walks one can run out of stack, and so are more than
 * 500 parts: some of what is asked of rules weighs each against each.
 */
export const condition: z.ZodType<Condition> = shape<Condition>(sink => {
  const { deepest, parts } = sizeOf(sink.value)
  if (deepest > depthLimit) return report(sink, 'bad-value', [], `Nested at most ${depthLimit} deep.`)
  if (parts > partsLimit) return report(sink, 'bad-value', [], `At most ${partsLimit} parts.`)
  within(
    sink,
    oneOfKeys(() => ({ ...joins, ...leafShapes })),
    sink.value,
    [],
  )
})

/** Counted no further than the limits. */
function sizeOf(root: unknown): { deepest: number; parts: number } {
  let [deepest, counted] = [0, 0]
  const open: [unknown, number][] = [[root, 1]]
  while (open.length && deepest <= depthLimit && counted <= partsLimit) {
    const [node, depth] = open.pop()!
    deepest = Math.max(deepest, depth)
    counted++
    if (!isObject(node)) continue
    const parts = [node.all, node.any].flatMap(part => (Array.isArray(part) ? part : []))
    for (const part of [...parts, node.not]) if (isObject(part)) open.push([part, depth + 1])
  }
  return { deepest, parts: counted }
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
