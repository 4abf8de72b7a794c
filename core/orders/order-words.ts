import type { OrderState, PurchaseState } from '../payments/money-table'

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

/** How buying a level stands. */
export const purchaseStateWords: Record<PurchaseState, string> = {
  pending: 'not paid yet',
  paid: 'paid',
  declined: 'declined',
  refunded: 'given back',
  replaced: 'begun anew',
  expired: 'not paid in time',
}
