/** Variants of products: which there are of one, and what tells them apart. */
import type { Product } from '../kinds/product'
import type { SiteIndex } from '../site/site-index'

const known = new WeakMap<SiteIndex, Map<string, Product[]>>()

/** In the order of the site. */
export function variantsOf(id: string, index: SiteIndex): readonly Product[] {
  let all = known.get(index)
  if (!all) {
    all = new Map()
    for (const product of index.all('product').values()) {
      if (product.of === undefined) continue
      const there = all.get(product.of)
      if (there) there.push(product)
      else all.set(product.of, [product])
    }
    known.set(index, all)
  }
  return all.get(id) ?? []
}

/** What a variant is called beside its product: “moss, 100 g”; its title where nothing tells it apart. */
export const variantName = ({ options = {}, title, id }: Product): string =>
  Object.values(options).join(', ') || title || id
