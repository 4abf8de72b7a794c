/** Actions on goods, and on what is in store. */
import { getQuery, setResponseHeaders } from 'h3'
import { z } from 'zod'
import { numberParam, readBytes } from '../request/body'
import { staffCallerIn } from '../request/staff-caller'
import { decodeCsv } from '../services/csv/read-csv'
import { exportGoods, importGoods, planGoods } from '../services/shop/goods-csv'
import {
  codeAtCounter,
  codesToMake,
  codesToStop,
  countCodes,
  exportCodes,
  listCodes,
  makeCodes,
  stopCodes,
  useAtCounter,
} from '../services/shop/made-codes'
import { exportRates, importRates, planRates } from '../services/shop/rates-csv'
import { letGo, reserve, stockOf, toReserve } from '../services/shop/reserved'
import { changeGoods, goodsTogether } from '../services/shop/many-goods'
import { savedAnswer } from '../services/editions/saved-answer'
import { changeStock, countGoods, listCosts, stockChange } from '../services/shop/stock'
import { leaveTrace } from '../trace'
import { change, look, made, on, oneOf, steps } from './action'

/** A hundred thousand goods with all that is said of them. */
const csvBytes = 64 * 1_048_576
const ratesBytes = 8 * 1_048_576

export const shopActions = {
  'GET products': look({ right: on('products', 'look'), run: ask => countGoods(ask.db, ask) }),
  /** Many at once, as one change of the draft. */
  'PUT products': change({
    right: oneOf(['products', 'prices'], 'change'),
    input: goodsTogether,
    most: 4 * 1_048_576,
    run: async ask => savedAnswer(ask, await changeGoods(ask.db, ask, ask.input, ask.actor)),
  }),
  'GET costs': look({ right: on('cost', 'look'), run: ask => listCosts(ask.db) }),
  'PUT products/:id/stock': change({
    right: oneOf(['stock', 'cost'], 'change'),
    input: stockChange,
    run: ask => changeStock(ask.db, ask, ask.params.id!, ask.input, ask.actor),
  }),

  'GET products/:id/stock': look({
    right: on('stock', 'look'),
    run: ask => stockOf(ask.db, ask, ask.params.id!),
  }),
  'POST products/:id/reserved': change({
    right: on('stock', 'change'),
    input: toReserve,
    run: ask => reserve(ask.db, ask, ask.params.id!, ask.input, ask.actor),
  }),
  'DELETE products/:id/reserved/:hold': change({
    right: on('stock', 'change'),
    run: ask => letGo(ask.db, ask, ask.params.id!, numberParam(ask.event, 'hold'), ask.actor),
  }),
  'GET codes': look({ right: on('codes', 'look'), run: ask => countCodes(ask.db) }),
  'GET codes/:offer': look({
    right: on('codes', 'look'),
    input: z.object({
      search: z.string().max(200).optional(),
      batch: z.coerce.number().int().positive().optional(),
      after: z.coerce.number().int().min(0).default(0),
    }),
    run: ask => listCodes(ask.db, ask, ask.params.offer!, ask.input),
  }),
  'POST codes/:offer': change({
    right: on('codes', 'add'),
    input: codesToMake,
    run: async ask => made(ask, await makeCodes(ask.db, ask.params.offer!, ask.input, ask.actor)),
  }),
  'POST codes/:offer/stop': change({
    right: on('codes', 'withdraw'),
    input: codesToStop,
    run: ask => stopCodes(ask.db, ask.params.offer!, ask.input, ask.actor),
  }),
  'POST counter/code': change({
    right: on('codes', 'change'),
    input: codeAtCounter,
    run: ask => useAtCounter(ask.db, ask.snapshot, ask.input, ask.actor),
  }),
  'GET codes/:offer/export': look({
    right: on('codes', 'look'),
    run: async ask => {
      setResponseHeaders(ask.event, {
        'content-type': 'text/csv;charset=utf-8',
        'content-disposition': 'attachment; filename="codes.csv"',
      })
      await leaveTrace(ask.db, ask.actor, 'codes.export', `offer ${ask.params.offer!}`)
      return exportCodes(ask.db, ask.params.offer!)
    },
  }),

  /** The body is the CSV file itself. `?dry=1` only looks: what would be taken over, and what is wrong where. */
  'POST products/import': steps({
    right: oneOf(['products', 'prices', 'stock', 'cost'], 'change'),
    run: async ask => {
      const text = decodeCsv(await readBytes(ask.event, csvBytes))
      const isDry = getQuery(ask.event).dry !== undefined
      return isDry
        ? planGoods(ask.db, ask, text)
        : importGoods(ask.db, tx => staffCallerIn(tx, ask.event), text, ask.actor)
    },
  }),
  /** The body is the CSV file itself. `?dry=1` only looks. */
  'POST taxes/import': steps({
    right: oneOf(['tax'], 'add', 'change'),
    run: async ask => {
      const text = decodeCsv(await readBytes(ask.event, ratesBytes))
      if (getQuery(ask.event).dry !== undefined) return planRates(ask.db, text)
      const { names: _, ...plan } = await importRates(ask.db, tx => staffCallerIn(tx, ask.event), text, ask.actor)
      return plan
    },
  }),
  'GET taxes/export': look({
    right: on('tax', 'look'),
    run: ask => {
      setResponseHeaders(ask.event, {
        'content-type': 'text/csv;charset=utf-8',
        'content-disposition': 'attachment; filename="rates.csv"',
      })
      return exportRates(ask.db)
    },
  }),
  'GET products/export': look({
    right: on('products', 'look'),
    run: async ask => {
      setResponseHeaders(ask.event, {
        'content-type': 'text/csv;charset=utf-8',
        'content-disposition': 'attachment; filename="goods.csv"',
      })
      await leaveTrace(ask.db, ask.actor, 'goods.export', 'goods')
      return exportGoods(ask.db, ask)
    },
  }),
}
