/**
 * The goods of a category, or all there are, as one visitor gets them: those they may find, in an order, narrowed down, a
 * page at a time. What may not be found counts nowhere; a price that is not told moves nothing.
 */
import type { CompiledDecider } from '../gates/compiled-decider'
import type { CompiledRules } from '../gates/compiled'
import { rightBit } from '../gates/verdict'
import type { Resource } from '../kinds/kinds'
import { categoriesOf } from '../kinds/product'
import type { Product } from '../kinds/product'
import type { SiteIndex } from '../site/site-index'
import type { Pricer } from './pricer'
import { variantsOf } from './variants'

export const shelfSorts = ['shown', 'name', 'price', 'price-high'] as const
/** As the operator ordered them, by name, the lowest price first, the highest price first. */
export type ShelfSort = (typeof shelfSorts)[number]

export interface ShelfAsk {
  /** A category, with those below it; left out, all goods. */ category?: string | undefined
  sort: ShelfSort
  /** What of the options of variants is looked for, such as `{ colour: 'moss' }`. */ only: Readonly<
    Record<string, string>
  >
  /** Those whose price is lowered by a sale. */ onSale?: boolean
  /** From 1. */ page: number
  perPage: number
}

export interface Shelf {
  ids: string[]
  /** How many there are in all. */ total: number
  /** From 1, within what there is. */ page: number
  pages: number
  /** What the variants somebody may find differ in. */
  facets: { name: string; values: string[] }[]
  /** Some of their prices are told, so that an order by price says something. */ priced: boolean
}

/** What is the same for everybody: products that are no variants, in a category or below it. */
interface Stock {
  products: Product[]
  resources: Resource[]
  weaves: Int32Array
  /** Positions by name, in the language of the site. */
  byName: Int32Array | undefined
}
const stocks = new WeakMap<CompiledRules, Map<string, Stock>>()

function stockOf(rules: CompiledRules, category: string | undefined): Stock {
  let all = stocks.get(rules)
  if (!all) stocks.set(rules, (all = new Map()))
  let stock = all.get(category ?? '')
  if (!stock) {
    const { index } = rules
    const products = [...index.all('product').values()].filter(
      one => one.of === undefined && (category === undefined || liesIn(one, category, index)),
    )
    const resources = products.map(({ id }): Resource => ({ kind: 'product', id }))
    const weaves = Int32Array.from(resources, one => rules.weaveOf(one))
    all.set(category ?? '', (stock = { products, resources, weaves, byName: undefined }))
  }
  return stock
}

const liesIn = (product: Product, category: string, index: SiteIndex) =>
  categoriesOf(product, index).some(one => index.lineage('category', one).includes(category))

function nameOrder(stock: Stock, locale: string): Int32Array {
  if (!stock.byName) {
    const { compare } = new Intl.Collator(locale, { numeric: true })
    const names = stock.products.map(({ title, id }) => title ?? id)
    stock.byName = Int32Array.from(names.keys()).sort((a, b) => compare(names[a]!, names[b]!) || a - b)
  }
  return stock.byName
}

/** Products of a category, those below it included, or all, that are no variants. */
export const goodsIn = (rules: CompiledRules, category?: string): readonly Resource[] =>
  stockOf(rules, category).resources

export interface LowestPrice {
  /** Of which it is. */ id: string
  /** Minor units. */ unit: number
  regular: number
  onSale: boolean
  /** Others of its variants cost something else. */ several: boolean
}

/** Products a visitor may find, with the variants of each they may find. */
export class Shelves {
  constructor(
    private readonly decider: CompiledDecider,
    private readonly pricer: Pricer,
  ) {}

  private bits(weave: number, id: string): number {
    // Whatever asks for what answers depend on is told of every weave.
    return this.decider.isWatched ? this.decider.bits({ kind: 'product', id }) : this.decider.bitsOfWeave(weave)
  }

