/** What somebody can buy at what price, by quantity: a list to be printed, sent, or read by a spreadsheet. */
import type { CompiledDecider } from '../gates/compiled-decider'
import { rightBit } from '../gates/verdict'
import { categoriesOf } from '../kinds/product'
import type { Product } from '../kinds/product'
import type { Address } from '../site/place'
import type { Showing } from '../tax/tax-settings'
import { Taxer } from '../tax/taxer'
import { Pricer } from '../shop/pricer'
import { variantName, variantsOf } from '../shop/variants'

export interface PriceListRow {
  product: string
  /** The first category it lies in. */ category: string
  title: string
  /** What tells a variant from the others. */ variant?: string
  /** Minor units, without sale and offers. */ regular: number
  onSale: boolean
  /** From so many on a piece costs so much, minor units; the first from one. */
  steps: { from: number; unit: number }[]
  /** The words behind its price, where there are any. */ note?: string
}
export interface PriceList {
  /** How its prices read, where the shop deals with tax: as those they are for read them in lists. */
  showing: Showing | null
  /** Where that is taxed. */ at: Address | null
  rows: PriceListRow[]
}

/** In the order of the site; variants in place of their product. What is not sold to them, or not priced, is left out. */
export function priceList(decider: CompiledDecider): PriceList {
  const { index } = decider.rules
  const pricer = new Pricer(decider)
  const taxer = new Taxer(decider)
  const isTaxed = taxer.tax.settings !== undefined
  const rowOf = (product: Product, title: string): PriceListRow[] => {
    const { id } = product
    const price = decider.bits({ kind: 'product', id }) & rightBit.take ? pricer.quick(id) : null
    const priced = pricer.offers.product(id)
    if (!price || !priced) return []
    const shown = (amount: number) => taxer.shown(priced, amount)
    const [category = ''] = categoriesOf(product, index)
    return [
      {
        product: id,
        category,
        title,
        ...(product.of === undefined ? {} : { variant: variantName(product) }),
        regular: shown(price.regular).shown,
        onSale: price.onSale,
        steps: pricer.ladder(id).map(({ from, unit }) => ({ from, unit: shown(unit).shown })),
        ...(shown(price.unit).note ? { note: shown(price.unit).note } : {}),
      },
    ]
  }
  const rows = [...index.all('product').values()].flatMap(product => {
    if (product.of !== undefined) return []
    const { title = product.id } = product
    const variants = variantsOf(product.id, index)
    return variants.length ? variants.flatMap(one => rowOf(one, title)) : rowOf(product, title)
  })
  return { showing: isTaxed ? taxer.showing.list : null, at: isTaxed ? taxer.at() : null, rows }
}
