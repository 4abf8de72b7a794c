import { finding } from './finding'
import { doubtfulPrices } from './priced'

/** Something costs nothing: by its own price, or by what is taken off. `regular` in minor units. */
export const freeGoods = finding<{ regular: number }>(ask =>
  doubtfulPrices(ask, ({ product, unit }) => (unit === 0 ? { regular: product.prices.regular } : null)),
)
