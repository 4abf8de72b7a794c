/** Actions on what is in store. */
import { changeStock, listCosts, listProducts, stockChange } from '../services/shop/stock'
import { change, look, on, oneOf } from './action'

export const shopActions = {
  'GET products': look({ right: on('products', 'look'), run: ask => listProducts(ask.db, ask) }),
  'GET costs': look({ right: on('cost', 'look'), run: ask => listCosts(ask.db) }),
  'PUT products/:id/stock': change({
    right: oneOf(['stock', 'cost'], 'change'),
    input: stockChange,
    run: ask => changeStock(ask.db, ask, ask.params.id!, ask.input, ask.actor),
  }),
}
