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
import type { Reductions } from './reductions'

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
  return {
    basket,
    receipt: receiptOf(basket, shown, when),
    shown,
    at: taxer.at(sentTo),
    sent: parcel.sent,
    ways,
    chosen,
  }
}

/** Why a basket costs less than its prices: by line, nothing of one that is refused, and as a whole. */
export function basketReductions(
  { lines }: TaxedBasket,
  { rulebook: { offers = [] } }: CompiledDecider['rules'],
): Reductions {
  return {
    lines: lines.map(line => (isTaxed(line) ? lineReductions(line, offers) : [])),
    basket: basketReduction(lines.filter(isTaxed), offers),
  }
}

/** By line, the price as typed that shows rounded without tax; null where nothing is rounded. */
export function roundedFrom(
  decider: CompiledDecider,
  { basket: { lines }, shown, at }: BasketQuote,
  when: 'basket' | 'pay' = 'basket',
): (number | null)[] {
  if (shown[when] !== 'withoutTax') return lines.map(() => null)
  const holding = decider.withBasket(lines.map(({ product, quantity }) => ({ product, quantity })))
  const taxer = new Taxer(holding)
  const goods = new Pricer(holding).offers
  return lines.map(line => {
    const product = isTaxed(line) ? goods.product(line.product) : null
    return product && isTaxed(line) && taxer.isRounded(product, line.unit, at) ? line.unit : null
  })
}

/** Offers whose codes made this basket what it is, each once. */
export function codesUsed({ lines }: TaxedBasket, rules: CompiledDecider['rules']): { offer: string; code: string }[] {
  const used = new Set(lines.filter(isTaxed).flatMap(line => line.offers))
  return (rules.rulebook.offers ?? []).flatMap(({ id, code }) =>
    code !== undefined && used.has(id) ? [{ offer: id, code }] : [],
  )
}
