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
import type { CompiledTax } from '../tax/compiled-tax'
import type { OwnTax } from '../tax/own-tax'
import type { Shown } from '../tax/tax-settings'
import type { AppliedRate } from '../tax/tax-trail'
import { Taxer } from '../tax/taxer'
import type { Terms } from '../tax/terms'
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
  /** What was worked out by what applies to them before, then after: few things do, wherever and to whomever. */
  known: Map<Terms, Map<Terms, Samples | null>>
}
/** What is paid before and after; equal keys for equal ones. */
interface Samples {
  key: string
  before: TaxSample
  after: TaxSample
}

/** Products that are in both, put together by how they say they are taxed and by which terms cover them. */
function alike(before: CompiledRules, after: CompiledRules): Alike[] {
  const found = new Map<OwnTax, Map<OwnTax, Map<string, Alike>>>()
  const all: Alike[] = []
  const earlier = goodsOf(before.index)
  const [was, is] = [taxOf(before), taxOf(after)]
  const covering = ({ goods }: CompiledTax, product: PricedProduct) =>
    goods.flatMap(({ covers }, i) => (covers(product) ? [i] : [])).join()
  const none = !was.goods.length && !is.goods.length
  for (const product of goodsOf(after.index).all) {
    const then = before.index === after.index ? product : earlier.get(product.id)
    if (!then) continue
    const terms = none ? '' : `${covering(was, then)} ${covering(is, product)}`
    const byTerms = inside(
      inside(found, was.ownOf(then.id), () => new Map<OwnTax, Map<string, Alike>>()),
      is.ownOf(product.id),
      () => new Map<string, Alike>(),
    )
    const one = inside(byTerms, terms, () => {
      const made = { before: then, after: product, goods: 0, known: new Map<Terms, Map<Terms, Samples | null>>() }
      all.push(made)
      return made
    })
    one.goods++
  }
  return all
}

function inside<K, V>(map: Map<K, V>, key: K, make: () => V): V {
  let value = map.get(key)
  if (value === undefined) map.set(key, (value = make()))
  return value
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
    for (const one of goods) {
      const samples = samplesOf({ then, now }, one, at)
      if (!samples) continue
      const { key, before, after } = samples
      const there = together.get(key)
      if (there) there.of!.goods += one.goods
      else together.set(key, { place, of: { product: one.after.id, goods: one.goods }, before, after })
    }
    const sent = differing(deliverySample(then, at), deliverySample(now, at))
    return [...together.values(), ...(sent ? [{ place, of: null, before: sent.before, after: sent.after }] : [])]
  })
}

/** Null where nothing moves. */
function samplesOf(
  { then, now }: { then: Taxer; now: Taxer },
  { before, after, known }: Alike,
  at: Address,
): Samples | null {
  const [was, is] = [then.termsOn(before, at), now.termsOn(after, at)]
  const byAfter = inside(known, was, () => new Map<Terms, Samples | null>())
  let samples = byAfter.get(is)
  if (samples === undefined) byAfter.set(is, (samples = differing(sample(then, before, at), sample(now, after, at))))
  return samples
}

function differing(before: TaxSample, after: TaxSample): Samples | null {
  const [was, is] = [JSON.stringify(before), JSON.stringify(after)]
  return was === is ? null : { key: `${was} ${is}`, before, after }
}

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
