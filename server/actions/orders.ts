/** Actions on orders. */
import { setResponseHeaders } from 'h3'
import { numberParam } from '../request'
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
import { hurryNotices } from '../services/payments/stand-in'
import { afterCommit } from '../db/turn'
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
    run: ask => {
      setResponseHeaders(ask.event, {
        'content-type': 'text/csv;charset=utf-8',
        'content-disposition': 'attachment; filename="orders.csv"',
      })
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
