/** A basket as somebody would pay for it now: what may be bought, ways of sending it, taxes, and how it shows to them. */
import type { CompiledDecider } from '../gates/compiled-decider'
import { deliveriesFor, parcelOf } from '../shop/delivery'
import type { DeliveryOffered } from '../shop/delivery'
import type { BasketLine } from '../shop/price-trail'
import { Pricer } from '../shop/pricer'
import type { Address } from '../site/place'
import { receiptOf } from '../tax/receipt'
import type { Receipt } from '../tax/receipt'
import type { Shown } from '../tax/tax-settings'
import { isTaxed } from '../tax/tax-trail'
import type { TaxedBasket } from '../tax/tax-trail'
import { Taxer } from '../tax/taxer'
import { basketReduction, lineReductions } from './reductions'
import type { Reduction } from './reductions'

/** A way of sending the basket, with what it costs as the receipt would show it. */
export interface WayOffered extends DeliveryOffered {
  /** Minor units, with tax or without, as prices show to them. */ shows: number
}

export interface BasketQuote {
  basket: TaxedBasket
  receipt: Receipt
  shown: Shown
  /** Where it is taxed. */ at: Address
  /** Something in it is sent. */ sent: boolean
  /** Why it costs less than its prices: by line, none of one that is refused, and of the basket as a whole. */
  reductions: { lines: Reduction[][]; basket: Reduction | null }
  /** Prices as typed that show rounded, without tax, by line. */ roundedFrom: (number | null)[]
  ways: WayOffered[]
  /** The way that was chosen, while it is offered; the only one there is. */ chosen: WayOffered | null
}

export interface BasketAsk {
  lines: readonly BasketLine[]
  /** Default: where the visitor is, else at home; then nothing is sent yet, and ways are none. */
  sentTo?: Address | undefined
  delivery?: string | null | undefined
  when?: 'basket' | 'pay'
}

export function quoteBasket(
  decider: CompiledDecider,
  { lines, sentTo, delivery, when = 'basket' }: BasketAsk,
): BasketQuote {
  const holding = decider.withBasket([...lines])
  const taxer = new Taxer(holding)
  const without = taxer.basket({ lines, sentTo })
  const { rules } = decider
  const parcel = parcelOf(without.lines.filter(isTaxed), rules.index)
  const admits = (condition: Parameters<CompiledDecider['admits']>[0]) => holding.admits(condition)
  const shown = taxer.showing
  const sentBy = ({ cost }: DeliveryOffered) => taxer.withDelivery(without, cost, sentTo)
  const offered = sentTo ? deliveriesFor(rules.rulebook.deliveries ?? [], { parcel, to: sentTo, admits }) : []
  const ways = offered.map(one => ({ ...one, shows: receiptOf(sentBy(one), shown, when).delivery }))
  const chosen = ways.find(one => one.id === delivery) ?? (ways.length === 1 ? ways[0]! : null)
  const basket = chosen ? sentBy(chosen) : without
  const offers = rules.rulebook.offers ?? []
  const priced = new Pricer(holding).offers
  const roundedFrom = basket.lines.map(line => {
    const product = isTaxed(line) && shown[when] === 'withoutTax' ? priced.product(line.product) : null
    return product && isTaxed(line) && taxer.isRounded(product, line.unit, taxer.at(sentTo)) ? line.unit : null
  })
  return {
    reductions: {
      lines: basket.lines.map(line => (isTaxed(line) ? lineReductions(line, offers) : [])),
      basket: basketReduction(basket.lines.filter(isTaxed), offers),
    },
    roundedFrom,
    basket,
    receipt: receiptOf(basket, shown, when),
    shown,
    at: taxer.at(sentTo),
    sent: parcel.sent,
    ways,
    chosen,
  }
}

/** Offers whose codes made this basket what it is, each once. */
export function codesUsed({ lines }: TaxedBasket, rules: CompiledDecider['rules']): { offer: string; code: string }[] {
  const used = new Set(lines.filter(isTaxed).flatMap(line => line.offers))
  return (rules.rulebook.offers ?? []).flatMap(({ id, code }) =>
    code !== undefined && used.has(id) ? [{ offer: id, code }] : [],
  )
}