  /** Variants of a product that may be found. */
  variants(id: string): Product[] {
    return variantsOf(id, this.decider.rules.index).filter(
      one => this.decider.bits({ kind: 'product', id: one.id }) & rightBit.find,
    )
  }

  /** What of a product is sold: its variants as far as they may be found, or itself. */
  sold(id: string): string[] {
    const { index } = this.decider.rules
    return variantsOf(id, index).length ? this.variants(id).map(one => one.id) : [id]
  }

  /** The lowest price of it that is told; null where none is. `several`: others of its variants cost more. */
  lowest(id: string): LowestPrice | null {
    let lowest: LowestPrice | null = null
    let several = false
    for (const one of this.sold(id)) {
      if (!(this.decider.bits({ kind: 'product', id: one }) & rightBit.price)) continue
      const price = this.pricer.quick(one)
      if (!price) continue
      several ||= lowest !== null && lowest.unit !== price.unit
      const { unit, regular, onSale } = price
      if (!lowest || unit < lowest.unit) lowest = { id: one, unit, regular, onSale, several }
    }
    return lowest && { ...lowest, several }
  }

  shelf({ category, sort, only, onSale = false, page, perPage }: ShelfAsk): Shelf {
    const { rules } = this.decider
    const stock = stockOf(rules, category)
    const order = sort === 'name' ? nameOrder(stock, rules.index.site.locale ?? 'en') : stock.products.keys()
    const found: number[] = []
    for (const i of order) if (this.bits(stock.weaves[i]!, stock.products[i]!.id) & rightBit.find) found.push(i)
    const facets = this.facets(found.map(i => stock.products[i]!))
    const wanted = Object.entries(only).filter(([name]) => facets.some(facet => facet.name === name))
    const prices = new Map<number, number>()
    const isByPrice = sort === 'price' || sort === 'price-high'
    let fitting = wanted.length ? found.filter(i => this.fits(stock.products[i]!, wanted)) : found
    if (onSale) fitting = fitting.filter(i => this.lowest(stock.products[i]!.id)?.onSale)
    if (isByPrice) {
      for (const i of fitting) prices.set(i, this.lowest(stock.products[i]!.id)?.unit ?? Number.NaN)
      fitting = byPrice(fitting, prices, sort === 'price-high')
    }
    const pages = Math.max(1, Math.ceil(fitting.length / perPage))
    const at = Math.min(Math.max(1, page), pages)
    const ids = fitting.slice((at - 1) * perPage, at * perPage).map(i => stock.products[i]!.id)
    const priced = ids.some(id => this.lowest(id) !== null)
    return { ids, total: fitting.length, page: at, pages, facets, priced }
  }

  private fits(product: Product, wanted: readonly [string, string][]): boolean {
    return this.variants(product.id).some(({ options = {} }) =>
      wanted.every(([name, value]) => options[name] === value),
    )
  }

  private facets(found: readonly Product[]): Shelf['facets'] {
    const all = new Map<string, Set<string>>()
    for (const { id } of found)
      for (const { options = {} } of this.variants(id))
        for (const [name, value] of Object.entries(options)) {
          const values = all.get(name)
          if (values) values.add(value)
          else all.set(name, new Set([value]))
        }
    const { compare } = new Intl.Collator(this.decider.rules.index.site.locale ?? 'en', { numeric: true })
    return [...all].map(([name, values]) => ({ name, values: [...values].sort(compare) }))
  }
}

/** What has no price that is told stays behind, in the order it had. */
function byPrice(found: readonly number[], prices: ReadonlyMap<number, number>, highFirst: boolean): number[] {
  const isTold = (i: number) => !Number.isNaN(prices.get(i))
  const told = found.filter(isTold)
  told.sort((a, b) => (highFirst ? prices.get(b)! - prices.get(a)! : prices.get(a)! - prices.get(b)!))
  return [...told, ...found.filter(i => !isTold(i))]
}
