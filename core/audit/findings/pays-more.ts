import { rightBit } from '../../gates/verdict'
import { finding } from './finding'
import { doubtfulPrices } from './priced'

/** A tier pays more for something than somebody who never signed in. Minor units. */
export const paysMore = finding<{ pays: number; guest: number }>(ask => {
  const guest = ask.tiers.findIndex(tier => tier.visitor.person == null)
  if (guest < 0) return []
  return doubtfulPrices(ask, ({ unit, p }, { units, bits, tiers }) => {
    const at = p * tiers.length + guest
    return bits[at]! & rightBit.price && unit > units[at]! ? { pays: unit, guest: units[at]! } : null
  })
})
