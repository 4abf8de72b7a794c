import { CompiledDecider } from '../../gates/compiled-decider'
import { everyone } from '../../shop/offer'
import { spaceOf } from '../coverage'
import { finding } from './finding'

/** More pieces than these are not tried: then nothing is said. */
const mostPieces = 20_000

/** An offer no visitor there could ever be gets, from now on: its days are over, or what it asks cannot be. */
export const offerForNobody = finding<Record<string, never>>(({ rules, tiers, nowMs }) =>
  (rules.rulebook.offers ?? []).flatMap(({ id, active = true, for: who = everyone }) => {
    if (!active) return []
    const isTiers = tiers.some(({ visitor }) => new CompiledDecider(rules, visitor, nowMs).admits(who))
    if (isTiers) return []
    const space = spaceOf(rules, [], nowMs, [], [who])
    if (space.undecidable || space.count > mostPieces) return []
    for (const visitor of space.visitors()) if (new CompiledDecider(rules, visitor, nowMs).admits(who)) return []
    return [{ place: { kind: 'offer' as const, key: id }, tier: tiers[0]?.id ?? '', facts: {} }]
  }),
)
