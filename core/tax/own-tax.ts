/** How a product is taxed as it says itself: a variant's own before its parent's. */
import type { Lookup } from '../kinds/kind'
import type { Product } from '../kinds/product'
import { familyOf } from '../shop/prices-of'
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
