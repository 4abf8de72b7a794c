/** What somebody can buy at what price, by quantity: a list to be printed, sent, or read by a spreadsheet. */
import type { CompiledDecider } from '../gates/compiled-decider'
import { rightBit } from '../gates/verdict'
import { categoriesOf } from '../kinds/product'
import type { Product } from '../kinds/product'
import { Pricer } from './pricer'
import { variantName, variantsOf } from './variants'

export interface PriceListRow {
  product: string
  /** The first category it lies in. */ category: string
  title: string
  /** What tells a variant from the others. */ variant?: string
  /** Minor units, without sale and offers. */ regular: number
  onSale: boolean
  /** From so many on a piece costs so much, minor units; the first from one. */
  steps: { from: number; unit: number }[]
}

/** In the order of the site; variants in place of their product. What is not sold to them, or not priced, is left out. */
export function priceList(decider: CompiledDecider): PriceListRow[] {
  const { index } = decider.rules
  const pricer = new Pricer(decider)
  const rowOf = (product: Product, title: string): PriceListRow[] => {
    const { id } = product
    const price = decider.bits({ kind: 'product', id }) & rightBit.take ? pricer.quick(id) : null
    if (!price) return []
    const [category = ''] = categoriesOf(product, index)
    return [
      {
        product: id,
        category,
        title,
        ...(product.of === undefined ? {} : { variant: variantName(product) }),
        regular: price.regular,
        onSale: price.onSale,
        steps: pricer.ladder(id),
      },
    ]
  }
  return [...index.all('product').values()].flatMap(product => {
    if (product.of !== undefined) return []
    const { title = product.id } = product
    const variants = variantsOf(product.id, index)
    return variants.length ? variants.flatMap(one => rowOf(one, title)) : rowOf(product, title)
  })
}
