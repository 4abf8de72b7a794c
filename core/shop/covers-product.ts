/** Whether a product is among the goods something is about: of itself, what it is a variant of, or a category around it. */
import { categoriesAround } from '../kinds/product'
import type { Product } from '../kinds/product'
import type { ShopScope } from '../rulebook/shop-rules'
import { familyOf } from './prices-of'
import type { SiteIndex } from '../site/site-index'

export function coversProduct(scope: ShopScope, product: Product, index: SiteIndex): boolean {
  if ('shop' in scope) return true
  if ('products' in scope) return familyOf(product, index).some(one => scope.products.includes(one.id))
  const around = categoriesAround(product, index)
  return scope.categories.some(category => around.includes(category))
}
