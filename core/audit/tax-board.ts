/** What each tier is taxed: every place there are rates for by every category, for each tier. */
import type { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { taxOf } from '../tax/compiled-tax'
import type { Picked } from '../tax/compiled-tax'
import type { Address, Place } from '../site/place'
import { Taxer } from '../tax/taxer'
import type { Terms } from '../tax/terms'
import type { BoardTier } from './reach-board'

export interface TaxBoard {
  places: readonly Place[]
  categories: readonly string[]
  tiers: readonly BoardTier[]
  /** Of tier `t` at place `p` for category `c`: at `(p * categories.length + c) * tiers.length + t`. */
  goods: readonly Terms[]
  /** Of tier `t` at place `p`, for delivery: at `p * tiers.length + t`; empty where the shop says nothing of tax. */
  delivery: readonly Terms[]
}

/** An address a place holds: of postcodes the first beginning. A place for anywhere is where no country has rates. */
export const exampleAt = ({ country = '', region, startsWith }: Place): Address => ({
  country,
  ...(region === undefined ? {} : { region }),
  ...(startsWith?.length ? { postcode: startsWith[0]! } : {}),
})

const keyOf = ({ country = '', region = '', startsWith = [] }: Place) => `${country} ${region} ${startsWith.join(' ')}`

/** The places rates are for, each once, in the order of the rulebook: a country, what is in it, then anywhere. */
export function placesOf(rates: readonly { place: Place }[]): Place[] {
  const places = [...new Map(rates.map(({ place }) => [keyOf(place), place])).values()]
  const countries = [...new Set(places.map(one => one.country))]
  const rank = (place: Place) =>
    (place.country === undefined ? countries.length : countries.indexOf(place.country)) * 4 +
    (place.region ? 2 : 0) +
    (place.startsWith ? 1 : 0)
  return places.toSorted((a, b) => rank(a) - rank(b))
}

export function taxBoard(rules: CompiledRules, tiers: readonly BoardTier[], { nowMs }: { nowMs: number }): TaxBoard {
  const tax = taxOf(rules)
  const places = placesOf(tax.rates.map(({ rate }) => rate))
  const categories = [...new Set(tax.rates.map(({ rate }) => rate.category))]
  const deliveryCategory = tax.settings?.deliveryCategory
  const taxers = tiers.map(tier => new Taxer(new CompiledDecider(rules, tier.visitor, nowMs)))
  const goods: Terms[] = []
  const delivery: Terms[] = []
  for (const place of places) {
    const at = exampleAt(place)
    for (const category of categories) pushAll(goods, taxers, tax.pick(category, at), false)
    if (deliveryCategory !== undefined) pushAll(delivery, taxers, tax.pick(deliveryCategory, at), true)
  }
  return { places, categories, tiers, goods, delivery }
}

function pushAll(into: Terms[], taxers: readonly Taxer[], picked: Picked, isDelivery: boolean): void {
  for (let t = 0; t < taxers.length; t++) into.push(taxers[t]!.termsOf(picked, isDelivery))
}
