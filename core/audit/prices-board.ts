/** What each tier pays: every product by every tier, worked out once and afterwards only where something moved. */
import { canonical } from '../canonical'
import type { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { rightBit } from '../gates/verdict'
import type { Offer } from '../rulebook/shop-rules'
import { offersOf } from '../shop/compiled-offers'
import type { CompiledOffers } from '../shop/compiled-offers'
import type { PricedProduct } from '../shop/priced-goods'
import { Pricer } from '../shop/pricer'
import type { BoardTier } from './reach-board'

export interface PricesBoard {
  rules: CompiledRules
  tiers: readonly BoardTier[]
  /** Pieces of each product. */ quantity: number
  nowMs: number
  products: readonly PricedProduct[]
  /** Unit price of product `p` for tier `t` at `p * tiers.length + t`, minor units, whoever may know it. */
  units: Float64Array
  /** Whether the tier is told it, and whether it may buy, as bits of the verdict. */
  bits: Uint8Array
  /** How many products were worked out anew. */ worked: number
}

/** `before`: a board whose figures still hold wherever nothing they are made from was changed. */
export function pricesBoard(
  rules: CompiledRules,
  tiers: readonly BoardTier[],
  { quantity = 1, nowMs }: { quantity?: number; nowMs: number },
  before?: PricesBoard,
): PricesBoard {
  const offers = offersOf(rules)
  const products = offers.goods.all
  const width = tiers.length
  const units = new Float64Array(products.length * width)
  const bits = new Uint8Array(products.length * width)
  const deciders = tiers.map(tier => new CompiledDecider(rules, tier.visitor, nowMs))
  const pricers = deciders.map(decider => new Pricer(decider))
  const weaves = products.map(({ id }) => rules.weaveOf({ kind: 'product', id }))
  for (let p = 0; p < products.length; p++)
    for (let t = 0; t < width; t++) bits[p * width + t] = deciders[t]!.bitsOfWeave(weaves[p]!)
  const kept = before && isLike(before, rules, { tiers, quantity, nowMs }) ? stillHolds(before, offers) : undefined
  let worked = 0
  for (let p = 0; p < products.length; p++) {
    const was = kept?.(products[p]!) ?? -1
    if (was >= 0) {
      for (let t = 0; t < width; t++) units[p * width + t] = before!.units[was * width + t]!
      continue
    }
    worked++
    for (let t = 0; t < width; t++) units[p * width + t] = pricers[t]!.unitOf(products[p]!, quantity)
  }
  return { rules, tiers, quantity, nowMs, products, units, bits, worked }
}

/** What conditions are read by besides the offers themselves: where it differs, everything is worked out anew. */
const basis = ({ rulebook: { levels, roles, permissions, facts, audiences } }: CompiledRules) =>
  canonical({ levels, roles, permissions, facts, audiences })

/** Offers and sales begin and end by the clock: what was worked out in another hour is worked out anew. */
const hour = 3_600_000

function isLike(
  before: PricesBoard,
  rules: CompiledRules,
  { tiers, quantity, nowMs }: Pick<PricesBoard, 'tiers' | 'quantity' | 'nowMs'>,
): boolean {
  return (
    before.tiers === tiers &&
    before.quantity === quantity &&
    Math.floor(before.nowMs / hour) === Math.floor(nowMs / hour) &&
    !looksAround(rules) &&
    !looksAround(before.rules) &&
    (before.rules.rulebook === rules.rulebook || basis(before.rules) === basis(rules))
  )
}

/** An offer for whoever may open something, or has something in the basket, depends on gates and goods besides its own. */
const looksAround = ({ rulebook: { offers = [], audiences = [] } }: CompiledRules) =>
  offers.length > 0 && /"(opens|basket|bought)":/.test(JSON.stringify([offers.map(one => one.for), audiences]))

/** The position a product had, where its figures still hold; -1 where they do not. */
function stillHolds(before: PricesBoard, offers: CompiledOffers): (product: PricedProduct) => number {
  const then = offersOf(before.rules)
  const [was, now] = [then, offers].map(
    one => new Map((one === then ? before.rules : offers.rules).rulebook.offers?.map(offer => [offer.id, offer])),
  ) as [Map<string, Offer>, Map<string, Offer>]
  const moved = new Set<string>()
  for (const id of new Set([...was.keys(), ...now.keys()]))
    if (was.get(id) !== now.get(id) && canonical(was.get(id) ?? null) !== canonical(now.get(id) ?? null)) moved.add(id)
  const touches = (side: CompiledOffers) => {
    const known = new Map<number, boolean>()
    return (product: PricedProduct) => {
      const weave = side.weaveOf(product)
      let touched = known.get(weave.number)
      if (touched === undefined) {
        touched =
          weave.offers.some(({ id }) => moved.has(id)) || [...weave.counts].some(n => moved.has(side.offers[n]!.id))
        known.set(weave.number, touched)
      }
      return touched
    }
  }
  const [touchedThen, touchedNow] = [touches(then), touches(offers)]
  const isSameSite = then.goods === offers.goods
  const positions = isSameSite ? undefined : new Map(before.products.map((one, i) => [one.id, i]))
  let at = -1
  return product => {
    at++
    const position = positions ? (positions.get(product.id) ?? -1) : at
    const earlier = before.products[position]
    if (!earlier || touchedNow(product) || touchedThen(earlier)) return -1
    if (isSameSite) return position
    const alike =
      earlier.root === product.root &&
      canonical(earlier.prices) === canonical(product.prices) &&
      sameGroup(then, earlier, offers, product)
    return alike ? position : -1
  }
}

function sameGroup(then: CompiledOffers, earlier: PricedProduct, now: CompiledOffers, product: PricedProduct): boolean {
  const [a, b] = [then.goods.groups[earlier.group]!, now.goods.groups[product.group]!]
  return a.size === b.size && [...a].every(one => b.has(one))
}

export interface PriceMove {
  product: string
  tier: string
  before: number
  after: number
}
export interface PriceImpact {
  /** Prices that differ, of those the tier is told on both sides. */
  moved: number
  products: number
  lower: number
  higher: number
  /** The largest change, by its part of the price before. */ largest?: PriceMove
  /** Those that pay more than before, the largest first. */ pays: PriceMove[]
  /** Those that fall under what the product costs the shop, and did not before; with what it costs. */
  underCost: (PriceMove & { cost: number })[]
  /** By tier, how many move. */ byTier: Record<string, number>
}

const mostTold = 20

/** How prices move from one board to another. What a tier is not told moves nothing for it. */
/** `costs`: what products cost the shop, minor units, as far as whoever asks may know it. */
export function priceImpact(
  before: PricesBoard,
  after: PricesBoard,
  costs: ReadonlyMap<string, number> = new Map(),
): PriceImpact {
  const width = after.tiers.length
  const isSame = before.products === after.products
  const positions = isSame ? undefined : new Map(before.products.map(({ id }, i) => [id, i]))
  const impact: PriceImpact = { moved: 0, products: 0, lower: 0, higher: 0, pays: [], underCost: [], byTier: {} }
  let largest = 0
  after.products.forEach(({ id }, p) => {
    const was = positions ? (positions.get(id) ?? -1) : p
    if (was < 0) return
    let touched = false
    const cost = costs.get(id)
    for (let t = 0; t < width; t++) {
      const [then, now] = [before.units[was * width + t]!, after.units[p * width + t]!]
      if (then === now || !(before.bits[was * width + t]! & after.bits[p * width + t]! & rightBit.price)) continue
      touched = true
      impact.moved++
      const tier = after.tiers[t]!.id
      impact.byTier[tier] = (impact.byTier[tier] ?? 0) + 1
      const move = { product: id, tier, before: then, after: now }
      if (now > then) {
        impact.higher++
        impact.pays.push(move)
        if (impact.pays.length > mostTold * 4) impact.pays = mostFirst(impact.pays)
      } else impact.lower++
      if (cost !== undefined && now < cost && then >= cost && impact.underCost.length < mostTold)
        impact.underCost.push({ ...move, cost })
      const part = Math.abs(now - then) / Math.max(1, then)
      if (part > largest) {
        largest = part
        impact.largest = move
      }
    }
    if (touched) impact.products++
  })
  impact.pays = mostFirst(impact.pays)
  return impact
}

const mostFirst = (moves: readonly PriceMove[]) =>
  moves.toSorted((a, b) => b.after - b.before - (a.after - a.before)).slice(0, mostTold)
