/** An order as whoever made it looks at it, by its own address that nobody guesses; and all of somebody's. */
import type { OrderState } from '../../core/payments/money-table'
import type { WordKey } from '../../core/site-words/english'
import type { Reduction } from '../../core/orders/reductions'
import { receiptOf } from '../../core/tax/receipt'
import type { Receipt } from '../../core/tax/receipt'
import { db } from '../db/database'
import { Problem } from '../problem'
import { invoicesOf } from '../services/papers/invoices'
import { orderById, ordersOf } from '../services/orders/orders'
import type { OrderRow } from '../services/papers/order-row'
import { payAddress } from '../services/payments/stand-in'
import type { OwnAsk, OwnPage } from './own-page'

export interface OrderData {
  order: {
    id: string
    number: number
    state: OrderState
    /** How it stands, in words. */ stands: WordKey
    placedAt: string
    titles: Record<string, string>
    receipt: Receipt
    /** Why something was taken off the basket as a whole. */ off: Reduction | null
    delivery: string | null
    address: { name: string; lines: string; town: string; postcode: string; country: string }
    refunded: number
    note: string
    invoices: { number: string; kind: 'invoice' | 'credit' }[]
    /** Nobody has an account with its address who is signed in. */ guest: boolean
    email: string
  } | null
  /** Of whoever is signed in, newest first. */
  mine: { id: string; number: number; stands: WordKey; placedAt: string; gross: number }[] | null
  currency: string
  timezone: string
}

async function found({ rest }: OwnAsk) {
  const order = rest[0] ? await orderById(db(), rest[0]) : null
  if (!order || rest.length > 1) throw new Problem('not-found')
  return order
}

/** What is not sent is paid, and that is all. */
const standsOf = ({ state, sentAt }: OrderRow): WordKey =>
  state === 'sent' && !sentAt ? 'order.paid' : `order.${state}`

export const orderPage: OwnPage<OrderData> = {
  path: '/order',
  signedIn: async ({ rest }) => rest.length === 0,
  async load(ask) {
    const { caller, rest } = ask
    const { site } = caller.snapshot.rules.index
    const here = { currency: site.currency ?? 'EUR', timezone: site.timezone }
    if (!rest.length) {
      const mine = await ordersOf(db(), caller.signedIn!.personId)
      return {
        order: null,
        mine: mine.map(order => ({
          id: order.id,
          number: order.number,
          stands: standsOf(order),
          placedAt: order.placedAt.toISOString(),
          gross: order.gross,
        })),
        ...here,
      }
    }
    const order = await found(ask)
    const { frozen } = order
    const { lines, town, postcode = '', country } = frozen.address
    return {
      order: {
        id: order.id,
        number: order.number,
        state: order.state,
        stands: order.state === 'paid' ? 'order.thanks' : standsOf(order),
        placedAt: order.placedAt.toISOString(),
        titles: frozen.titles,
        receipt: receiptOf(frozen.basket, frozen.shown, 'pay'),
        off: frozen.reductions?.basket ?? null,
        delivery: frozen.delivery?.name ?? null,
        address: { name: order.name, lines, town, postcode, country },
        refunded: order.refunded,
        note: frozen.note,
        invoices: (await invoicesOf(db(), order.id)).map(({ number, kind }) => ({ number, kind })),
        guest: order.personId === null && !caller.signedIn,
        email: order.email,
      },
      mine: null,
      ...here,
      currency: frozen.currency,
    }
  },
  async act(ask) {
    const order = await found(ask)
    return { to: order.state === 'placed' ? payAddress(order.reference) : `/order/${order.id}` }
  },
}
