/**
 * The offers of one rulebook over one site, compiled: every product is given its offer weave (the products that are in
 * scope of the same offers, and counted by the same), and what a visitor gets of a weave is picked once, never once per
 * product.
 */
import type { CompiledRules } from '../gates/compiled'
import type { Product } from '../kinds/product'
import { categoriesOf } from '../kinds/product'
import type { ShopScope } from '../rulebook/shop-rules'
import { offersInOrder } from './offer'
import type { ReadOffer } from './offer'
import { familyOf, pricesOf } from './prices-of'
import type { Prices } from './prices-of'
import { compiledReduction } from './reduction'
import type { Reduction } from './reduction'

export interface CompiledOffer extends ReadOffer {
  /** Its place among all, by order and id. */ number: number
  reductions: readonly Reduction[]
}

export interface OfferWeave {
  number: number
  /** In scope, by order and id, whether switched on or not. */
  offers: readonly CompiledOffer[]
  /** The same without discounts on the basket, and these alone. */
  ofLine: readonly CompiledOffer[]
  ofBasket: readonly CompiledOffer[]
  /** By number of the offer: its products count towards it. */
  counts: ReadonlySet<number>
}

export interface PricedProduct {
  id: string
  prices: Prices
  weave: OfferWeave
  /** The product it is a variant of, or itself: what is counted together. */ root: string
}

/** Where offers stand, for finding those of a product at once. */
class Scopes {
  private readonly shop: number[] = []
  private readonly categories = new Map<string, number[]>()
  private readonly products = new Map<string, number[]>()

  add(scope: ShopScope, number: number): void {
    const into = (map: Map<string, number[]>, id: string) => {
      const there = map.get(id)
      if (there) there.push(number)
      else map.set(id, [number])
    }
    if ('shop' in scope) this.shop.push(number)
    else if ('products' in scope) for (const id of scope.products) into(this.products, id)
    else for (const id of scope.categories) into(this.categories, id)
  }

  /** Of whatever lies in these categories. */
  inCategories(around: ReadonlySet<string>): number[] {
    return [...this.shop, ...[...around].flatMap(id => this.categories.get(id) ?? [])]
  }

  ofProducts(family: readonly Product[]): number[] {
    return this.products.size ? family.flatMap(({ id }) => this.products.get(id) ?? []) : []
  }
}

export class CompiledOffers {
  readonly offers: readonly CompiledOffer[]
  readonly weaves: OfferWeave[] = []
  private readonly on = new Scopes()
  private readonly counts = new Scopes()
  private readonly byKey = new Map<string, OfferWeave>()
  private readonly byCategories = new Map<string, { on: number[]; counts: number[] }>()
  private readonly products = new Map<string, PricedProduct | null>()

  constructor(readonly rules: CompiledRules) {
    this.offers = offersInOrder(rules.rulebook.offers ?? []).map((offer, number): CompiledOffer => ({
      ...offer,
      number,
      reductions: offer.bands.map(({ off }) => compiledReduction(off)),
    }))
    for (const { on, counts, number } of this.offers) {
      this.on.add(on, number)
      this.counts.add(counts, number)
    }
  }

  /** A product with its prices and offers; null where it is not there or has no price. */
  product(id: string): PricedProduct | null {
    const known = this.products.get(id)
    if (known !== undefined) return known
    const made = this.make(id)
    this.products.set(id, made)
    return made
  }

  private make(id: string): PricedProduct | null {
    const { index } = this.rules
    const product = index.get('product', id)
    const prices = product && pricesOf(product, index)
    if (!prices) return null
    const family = familyOf(product, index)
    return { id, prices, weave: this.weaveOf(product, family), root: family.at(-1)!.id }
  }

  private weaveOf(product: Product, family: readonly Product[]): OfferWeave {
    const within = this.inCategories(categoriesOf(product, this.rules.index))
    const on = distinct([...within.on, ...this.on.ofProducts(family)])
    const counts = distinct([...within.counts, ...this.counts.ofProducts(family)])
    const key = `${on.join()}|${counts.join()}`
    let weave = this.byKey.get(key)
    if (!weave) {
      const offers = on.map(number => this.offers[number]!)
      weave = {
        number: this.weaves.length,
        offers,
        ofLine: offers.filter(({ by }) => by !== 'spend'),
        ofBasket: offers.filter(({ by }) => by === 'spend'),
        counts: new Set(counts),
      }
      this.weaves.push(weave)
      this.byKey.set(key, weave)
    }
    return weave
  }

  /** Very few different lists of categories exist, however many products. */
  private inCategories(categories: readonly string[]): { on: number[]; counts: number[] } {
    const key = categories.join('\n')
    let found = this.byCategories.get(key)
    if (!found) {
      const around = new Set(categories.flatMap(id => this.rules.index.lineage('category', id)))
      found = { on: this.on.inCategories(around), counts: this.counts.inCategories(around) }
      this.byCategories.set(key, found)
    }
    return found
  }
}

const distinct = (numbers: number[]): number[] => [...new Set(numbers)].sort((a, b) => a - b)

const compiled = new WeakMap<CompiledRules, CompiledOffers>()
/** Those of a rulebook, compiled when the first price under it is asked for. */
export function offersOf(rules: CompiledRules): CompiledOffers {
  let offers = compiled.get(rules)
  if (!offers) compiled.set(rules, (offers = new CompiledOffers(rules)))
  return offers
}
