import type { OrderState } from '~~/core/orders/order'

/** How an order stands, in the order in which it goes. */
export const orderStateWords: Record<OrderState, string> = {
  placed: 'not paid yet',
  paid: 'to be packed',
  sent: 'sent',
  refunded: 'given back',
  givenUp: 'given up',
}
