/** The taxes of a rulebook, ready for asking: rates by category, tax and country, each place picked once. */
import type { z } from 'zod'
import type { CompiledRules } from '../gates/compiled'
import type { goods, ShopScope, shown } from '../rulebook/shop-rules'
import type { PricedProduct } from '../shop/priced-goods'
import { goodsOf } from '../shop/priced-goods'
import { ownTaxesOf } from './own-tax'
import type { OwnTax, OwnTaxes } from './own-tax'
import { fitOf, foldedPostcode, isCloser } from '../site/place'
import type { Address, Fit } from '../site/place'
import { one } from './ratio'
import type { Ratio } from './ratio'
import { readTaxSettings } from './tax-settings'
import type { ReadTaxSettings } from './tax-settings'
import { termsOf } from './terms'
import type { CompiledRate, CompiledTaxKind, Exception, Terms } from './terms'

export type GoodsEntry = z.infer<typeof goods>
export type ShownEntry = z.infer<typeof shown>

export interface CompiledGoods {
  entry: GoodsEntry
  covers(product: PricedProduct): boolean
}

/** Of each tax the closest rate for an address; one object for the same rates, wherever they are picked. */
export interface Picked {
  rates: readonly CompiledRate[]
  /** Somebody may have other terms. */ hasExceptions: boolean
  /** What was worked out of them, by the exceptions that hold. */ goods: Map<string, Terms>
  deliveries: Map<string, Terms>
}

/** Rates of one category for one tax, in the order of the rulebook. */
interface OfTax {
  byCountry: Map<string, CompiledRate[]>
  anyCountry: CompiledRate[]
}

/** Picks kept at most: postcodes are as many as people write. */
const mostPicks = 20_000

export class CompiledTax {
  readonly settings: ReadTaxSettings | undefined
  readonly goods: readonly CompiledGoods[]
  readonly shown: readonly ShownEntry[]
  readonly rates: readonly CompiledRate[]
  private readonly byCategory = new Map<string, OfTax[]>()
  /** Categories some rate of which asks for the postcode. */ private readonly withPostcodes = new Set<string>()
  private readonly countries = new Set<string>()
  private readonly regions = new Set<string>()
  private readonly picks = new Map<string, Picked>()
  private readonly byRates = new Map<string, Picked>()
  private readonly insides = new Map<string, Ratio>()
  private readonly own: OwnTaxes

  constructor(private readonly rules: CompiledRules) {
    const { settings, taxes = [], rates = [], exceptions = [], goods = [], shown = [] } = rules.rulebook.tax ?? {}
    this.settings = settings && readTaxSettings(settings)
    this.own = ownTaxesOf(rules.index)
    this.goods = goods.filter(isActive).map(entry => ({ entry, covers: this.covering(entry.on) }))
    this.shown = shown.filter(isActive)
    const byRate = new Map<string, Exception[]>()
    for (const one of exceptions.filter(isActive)) put(byRate, one.rate, one)
    const kinds = taxes.map(({ id, name = id, onTopOf = [] }): CompiledTaxKind => ({ id, called: name, onTopOf }))
    const numberOf = new Map(kinds.map(({ id }, i) => [id, i]))
    this.rates = rates.flatMap(rate => {
      const tax = kinds[numberOf.get(rate.tax) ?? -1]
      return tax ? [{ rate, tax, exceptions: byRate.get(rate.id) ?? [] }] : []
    })
    for (const one of this.rates) this.add(one, numberOf.get(one.tax.id)!, kinds.length)
  }

  private add(compiled: CompiledRate, tax: number, taxes: number): void {
    const { category, place } = compiled.rate
    let ofCategory = this.byCategory.get(category)
    if (!ofCategory) {
      ofCategory = Array.from({ length: taxes }, () => ({ byCountry: new Map(), anyCountry: [] }))
      this.byCategory.set(category, ofCategory)
    }
    const { country, region, startsWith } = place
    if (country === undefined) ofCategory[tax]!.anyCountry.push(compiled)
    else put(ofCategory[tax]!.byCountry, country, compiled)
    if (country !== undefined) this.countries.add(country)
    if (region !== undefined) this.regions.add(region)
    if (startsWith) this.withPostcodes.add(category)
  }

