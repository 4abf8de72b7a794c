import { finding } from './finding'
import { comparedOffers } from './compared-offers'

/** Two offers that come to the same wherever both are to be had: which of them applies is decided by their order alone. */
export const offersTie = finding<{ other: string }>(ask =>
  [...comparedOffers(ask).pairs].flatMap(([key, { both, same, tier }]) => {
    const [one, other] = key.split('\n') as [string, string]
    return both > 0 && both === same ? [{ place: { kind: 'offer' as const, key: one }, tier, facts: { other } }] : []
  }),
)
