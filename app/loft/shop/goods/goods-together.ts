import type { Product } from '~~/core/kinds/product'
import { changedPrice } from '~~/core/shop/price-change'
import type { PriceChange } from '~~/core/shop/price-change'

/** One change of many goods, and what it makes of each. */
export type TogetherChange =
  | { do: 'price'; by: PriceChange; step: number }
  | { do: 'sale'; by: PriceChange; step: number; from?: string; until?: string }
  | { do: 'endSale' }
  | { do: 'addCategory' | 'takeCategory'; category: string }
  | { do: 'tax'; category: string }

type Parts = Partial<Record<'price' | 'sale' | 'categories' | 'taxCategory', unknown>>

const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null)

/** The parts of a product that would be others, null for those taken away; null where the change does nothing to it. `price`: what it sells at, where it follows its product. */
export function partsChanged(product: Product, change: TogetherChange, price = product.price): Parts | null {
  const only = (key: keyof Parts, value: unknown) => (same(product[key], value) ? null : { [key]: value })
  switch (change.do) {
    case 'price':
      return product.price === undefined ? null : only('price', changedPrice(product.price, change.by, change.step))
    case 'sale': {
      if (price === undefined) return null
      const { from, until } = change
      const sale = changedPrice(price, change.by, change.step)
      return only('sale', { price: sale, ...(from ? { from } : {}), ...(until ? { until } : {}) })
    }
    case 'endSale':
      return product.sale === undefined ? null : { sale: null }
    case 'addCategory':
      if (product.of !== undefined || product.categories?.includes(change.category)) return null
      return { categories: [...(product.categories ?? []), change.category] }
    case 'takeCategory':
      if (!product.categories?.includes(change.category)) return null
      return { categories: product.categories.filter(one => one !== change.category) }
    case 'tax':
      return only('taxCategory', change.category || null)
  }
}