  /** Whether goods in scope of something are so: by family, or by categories around them. */
  private covering(scope: ShopScope): (product: PricedProduct) => boolean {
    if ('shop' in scope) return () => true
    if ('products' in scope) {
      const ids = new Set(scope.products)
      return ({ family }) => family.some(id => ids.has(id))
    }
    const { groups } = goodsOf(this.rules.index)
    return ({ group }) => scope.categories.some(id => groups[group]!.has(id))
  }

  /** How a product is taxed as it says itself. */
  ownOf(id: string): OwnTax {
    return this.own.of(id)
  }

  /** Of each tax the rate that fits an address most closely, in the order of the taxes, before anybody's exceptions. */
  pick(category: string, at: Address): Picked {
    const postcode = this.withPostcodes.has(category) ? foldedPostcode(at.postcode ?? '') : ''
    const key = `${category}\n${at.country}\n${at.region ?? ''}\n${postcode}`
    let picked = this.picks.get(key)
    if (!picked) {
      if (this.picks.size >= mostPicks) this.picks.clear()
      picked = this.same((this.byCategory.get(category) ?? []).flatMap(ofTax => closest(ofTax, at) ?? []))
      this.picks.set(key, picked)
    }
    return picked
  }

  private same(rates: readonly CompiledRate[]): Picked {
    const key = rates.map(({ rate }) => rate.id).join('\n')
    let picked = this.byRates.get(key)
    if (!picked) {
      const hasExceptions = rates.some(({ exceptions }) => exceptions.length > 0)
      picked = { rates, hasExceptions, goods: new Map(), deliveries: new Map() }
      this.byRates.set(key, picked)
    }
    return picked
  }

  /** `chosen`: by position, what holds for somebody of those that name the rate. Default: nobody has other terms. */
  termsOf(picked: Picked, isDelivery: boolean, chosen?: readonly (Exception | undefined)[]): Terms {
    const known = isDelivery ? picked.deliveries : picked.goods
    const key = chosen ? chosen.map(one => one?.id ?? '').join('\n') : ''
    let terms = known.get(key)
    if (!terms) known.set(key, (terms = termsOf(picked.rates, isDelivery, chosen)))
    return terms
  }

  /** One and the taxes a typed price holds, by the product's own category and flags, nobody's exceptions. */
  inside({ goodsTaxed, category }: OwnTax): Ratio {
    if (!goodsTaxed || !this.settings) return one
    let inside = this.insides.get(category)
    if (!inside) {
      inside = this.termsOf(this.pick(category, this.settings.origin), false).factor
      this.insides.set(category, inside)
    }
    return inside
  }

  /** Equal for addresses no rate tells apart, as far as a request tells where somebody is. Nobody's whereabouts: at home. */
  placeKey(request: { country?: string | undefined; region?: string | undefined }): string {
    const { country, region = '' } = request
    if (!country) return 'home'
    return `${this.countries.has(country) ? country : ''} ${this.regions.has(region) ? region : ''}`
  }

  /** Whether where somebody is makes a difference. */
  get turnsOnPlace(): boolean {
    return this.settings?.place === 'destination' && this.rates.some(({ rate }) => Object.keys(rate.place).length > 0)
  }
}

const isActive = ({ active }: { active?: boolean | undefined }) => active !== false

function put<T>(map: Map<string, T[]>, key: string, value: T): void {
  const there = map.get(key)
  if (there) there.push(value)
  else map.set(key, [value])
}

function closest({ byCountry, anyCountry }: OfTax, at: Address): CompiledRate | undefined {
  let best: { rate: CompiledRate; fit: Fit } | undefined
  // A rate of a country and one of none never fit alike, so that which list comes first does not matter.
  for (const list of [byCountry.get(at.country) ?? [], anyCountry])
    for (const rate of list) {
      const fit = fitOf(rate.rate.place, at)
      if (fit && (!best || isCloser(fit, best.fit))) best = { rate, fit }
    }
  return best?.rate
}

const compiled = new WeakMap<CompiledRules, CompiledTax>()
/** Those of a rulebook, compiled when the first is asked for. */
export function taxOf(rules: CompiledRules): CompiledTax {
  let tax = compiled.get(rules)
  if (!tax) compiled.set(rules, (tax = new CompiledTax(rules)))
  return tax
}
