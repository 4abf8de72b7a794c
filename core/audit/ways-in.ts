/** What somebody who is refused lacks: the shortest ways to be let in, each tried on the rules themselves. */
import { eachLeaf } from '../conditions/condition'
import type { Condition } from '../conditions/condition'
import { leafOf } from '../conditions/leaves/leaves'
import { only } from '../conditions/leaves/shapes'
import { chainOf, gatesOf } from '../gates/chain'
import { CompiledDecider } from '../gates/compiled-decider'
import type { CompiledRules } from '../gates/compiled'
import { rightBit } from '../gates/verdict'
import { resourceKey } from '../kinds/kinds'
import type { Kind, Resource, Right } from '../kinds/kinds'
import { asIfAll, asIfKeyOf, asIfKeys } from '../visitor/as-if'
import type { AsIf } from '../visitor/as-if'
import { Asker } from '../visitor/asker'
import type { Visitor } from '../visitor/visitor'

export interface WaysInLimits {
  /** What it is a way to. Default: to open. */ right?: Right
  /** Whether a part may be looked at as so. Default: any. */
  step?(part: AsIf): boolean
  /** As many are told. Default: 4. */
  mostWays?: number
  /** So that a site with very many rules is answered soon: what is shortest is tried first. Default: 1500. */
  mostTries?: number
}
/** More things at once are nobody's next step. */
const mostParts = 3
const mostLooked = 20_000

/**
 * The ways in, shortest first, each a list of what would have to be so besides; empty where it opens
 * already, or where nothing rules look at would do. Staff roles are no way in: nobody is given one to read a page.
 */
export function waysIn(
  rules: CompiledRules,
  visitor: Visitor,
  resource: Resource,
  nowMs: number,
  { right = 'open', step = () => true, mostWays = 4, mostTries = 1500 }: WaysInLimits = {},
): AsIf[][] {
  const opens = (as: Visitor) => (new CompiledDecider(rules, as, nowMs).bits(resource) & rightBit[right]) !== 0
  if (opens(visitor)) return []
  const clock = { nowMs, timezone: rules.index.site.timezone }
  const steps = stepsFrom(rules, visitor, resource, { nowMs, right }).filter(way => way.every(step))
  const rankOf = (part: AsIf) => ('level' in part ? (rules.holdings.ranks.get(part.level) ?? 0) : null)
  const isBelow = (part: AsIf, way: readonly AsIf[]) =>
    rankOf(part) !== null && way.some(one => rankOf(one) !== null && rankOf(one)! > rankOf(part)!)
  const found: AsIf[][] = []
  let [tries, looked] = [0, 0]
  for (const way of combined(steps)) {
    if (found.length >= mostWays || tries >= mostTries || looked++ >= mostLooked) break
    // Whatever holds a way that does, or the same with a higher level, is more than need be.
    if (found.some(less => less.every(part => way.includes(part) || isBelow(part, way)))) continue
    tries++
    if (opens(asIfAll(visitor, way, clock))) found.push(way)
  }
  return found
}

/** What the rules on the way to it name, each once; what takes least comes first. */
function stepsFrom(
  rules: CompiledRules,
  visitor: Visitor,
  resource: Resource,
  { nowMs, right }: { nowMs: number; right: Right },
): AsIf[][] {
  // Nothing is taken but at a price that is told, and neither without opening.
  const asked =
    right === 'take' ? (['open', 'price', 'take'] as const) : right === 'open' ? [right] : (['open', right] as const)
  const asker = new Asker(visitor, rules.holdings, nowMs)
  const staff = new Set((rules.rulebook.roles ?? []).filter(role => role.staff).map(role => role.id))
  const steps = new Map<string, AsIf[]>()
  const seen = new Set<string>()
  const look = (condition: Condition, negated = false): void =>
    eachLeaf(condition, (key, argument, _path, not) => {
      const wanted = not === negated
      if (key === 'audience') {
        const is = rules.audiences.get(argument)
        const name = `audience ${String(argument)} ${wanted}`
        if (is && !seen.has(name)) {
          seen.add(name)
          look(is, !wanted)
        }
      } else if (key === 'opens') {
        const [kind, id] = only(argument)
        follow({ kind: kind as Kind, id })
      }
      for (const way of leafOf(key)?.ways?.(argument, { asker, wanted }) ?? [])
        if (!way.some(part => 'role' in part && staff.has(part.role))) steps.set(JSON.stringify(way), way)
    })
  const follow = (to: Resource): void => {
    const name = resourceKey(to.kind, to.id)
    const chain = seen.has(name) ? null : chainOf(to, rules.gates, rules.index)
    seen.add(name)
    if (!chain) return
    for (const { gate } of gatesOf(chain)) for (const one of asked) if (gate[one]) look(gate[one])
    if (chain.standsIn && chain.standsIn !== 'open') follow(chain.standsIn)
  }
  follow(resource)
  const ranks = rules.holdings.ranks
  const weight = (way: AsIf[]) =>
    Math.max(
      ...way.map(
        part => asIfKeys.indexOf(asIfKeyOf(part)) * 1e6 + ('level' in part ? (ranks.get(part.level) ?? 0) : 0),
      ),
    )
  return [...steps.values()].sort((a, b) => a.length - b.length || weight(a) - weight(b))
}

/** Steps alone, then two together, then three. Two of one sort stand in each other's way, but for roles. */
function* combined(steps: readonly AsIf[][]): Generator<AsIf[]> {
  const clash = (a: AsIf[], b: AsIf[]) =>
    a.some(one => b.some(other => asIfKeyOf(one) === asIfKeyOf(other) && !('role' in one)))
  function* longer(by: number, from: number, so: AsIf[]): Generator<AsIf[]> {
    for (let i = from; i < steps.length; i++) {
      const step = steps[i]!
      if (clash(so, step)) continue
      const way = [...so, ...step.filter(part => !so.includes(part))]
      if (by === 1) yield way
      else yield* longer(by - 1, i + 1, way)
    }
  }
  for (let parts = 1; parts <= mostParts; parts++) yield* longer(parts, 0, [])
}
