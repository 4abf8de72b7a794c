/** Where landings lead each tier, for the findings about them. */
import { rightBit } from '../../gates/verdict'
import { CompiledDecider } from '../../gates/compiled-decider'
import { explainLanding, targetOf } from '../../landings/explain-landing'
import type { LandingTarget } from '../../landings/explain-landing'
import type { LandingMoment } from '../../rulebook/rulebook'
import type { FindingAsk, Found } from './finding'

export interface LandedFacts {
  to: string
  on: LandingMoment
}

/** Landings that lead somebody to such a target; each once, with the first tier it happens to. */
export function landedAt(target: LandingTarget, { rules, tiers, nowMs }: FindingAsk): Found<LandedFacts>[] {
  const found = new Map<string, Found<LandedFacts>>()
  for (const on of ['signIn', 'signUp', 'signOut'] as const)
    for (const tier of tiers) {
      if (!tier.visitor.person) continue
      const { landing, to, target: own } = explainLanding(rules, tier.visitor, on, nowMs)
      if (!landing || to === null || found.has(landing)) continue
      const guest = new CompiledDecider(rules, { person: null }, nowMs)
      // Whoever signed out is a guest by then.
      const real =
        on === 'signOut' ? targetOf(rules, to, resource => (guest.bits(resource) & rightBit.open) !== 0).target : own
      if (real === target)
        found.set(landing, { place: { kind: 'landing', key: landing }, tier: tier.id, facts: { to, on } })
    }
  return [...found.values()]
}
