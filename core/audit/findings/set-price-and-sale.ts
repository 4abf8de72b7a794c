import { localTime } from '../../calendar'
import { CompiledDecider } from '../../gates/compiled-decider'
import { everyone } from '../../shop/offer'
import { offersOf } from '../../shop/compiled-offers'
import { saleRuns } from '../../shop/prices-of'
import { finding } from './finding'

/** While goods are on sale an offer sets a price for them: below the sale, which is then of no use to those it is for, or above it, where the set price is missed. Minor units. */
export const setPriceAndSale = finding<{ product: string; set: number; sale: number }>(({ rules, tiers, nowMs }) => {
  const offers = offersOf(rules)
  const { date } = localTime(nowMs, rules.index.site.timezone)
  const onSale = offers.goods.all.filter(({ prices: { sale } }) => sale && saleRuns(sale, date))
  return offers.offers.flatMap(offer => {
    if (!offer.active || offer.base === 'unlessOnSale') return []
    const prices = offer.bands.flatMap(({ off }) => ('price' in off ? [off.price] : []))
    if (!prices.length) return []
    const product = onSale.find(one => offers.weaveOf(one).offers.includes(offer))
    const who = rules.rulebook.offers!.find(one => one.id === offer.id)!.for ?? everyone
    const tier = tiers.find(({ visitor }) => new CompiledDecider(rules, visitor, nowMs).admits(who))
    if (!product || !tier) return []
    const facts = { product: product.id, set: prices[0]!, sale: product.prices.sale!.price }
    return facts.set === facts.sale ? [] : [{ place: { kind: 'offer' as const, key: offer.id }, tier: tier.id, facts }]
  })
})
