/**
 * Whether every possible visitor gets exactly one of some parts: tried on one visitor for each piece the conditions
 * involved can tell apart. Not a sample: what holds for these holds for all.
 */
import { eachLeaf } from '../conditions/condition'
import type { Condition } from '../conditions/condition'
import { leafOf } from '../conditions/leaves/leaves'
import { only } from '../conditions/leaves/shapes'
import { noteQuery } from '../conditions/leaves/query'
import { chainOf, gatesOf } from '../gates/chain'
import { CompiledDecider } from '../gates/compiled-decider'
import type { CompiledRules } from '../gates/compiled'
import { rightBit } from '../gates/verdict'
import { resourceKey } from '../kinds/kinds'
import type { Kind, Resource, Right } from '../kinds/kinds'
import { Space } from '../visitor/space/space'
import type { Visitor } from '../visitor/visitor'

export const mostPieces = 100_000

export interface CoverageAsk {
  /** What the parts stand in: whoever it does not open to is nobody's concern here. */
  place: Resource | null
  parts: readonly Resource[]
}
export type Coverage =
  /** Too many pieces, or something was looked at that has none. */
  | { state: 'undecided'; pieces: number | null }
  | {
      state: 'decided'
      pieces: number
      /** Somebody who gets none. */
      gap?: Visitor
      /** Somebody to whom two open, and which. */
      overlap?: { visitor: Visitor; parts: [string, string] }
      /** Parts that are nobody's first. */
      nobodys: string[]
    }

/** Cuts a space by every condition that decides whether these open; `also`: or have another right; and by these conditions. */
export function spaceOf(
  rules: CompiledRules,
  resources: readonly Resource[],
  nowMs: number,
  also: readonly Right[] = [],
  conditions: readonly Condition[] = [],
): Space {
  const space = new Space(rules.holdings, nowMs)
  const seen = new Set<string>()
  const look = (condition: Condition): void =>
    eachLeaf(condition, (key, argument) => {
      if (key === 'audience') {
        const is = rules.audiences.get(argument)
        if (is && !seen.has(`audience ${String(argument)}`)) {
          seen.add(`audience ${String(argument)}`)
          look(is)
        }
        return
      }
      if (key === 'opens') {
        const [kind, id] = only(argument)
        return follow({ kind: kind as Kind, id })
      }
      const cut = leafOf(key)?.cut
      if (cut) cut(argument, space)
      else space.undecidable = true
    })
  const follow = (to: Resource): void => {
    const name = resourceKey(to.kind, to.id)
    if (seen.has(name)) return
    seen.add(name)
    const chain = chainOf(to, rules.gates, rules.index)
    if (!chain) return
    for (const guard of chain.guards)
      for (const [name, value] of guard.pattern.pairs) noteQuery(space, name, value === undefined ? [] : [value])
    for (const { gate } of gatesOf(chain))
      for (const right of ['open', ...also] as const) if (gate[right]) look(gate[right])
    if (chain.standsIn && chain.standsIn !== 'open') follow(chain.standsIn)
  }
  resources.forEach(follow)
  conditions.forEach(one => look(one))
  return space
}

export function coverageOf(rules: CompiledRules, { place, parts }: CoverageAsk, nowMs: number): Coverage {
  const space = spaceOf(rules, [...(place ? [place] : []), ...parts], nowMs)
  const pieces = space.count
  if (space.undecidable || pieces > mostPieces) return { state: 'undecided', pieces: space.undecidable ? null : pieces }
  const found: Extract<Coverage, { state: 'decided' }> = { state: 'decided', pieces, nobodys: [] }
  const firsts = new Set<string>()
  for (const visitor of space.visitors()) {
    const decider = new CompiledDecider(rules, visitor, nowMs)
    const opens = (resource: Resource) => (decider.bits(resource) & rightBit.open) !== 0
    if (place && !opens(place)) continue
    const got = parts.filter(opens)
    if (got[0]) firsts.add(got[0].id)
    else found.gap ??= visitor
    if (got.length > 1) found.overlap ??= { visitor, parts: [got[0]!.id, got[1]!.id] }
  }
  found.nobodys = parts.map(one => one.id).filter(id => !firsts.has(id))
  return found
}
