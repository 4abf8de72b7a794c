/** Whether anybody new can be what a sentence says, before they are let in. */
import type { Condition } from '../conditions/condition'
import { waitsForStaff } from '../entrance/newcomer'
import type { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import type { Visitor } from '../visitor/visitor'
import { mostPieces, spaceOf } from './coverage'

/** Somebody who may hold what an invitation brings, as of now; whoever has bought something is nobody new. */
function asNew(visitor: Visitor, nowMs: number): Visitor | null {
  const { person, bought, levels } = visitor
  if (person == null || bought) return null
  const since = new Date(nowMs).toISOString()
  return { ...visitor, ...(levels ? { levels: levels.map(({ level }) => ({ level, since })) } : {}) }
}

/** True, too, where there is too much to try. */
export function fitsNewcomer(rules: CompiledRules, who: Condition, nowMs: number): boolean {
  const space = spaceOf(rules, [], nowMs, [], [who])
  if (space.undecidable || space.count > mostPieces) return true
  for (const visitor of space.visitors()) {
    const newcomer = asNew(visitor, nowMs)
    if (!newcomer) continue
    const decider = new CompiledDecider(rules, newcomer, nowMs)
    if (waitsForStaff({ approveByHand: false, lookAt: who }, one => decider.admits(one))) return true
  }
  return false
}
