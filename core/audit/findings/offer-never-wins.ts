import { finding } from './finding'
import { comparedOffers } from './compared-offers'

/** Somebody gets an offer, and whatever they buy something else is lower: it could as well not be there. */
export const offerNeverWins = finding<Record<string, never>>(ask => {
  const { fates } = comparedOffers(ask)
  return (ask.rules.rulebook.offers ?? []).flatMap(({ id, by, counts }) => {
    const fate = fates.get(id)
    // What is counted elsewhere, or in the whole basket, is not to be had by one product alone.
    if (!fate || fate.applied || !fate.whole || by === 'spend' || counts) return []
    return [{ place: { kind: 'offer' as const, key: id }, tier: fate.tier, facts: {} }]
  })
})
