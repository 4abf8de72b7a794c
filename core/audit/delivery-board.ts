/** What sending a basket somewhere costs each tier, way by way, and why a way is not theirs. */
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { quoteBasket } from '../orders/basket-quote'
import type { Delivery } from '../rulebook/shop-rules'
import { parcelOf, weighDelivery } from '../shop/delivery'
import type { DeliveryWeighed, Parcel } from '../shop/delivery'
import type { BasketLine } from '../shop/price-trail'
import type { Address } from '../site/place'
import { isTaxed } from '../tax/tax-trail'
import type { Showing } from '../tax/tax-settings'
import type { BoardTier } from './reach-board'

export interface DeliveryCell extends DeliveryWeighed {
  /** As their receipt shows it, minor units; where it is offered. */ shows?: number
}

export interface TierDeliveries {
  tier: string
  /** What of the basket they may buy and have sent. */ parcel: Parcel
  /** What they may not buy. */ refused: string[]
  /** How their receipt shows amounts. */ showing: Showing | null
  /** In the order of the ways. */ cells: DeliveryCell[]
}

export function deliveryBoard(
  rules: CompiledRules,
  tiers: readonly BoardTier[],
  {
    lines,
    to,
    ways,
    nowMs,
  }: {
    lines: readonly BasketLine[]
    to: Address
    /** Default: those of the rulebook. */ ways?: readonly Delivery[] | undefined
    nowMs: number
  },
): TierDeliveries[] {
  const said = ways ? new CompiledRules({ ...rules.rulebook, deliveries: [...ways] }, rules.index, rules) : rules
  const all = said.rulebook.deliveries ?? []
  return tiers.map(({ id, visitor }) => {
    const decider = new CompiledDecider(said, visitor, nowMs)
    const holding = decider.withBasket([...lines])
    const quote = quoteBasket(decider, { lines, sentTo: to, delivery: null, when: 'pay' })
    const parcel = parcelOf(quote.basket.lines.filter(isTaxed), rules.index)
    const shows = new Map(quote.ways.map(one => [one.id, one.shows]))
    return {
      tier: id,
      parcel,
      refused: quote.basket.lines.flatMap(one => (isTaxed(one) ? [] : [one.product])),
      showing: said.rulebook.tax?.settings ? quote.shown.pay : null,
      cells: all.map(way => {
        const weighed = weighDelivery(way, { parcel, to, admits: one => holding.admits(one) })
        return weighed.outcome === 'offered' ? { ...weighed, shows: shows.get(way.id)! } : weighed
      }),
    }
  })
}
