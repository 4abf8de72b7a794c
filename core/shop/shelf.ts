/**
 * The goods of a category, or all there are, as one visitor gets them: those they may find, in an order, narrowed down, a
 * page at a time. What may not be found counts nowhere; a price that is not told moves nothing.
 */
import type { CompiledDecider } from '../gates/compiled-decider'
import type { CompiledRules } from '../gates/compiled'
import { rightBit } from '../gates/verdict'
import type { Resource } from '../kinds/kinds'
import { liesInCategory } from '../kinds/product'
import type { Product } from '../kinds/product'
import { goodsOf } from './priced-goods'
import type { PricedProduct } from './priced-goods'
import { pickedUnit } from './picked'
import type { Picked } from './picked'
import type { Pricer, QuickPrice } from './pricer'
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
  /** The weaves there are, each once. */ distinct: number[]
  /** By position, whether it has no variants; and positions of those that have. */
  plain: Uint8Array
  priced: readonly (PricedProduct | null)[]
  varied: number[]
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
      one => one.of === undefined && (category === undefined || liesInCategory(one, category, index)),
    )
    const resources = products.map(({ id }): Resource => ({ kind: 'product', id }))
    const weaves = Int32Array.from(resources, one => rules.weaveOf(one))
    const plain = Uint8Array.from(products, ({ id }) => (variantsOf(id, index).length ? 0 : 1))
    const priced = products.map(({ id }) => goodsOf(index).get(id))
    const varied = [...plain.keys()].filter(i => !plain[i])
    const distinct = [...new Set(weaves)].filter(weave => weave >= 0)
    all.set(
      category ?? '',
      (stock = { products, resources, weaves, distinct, plain, priced, varied, byName: undefined }),
    )
  }
  return stock
}

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
  won: QuickPrice['won']
  /** Others of its variants cost something else. */ several: boolean
}

/** Products a visitor may find, with the variants of each they may find. */
export class Shelves {
  constructor(
    private readonly decider: CompiledDecider,
    private readonly pricer: Pricer,
  ) {}

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
      if (!lowest || price.unit < lowest.unit) lowest = { id: one, ...price, several }
    }
    return lowest && { ...lowest, several }
  }

  shelf({ category, sort, only, page, perPage }: ShelfAsk): Shelf {
    const { rules } = this.decider
    const stock = stockOf(rules, category)
    const found = this.found(stock, sort === 'name' ? nameOrder(stock, rules.index.site.locale ?? 'en') : undefined)
    const facets = this.facets(stock)
    const wanted = Object.entries(only).filter(([name]) => facets.some(facet => facet.name === name))
    let fitting: ArrayLike<number> = found
    if (wanted.length) fitting = found.filter(i => this.fits(stock.products[i]!, wanted))
    if (sort === 'price' || sort === 'price-high') fitting = this.byPrice(stock, fitting, sort === 'price-high')
    const pages = Math.max(1, Math.ceil(fitting.length / perPage))
    const at = Math.min(Math.max(1, page), pages)
    const ids: string[] = []
    for (let i = (at - 1) * perPage; i < Math.min(at * perPage, fitting.length); i++)
      ids.push(stock.products[fitting[i]!]!.id)
    const priced = ids.some(id => this.lowest(id) !== null)
    return { ids, total: fitting.length, page: at, pages, facets, priced }
  }

  /** Positions of those that may be found: decided once for each weave. */
  private found({ weaves, distinct }: Stock, order: Int32Array | undefined): Int32Array {
    const finds = new Uint8Array(this.decider.rules.weaves.length)
    for (const weave of distinct) finds[weave] = this.decider.watchedBits(weave) & rightBit.find
    const found = new Int32Array(weaves.length)
    let count = 0
    for (let at = 0; at < weaves.length; at++) {
      const i = order ? order[at]! : at
      if (weaves[i]! >= 0 && finds[weaves[i]!]) found[count++] = i
    }
    return found.subarray(0, count)
  }

  /** What has no price that is told stays behind, in the order it had; of equal prices the earlier comes first. */
  private byPrice(stock: Stock, found: ArrayLike<number>, highFirst: boolean): Int32Array {
    const told = new Float64Array(found.length)
    const behind: number[] = []
    const lowest = this.lowestUnits(stock)
    let count = 0
    for (let at = 0; at < found.length; at++) {
      const i = found[at]!
      const unit = lowest(i)
      if (Number.isNaN(unit)) behind.push(i)
      // A price and a place in one number: sorting numbers is much faster than asking for two.
      else told[count++] = (highFirst ? mostMinor - unit : unit) * mostPlaces + at
    }
    const sorted = told.subarray(0, count).sort()
    const inOrder = new Int32Array(found.length)
    for (let at = 0; at < count; at++) inOrder[at] = found[sorted[at]! % mostPlaces]!
    inOrder.set(behind, count)
    return inOrder
  }

  /** The lowest price of each that is told, by position; not a number where none is. */
  private lowestUnits({ products, weaves, distinct, plain, priced }: Stock): (i: number) => number {
    const { offers } = this.pricer
    const picks: (Picked | undefined)[] = []
    const told = new Uint8Array(this.decider.rules.weaves.length)
    for (const weave of distinct) told[weave] = this.decider.bitsOfWeave(weave) & rightBit.price
    return i => {
      if (!plain[i]) return this.lowest(products[i]!.id)?.unit ?? Number.NaN
      const one = priced[i]
      if (!one || !told[weaves[i]!]) return Number.NaN
      const weave = offers.weaveOf(one)
      const picked = (picks[weave.number] ??= this.pricer.pick(weave, 1))
      return pickedUnit(picked, one.prices.regular, this.pricer.currentOf(one.prices), 1)
    }
  }

  private fits(product: Product, wanted: readonly [string, string][]): boolean {
    return this.variants(product.id).some(({ options = {} }) =>
      wanted.every(([name, value]) => options[name] === value),
    )
  }

  private facets({ products, varied }: Stock): Shelf['facets'] {
    const all = new Map<string, Set<string>>()
    for (const i of varied) {
      if (!(this.decider.bits({ kind: 'product', id: products[i]!.id }) & rightBit.find)) continue
      for (const { options = {} } of this.variants(products[i]!.id))
        for (const [name, value] of Object.entries(options)) {
          const values = all.get(name)
          if (values) values.add(value)
          else all.set(name, new Set([value]))
        }
    }
    const { compare } = new Intl.Collator(this.decider.rules.index.site.locale ?? 'en', { numeric: true })
    return [...all].map(([name, values]) => ({ name, values: [...values].sort(compare) }))
  }
}

/** Places on a shelf fit beside a price in one whole number: prices up to a thousand million minor units, a million places. */
const mostPlaces = 2 ** 20
const mostMinor = 1_000_000_000
