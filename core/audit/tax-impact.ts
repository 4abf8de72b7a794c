/**
 * What a change does to the taxes people pay: for each tier, at each place there are rates for, of goods that are taxed
 * alike, what 100 of the currency as typed come to before and after; and how prices show to whom.
 */
import type { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { goodsOf } from '../shop/priced-goods'
import type { PricedProduct } from '../shop/priced-goods'
import type { Address, Place } from '../site/place'
import { taxOf } from '../tax/compiled-tax'
import type { Shown } from '../tax/tax-settings'
import type { AppliedRate } from '../tax/tax-trail'
import { Taxer } from '../tax/taxer'
import type { BoardTier } from './reach-board'
import { exampleAt, placesOf } from './tax-board'

/** Minor units: what is typed as this is what is told of. */
const sampleOf = 10_000

export interface TaxSample {
  taxes: Pick<AppliedRate, 'called' | 'percent'>[]
  /** What 100 as typed come to with tax; of delivery, which is typed without tax, the same. Minor units. */ gross: number
}
export interface TaxMove {
  /** Whom it moves for alike. */ tiers: string[]
  place: Place
  /** One of the goods that move alike and how many they are; null for delivery. */
  of: { product: string; goods: number } | null
  before: TaxSample
  after: TaxSample
}
export interface TaxImpact {
  /** What moves: each for a tier, at a place, of goods taxed alike, or of delivery. */ moved: number
  /** Tiers that pay less, or more, or the same under another name, somewhere. */ tiers: string[]
  lower: number
  higher: number
  /** The largest changes first, so many at most; of equal ones those of most tiers. */ moves: TaxMove[]
  /** Tiers prices show to in another way. */ shown: { tier: string; before: Shown; after: Shown }[]
}

const mostTold = 20

/** Goods that are taxed alike before and alike after, whoever buys them wherever. */
interface Alike {
  before: PricedProduct
  after: PricedProduct
  goods: number
}

/** Products that are in both, put together by how they say they are taxed and by which terms cover them. */
function alike(before: CompiledRules, after: CompiledRules): Alike[] {
  const found = new Map<string, Alike>()
  const earlier = goodsOf(before.index)
  const classOf = (rules: CompiledRules, product: PricedProduct) => {
    const tax = taxOf(rules)
    const { goodsTaxed, deliveryTaxed, category } = tax.ownOf(product.id)
    const covering = tax.goods.flatMap(({ covers }, i) => (covers(product) ? [i] : []))
    return `${goodsTaxed} ${deliveryTaxed} ${category} ${covering.join()}`
  }
  for (const product of goodsOf(after.index).all) {
    const was = earlier.get(product.id)
    if (!was) continue
    const key = `${classOf(before, was)}\n${classOf(after, product)}`
    const there = found.get(key)
    if (there) there.goods++
    else found.set(key, { before: was, after: product, goods: 1 })
  }
  return [...found.values()]
}

/** Both sides are asked at the same moment. What there are no rates for on either side is anywhere, and pays none. */
export function taxImpact(
  before: CompiledRules,
  after: CompiledRules,
  tiers: readonly BoardTier[],
  { nowMs }: { nowMs: number },
): TaxImpact {
  const sides = [before, after] as const
  const places = placesOf([...sides.flatMap(rules => taxOf(rules).rates.map(({ rate }) => rate))])
  const goods = alike(before, after)
  const impact: TaxImpact = { moved: 0, tiers: [], lower: 0, higher: 0, moves: [], shown: [] }
  const found = new Map<string, TaxMove>()
  for (const { id, visitor } of tiers) {
    const [then, now] = sides.map(rules => new Taxer(new CompiledDecider(rules, visitor, nowMs))) as [Taxer, Taxer]
    if (JSON.stringify(then.showing) !== JSON.stringify(now.showing))
      impact.shown.push({ tier: id, before: then.showing, after: now.showing })
    const moves = movesOf({ then, now }, places, goods)
    if (moves.length) impact.tiers.push(id)
    impact.moved += moves.length
    for (const move of moves) {
      if (move.after.gross < move.before.gross) impact.lower++
      if (move.after.gross > move.before.gross) impact.higher++
      const key = JSON.stringify(move)
      const there = found.get(key)
      if (there) there.tiers.push(id)
      else found.set(key, { tiers: [id], ...move })
    }
  }
  impact.moves = largestFirst([...found.values()])
  return impact
}

/** For one visitor; goods that move alike at a place are one move. */
function movesOf(
  { then, now }: { then: Taxer; now: Taxer },
  places: readonly Place[],
  goods: readonly Alike[],
): Omit<TaxMove, 'tiers'>[] {
  return (places.length ? places : [{}]).flatMap(place => {
    const at = exampleAt(place)
    const together = new Map<string, Omit<TaxMove, 'tiers'>>()
    for (const { before, after, goods: count } of goods) {
      const [was, is] = [sample(then, before, at), sample(now, after, at)]
      const key = JSON.stringify([was, is])
      const there = together.get(key)
      if (there) there.of!.goods += count
      else if (!isSame(was, is))
        together.set(key, { place, of: { product: after.id, goods: count }, before: was, after: is })
    }
    const [was, is] = [deliverySample(then, at), deliverySample(now, at)]
    return [...together.values(), ...(isSame(was, is) ? [] : [{ place, of: null, before: was, after: is }])]
  })
}

const isSame = (one: TaxSample, other: TaxSample) => JSON.stringify(one) === JSON.stringify(other)

const largestFirst = (moves: readonly TaxMove[]) => {
  const by = ({ before: was, after: is, tiers }: TaxMove) => Math.abs(is.gross - was.gross) + tiers.length / 1000
  return moves.toSorted((a, b) => by(b) - by(a)).slice(0, mostTold)
}

const taxesOf = (applied: readonly AppliedRate[]) => applied.map(({ called, percent }) => ({ called, percent }))

function sample(taxer: Taxer, product: PricedProduct, at: Address): TaxSample {
  const { applied, gross } = taxer.taxesOn(product, sampleOf, at)
  return { taxes: taxesOf(applied), gross }
}

function deliverySample(taxer: Taxer, at: Address): TaxSample {
  const { settings } = taxer.tax
  if (!settings) return { taxes: [], gross: sampleOf }
  const { applied, factor } = taxer.ratesAt(settings.deliveryCategory, at, true)
  return { taxes: taxesOf(applied), gross: factor.of(sampleOf) }
}
