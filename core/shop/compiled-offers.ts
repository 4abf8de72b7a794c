/**
 * The offers of one rulebook over one site, compiled: goods that are in scope of the same offers, and counted by the
 * same, share an offer weave, and what a visitor gets of a weave is picked once, never once per product.
 */
import type { CompiledRules } from '../gates/compiled'
import type { ShopScope } from '../rulebook/shop-rules'
import { offersInOrder } from './offer'
import type { ReadOffer } from './offer'
import { goodsOf } from './priced-goods'
import type { PricedGoods, PricedProduct } from './priced-goods'
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

/** Where offers stand, for finding those of a product at once. */
class Scopes {
  private readonly shop: number[] = []
  private readonly categories = new Map<string, number[]>()
  private readonly products = new Map<string, number[]>()

  add(scope: ShopScope, number: number): void {
    if ('shop' in scope) this.shop.push(number)
    else if ('products' in scope) for (const id of scope.products) put(this.products, id, number)
    else for (const id of scope.categories) put(this.categories, id, number)
  }

  /** Of whatever lies in these categories. */
  inCategories(around: ReadonlySet<string>): number[] {
    return [...this.shop, ...[...around].flatMap(id => this.categories.get(id) ?? [])]
  }

  names(family: readonly string[]): boolean {
    return this.products.size > 0 && family.some(id => this.products.has(id))
  }

  ofProducts(family: readonly string[]): number[] {
    return this.products.size ? family.flatMap(id => this.products.get(id) ?? []) : []
  }
}

function put(map: Map<string, number[]>, id: string, number: number): void {
  const there = map.get(id)
  if (there) there.push(number)
  else map.set(id, [number])
}

export class CompiledOffers {
  readonly offers: readonly CompiledOffer[]
  readonly goods: PricedGoods
  private readonly on = new Scopes()
  private readonly counts = new Scopes()
  private readonly byKey = new Map<string, OfferWeave>()
  private readonly byGroup: (OfferWeave | undefined)[] = []
  /** Of products that offers name, each by itself. */
  private readonly byFamily = new Map<string, OfferWeave>()

  constructor(readonly rules: CompiledRules) {
    this.goods = goodsOf(rules.index)
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

  /** A product with its prices; null where it is not there or has no price. */
  product(id: string): PricedProduct | null {
    return this.goods.get(id)
  }

  weaveOf({ group, family }: PricedProduct): OfferWeave {
    if (this.on.names(family) || this.counts.names(family)) {
      const key = `${group}\n${family.join('\n')}`
      let own = this.byFamily.get(key)
      if (!own) this.byFamily.set(key, (own = this.weave(group, family)))
      return own
    }
    return (this.byGroup[group] ??= this.weave(group, []))
  }

  private weave(group: number, family: readonly string[]): OfferWeave {
    const around = this.goods.groups[group]!
    const on = distinct([...this.on.inCategories(around), ...this.on.ofProducts(family)])
    const counts = distinct([...this.counts.inCategories(around), ...this.counts.ofProducts(family)])
    const key = `${on.join()}|${counts.join()}`
    let weave = this.byKey.get(key)
    if (!weave) {
      const offers = on.map(number => this.offers[number]!)
      weave = {
        number: this.byKey.size,
        offers,
        ofLine: offers.filter(({ by }) => by !== 'spend'),
        ofBasket: offers.filter(({ by }) => by === 'spend'),
        counts: new Set(counts),
      }
      this.byKey.set(key, weave)
    }
    return weave
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
