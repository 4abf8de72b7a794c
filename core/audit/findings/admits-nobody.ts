/** Whether a condition can ever be true again for anybody: no tier there is, and no visitor there could be. */
import type { Condition } from '../../conditions/condition'
import { CompiledDecider } from '../../gates/compiled-decider'
import { spaceOf } from '../coverage'
import type { FindingAsk } from './finding'

/** More pieces than these are not tried: then nothing is said. */
const mostPieces = 20_000

export function admitsNobody({ rules, tiers, nowMs }: FindingAsk, who: Condition): boolean {
  const admits = (visitor: FindingAsk['tiers'][number]['visitor']) =>
    new CompiledDecider(rules, visitor, nowMs).admits(who)
  if (tiers.some(({ visitor }) => admits(visitor))) return false
  const space = spaceOf(rules, [], nowMs, [], [who])
  if (space.undecidable || space.count > mostPieces) return false
  for (const visitor of space.visitors()) if (admits(visitor)) return false
  return true
}
