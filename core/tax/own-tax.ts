/** How a product is taxed as it says itself: a variant's own before its parent's. */
import type { Lookup } from '../kinds/kind'
import type { Product } from '../kinds/product'
import { familyOf } from '../shop/prices-of'
import type { SiteIndex } from '../site/site-index'
import { standardCategory } from './tax-settings'

export interface OwnTax {
  goodsTaxed: boolean
  deliveryTaxed: boolean
  category: string
}

export function ownTaxOf(product: Product, look: Lookup): OwnTax {
  const family = product.of === undefined ? [product] : familyOf(product, look)
  const first = <K extends keyof Product>(key: K) => family.find(one => one[key] !== undefined)?.[key]
  return {
    goodsTaxed: first('goodsTaxed') ?? true,
    deliveryTaxed: first('deliveryTaxed') ?? true,
    category: first('taxCategory') ?? standardCategory,
  }
}

/** Of all products of a site, read once for the site whatever its rates are; the same object for those that say the same. */
export class OwnTaxes {
  private readonly known = new Map<string, OwnTax>()
  private readonly alike = new Map<string, OwnTax>()

  constructor(private readonly index: SiteIndex) {}

  of(id: string): OwnTax {
    let own = this.known.get(id)
    if (!own) {
      const made = ownTaxOf(this.index.get('product', id) ?? { id }, this.index)
      const key = `${made.goodsTaxed} ${made.deliveryTaxed} ${made.category}`
      own = this.alike.get(key) ?? made
      this.alike.set(key, own)
      this.known.set(id, own)
    }
    return own
  }
}

const read = new WeakMap<SiteIndex, OwnTaxes>()
export function ownTaxesOf(index: SiteIndex): OwnTaxes {
  let taxes = read.get(index)
  if (!taxes) read.set(index, (taxes = new OwnTaxes(index)))
  return taxes
}
