/** What Delivery asks the core. */
import type { TierDeliveries } from '~~/core/audit/delivery-board'
import type { Delivery } from '~~/core/rulebook/shop-rules'
import type { BasketLine } from '~~/core/shop/price-trail'
import type { Address } from '~~/core/site/place'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

export interface DeliveriesAsked {
  which: Which
  lines: BasketLine[]
  to: Address
  /** Other ways in place of those that are said. */ ways?: Delivery[]
}
export interface DeliveriesQuestions {
  /** By tier, in their order. */
  board(ask: DeliveriesAsked): TierDeliveries[]
  /** Of goods those that the first tier may buy and are sent, in the order given. */
  begin(ask: { which: Which; products: string[]; to: Address }): string[]
}
export const askDeliveries = askerOf<DeliveriesQuestions>('deliveries')
