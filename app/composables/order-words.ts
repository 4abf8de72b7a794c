import type { OrderState } from '~~/core/orders/order'

/** How an order stands, in the order in which it goes. */
export const orderStateWords: Record<OrderState, string> = {
  placed: 'not paid yet',
  paid: 'to be packed',
  sent: 'sent',
  refunded: 'given back',
  givenUp: 'given up',
}

/** The same of one order: what is no parcel was never sent. */
export const orderStands = ({ state, isParcel }: { state: OrderState; isParcel: boolean }): string =>
  state === 'sent' && !isParcel ? 'nothing to send' : orderStateWords[state]
