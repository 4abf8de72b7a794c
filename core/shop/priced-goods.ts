/**
 * All goods of a site with what their prices are worked out from, read once for the site whatever the offers are: very
 * few different lists of categories exist, however many products.
 */
import type { Product } from '../kinds/product'
import { categoriesOf } from '../kinds/product'
import type { SiteIndex } from '../site/site-index'
import { familyOf, pricesOf } from './prices-of'
import type { Prices } from './prices-of'

export interface PricedProduct {
  id: string
  prices: Prices
  /** Products that lie in the same categories have one number. */ group: number
  /** The product it is a variant of, or itself: what is counted together. */ root: string
  /** Itself and the products it is a variant of. */ family: readonly string[]
}

export class PricedGoods {
  /** By group, its categories with all above them. */
  readonly groups: ReadonlySet<string>[] = []
  private readonly groupOf = new Map<string, number>()
  private readonly known = new Map<string, PricedProduct | null>()
  private everything: readonly PricedProduct[] | undefined

  constructor(private readonly index: SiteIndex) {}

  /** Null for one that is not there, or has no price. */
  get(id: string): PricedProduct | null {
    const known = this.known.get(id)
    if (known !== undefined) return known
    const product = this.index.get('product', id)
    const made = product ? this.make(product) : null
    this.known.set(id, made)
    return made
  }

  /** In the order of the site, those with a price. */
  get all(): readonly PricedProduct[] {
    return (this.everything ??= [...this.index.all('product').keys()].flatMap(id => this.get(id) ?? []))
  }

  private make(product: Product): PricedProduct | null {
    const { index } = this
    const prices = pricesOf(product, index)
    if (!prices) return null
    const family = product.of === undefined ? [product.id] : familyOf(product, index).map(one => one.id)
    return { id: product.id, prices, group: this.group(categoriesOf(product, index)), root: family.at(-1)!, family }
  }

  private group(categories: readonly string[]): number {
    const key = categories.length === 1 ? categories[0]! : categories.join('\n')
    let number = this.groupOf.get(key)
    if (number === undefined) {
      number = this.groups.length
      this.groups.push(new Set(categories.flatMap(id => this.index.lineage('category', id))))
      this.groupOf.set(key, number)
    }
    return number
  }
}

const read = new WeakMap<SiteIndex, PricedGoods>()
export function goodsOf(index: SiteIndex): PricedGoods {
  let goods = read.get(index)
  if (!goods) read.set(index, (goods = new PricedGoods(index)))
  return goods
}
