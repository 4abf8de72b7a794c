import { finding } from './finding'
import { doubtfulPrices } from './priced'

/** Something is sold for less than it costs the shop. Found only where costs may be known. Minor units. */
export const underCost = finding<{ price: number; cost: number }>(ask =>
  ask.costs?.size
    ? doubtfulPrices(ask, ({ product, unit }) => {
        const cost = ask.costs!.get(product.id)
        return cost !== undefined && unit < cost ? { price: unit, cost } : null
      })
    : [],
)
