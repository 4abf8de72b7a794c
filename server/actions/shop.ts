/** Actions on goods, and on what is in store. */
import { getQuery, setResponseHeaders } from 'h3'
import { readBytes, staffCallerIn } from '../request'
import { decodeCsv } from '../services/csv/read-csv'
import { exportGoods, importGoods, planGoods } from '../services/shop/goods-csv'
import { changeStock, listCosts, listProducts, stockChange } from '../services/shop/stock'
import { change, look, on, oneOf, steps } from './action'

/** A hundred thousand goods with all that is said of them. */
const csvBytes = 64 * 1_048_576

export const shopActions = {
  'GET products': look({ right: on('products', 'look'), run: ask => listProducts(ask.db, ask) }),
  'GET costs': look({ right: on('cost', 'look'), run: ask => listCosts(ask.db) }),
  'PUT products/:id/stock': change({
    right: oneOf(['stock', 'cost'], 'change'),
    input: stockChange,
    run: ask => changeStock(ask.db, ask, ask.params.id!, ask.input, ask.actor),
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
  'GET products/export': look({
    right: on('products', 'look'),
    run: async ask => {
      setResponseHeaders(ask.event, {
        'content-type': 'text/csv;charset=utf-8',
        'content-disposition': 'attachment; filename="goods.csv"',
      })
      return exportGoods(ask.db, ask)
    },
  }),
}
