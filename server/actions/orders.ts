/** Actions on orders. */
import { setResponseHeaders } from 'h3'
import { numberParam } from '../request/body'
import {
  changeOrder,
  exportOrders,
  listOrders,
  orderChange,
  ordersAsked,
  tellOrder,
} from '../services/orders/looked-after'
import { countTaxes } from '../services/orders/tax-counts'
import { giveBack, toRefund } from '../services/orders/refunds'
import { refundLevel } from '../services/memberships/purchases'
import { invoiceOfNumber } from '../services/papers/invoices'
import { giveBackBesides, listMatters, seeTo } from '../services/payments/matters'
import { Problem } from '../problem'
import { paperAsked, sendPaper } from '../papers'
import { hurryNotices } from '../services/payments/stand-in'
import { afterCommit } from '../db/turn'
import { leaveTrace } from '../trace'
import { change, look, on } from './action'

export const orderActions = {
  /** What findings about taxes count: where orders went, and when rates were last written. */
  'GET taxes/counted': look({ right: on('tax', 'look'), run: ask => countTaxes(ask.db) }),
  'GET orders': look({
    right: on('orders', 'look'),
    input: ordersAsked,
    run: ask => listOrders(ask.db, ask, ask.input),
  }),
  'GET orders/export': look({
    right: on('orders', 'look'),
    input: ordersAsked,
    run: async ask => {
      setResponseHeaders(ask.event, {
        'content-type': 'text/csv;charset=utf-8',
        'content-disposition': 'attachment; filename="orders.csv"',
      })
      await leaveTrace(ask.db, ask.actor, 'orders.export', 'orders', ask.input)
      return exportOrders(ask.db, ask, ask.input)
    },
  }),
  'GET orders/:number': look({
    right: on('orders', 'look'),
    run: ask => tellOrder(ask.db, ask, numberParam(ask.event, 'number')),
  }),
  'PUT orders/:number': change({
    right: on('orders', 'change', ['state']),
    input: orderChange,
    run: ask =>
      changeOrder(ask.db, ask, {
        number: numberParam(ask.event, 'number'),
        change: ask.input,
        actor: ask.actor,
      }),
  }),
  /** An invoice or credit note as a file, for whoever may look at buyers; `as` is `pdf` or `xml`. */
  'GET orders/:number/papers/:paper': look({
    right: on('orders', 'look', ['buyer']),
    input: paperAsked,
    run: async ({ db, event, input, params: { paper = '' }, snapshot }) => {
      const found = await invoiceOfNumber(db, numberParam(event, 'number'), paper)
      if (!found) throw new Problem('not-found')
      return sendPaper(event, found, input.as, snapshot.rules.index.site.timezone)
    },
  }),
  /** Money that came in or went out, and nobody had asked for it. */
  'GET payments': look({ right: on('orders', 'look'), run: ask => listMatters(ask.db, ask) }),
  'POST payments/:number/back': change({
    right: on('orders', 'change', ['refunds']),
    run: async ask => {
      await giveBackBesides(ask.db, numberParam(ask.event, 'number'), ask.actor)
      await afterCommit(hurryNotices)
    },
  }),
  'POST payments/:number/seen': change({
    right: on('orders', 'change', ['state']),
    run: ask => seeTo(ask.db, numberParam(ask.event, 'number'), ask.actor),
  }),
  /** What was paid for a level by itself; what came with an order goes back with that. */
  'POST purchases/:number/refund': change({
    right: on('orders', 'change', ['refunds']),
    run: async ask => {
      const done = await refundLevel(ask.db, numberParam(ask.event, 'number'), ask.actor)
      await afterCommit(hurryNotices)
      return done
    },
  }),
  'POST orders/:number/refund': change({
    right: on('orders', 'change', ['refunds']),
    input: toRefund,
    run: async ask => {
      const done = await giveBack(ask.db, numberParam(ask.event, 'number'), ask.input, ask.actor)
      await afterCommit(hurryNotices)
      return done
    },
  }),
}
