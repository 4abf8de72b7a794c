/** What each tier pays: every product by every tier, worked out once and afterwards only where something moved. */
import { canonical } from '../canonical'
import type { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { rightBit } from '../gates/verdict'
import type { Offer } from '../rulebook/shop-rules'
import { offersOf } from '../shop/compiled-offers'
import type { CompiledOffers } from '../shop/compiled-offers'
import type { PricedProduct } from '../shop/priced-goods'
import { pickedUnit } from '../shop/picked'
import { Pricer } from '../shop/pricer'
import type { Picked } from '../shop/picked'
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
  const deciders = tiers.map(tier => new CompiledDecider(rules, tier.visitor, nowMs))
  const bits = before && sameGates(before, rules, tiers, nowMs) ? before.bits : bitsOf(rules, products, deciders)
  const ask = { tiers, quantity, nowMs }
  const pricers = deciders.map(decider => new Pricer(decider))
  if (before && isLike(before, rules, ask)) {
    const { units, worked } = worksOutMoved(before, offers, pricers, quantity)
    return { rules, ...ask, products, units, bits, worked }
  }
  const units = new Float64Array(products.length * tiers.length)
  const row = rowsInto(units, offers, pricers, { quantity })
  products.forEach((product, p) => row(product, p))
  return { rules, ...ask, products, units, bits, worked: products.length }
}

function bitsOf(rules: CompiledRules, products: readonly PricedProduct[], deciders: readonly CompiledDecider[]) {
  const width = deciders.length
  const weaves = Int32Array.from(products, ({ id }) => rules.weaveOf({ kind: 'product', id }))
  const table = new Uint8Array(rules.weaves.length * width)
  for (let w = 0; w < rules.weaves.length; w++)
    for (let t = 0; t < width; t++) table[w * width + t] = deciders[t]!.bitsOfWeave(w)
  const bits = new Uint8Array(products.length * width)
  for (let p = 0; p < products.length; p++)
    if (weaves[p]! >= 0) bits.set(table.subarray(weaves[p]! * width, (weaves[p]! + 1) * width), p * width)
  return bits
}

/** Tiers that get the same offers at the same steps pay the same. */
interface Alike {
  picked: Picked
  tiers: number[]
}
const pickedKey = ({ best, stack }: Picked) =>
  [best, stack]
    .map(list => list.map(({ offer, reduction }) => `${offer.number} ${reduction.kind} ${reduction.value}`).join())
    .join('|')

function alikeAmong(picks: readonly Picked[], some: readonly number[]): Alike[] {
  const groups = new Map<string, Alike>()
  for (const t of some) {
    const key = pickedKey(picks[t]!)
    const known = groups.get(key)
    if (known) known.tiers.push(t)
    else groups.set(key, { picked: picks[t]!, tiers: [t] })
  }
  return [...groups.values()]
}

/** Works out the prices of one product. `some`: for these tiers; default all. */
function rowsInto(
  units: Float64Array,
  offers: CompiledOffers,
  pricers: readonly Pricer[],
  { quantity, some = pricers.map((_, t) => t) }: { quantity: number; some?: readonly number[] | undefined },
) {
  const width = pricers.length
  const groups: (Alike[] | undefined)[] = []
  // Sales begin and end by the day, which is the same for all but whoever asks at a time of their own.
  const days = pricers.map(pricer => pricer.day)
  const isOneDay = days.every(day => day === days[0])
  return (product: PricedProduct, p: number): void => {
    const { prices } = product
    const weave = offers.weaveOf(product)
    const alike = (groups[weave.number] ??= alikeAmong(
      pricers.map(pricer => pricer.pick(weave, quantity)),
      some,
    ))
    const shared = isOneDay && width ? pricers[0]!.currentOf(prices) : 0
    for (let g = 0; g < alike.length; g++) {
      const { picked, tiers } = alike[g]!
      if (isOneDay) {
        const unit = pickedUnit(picked, prices.regular, shared, quantity)
        for (let i = 0; i < tiers.length; i++) units[p * width + tiers[i]!] = unit
      } else
        for (const t of tiers)
          units[p * width + t] = pickedUnit(picked, prices.regular, pricers[t]!.currentOf(prices), quantity)
    }
  }
}

/** What conditions are read by besides the offers themselves: where it differs, everything is worked out anew. */
const basis = ['levels', 'roles', 'permissions', 'facts', 'audiences'] as const
const sameBasis = (one: CompiledRules, other: CompiledRules) =>
  basis.every(part => saysSame(one.rulebook[part], other.rulebook[part]))
const saysSame = (one: unknown, other: unknown) => one === other || canonical(one) === canonical(other)

/** Rights turn on gates and on whom they name; the same things with the same gates have the same. */
function sameGates(before: PricesBoard, rules: CompiledRules, tiers: readonly BoardTier[], nowMs: number): boolean {
  const one = before.rules
  if (before.tiers !== tiers || before.nowMs !== nowMs || one.index !== rules.index) return false
  const [a, b] = [one.rulebook, rules.rulebook]
  return a === b || (saysSame(a.gates, b.gates) && sameBasis(one, rules) && saysSame(a.settings, b.settings))
}

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
    (before.rules.rulebook === rules.rulebook || sameBasis(before.rules, rules))
  )
}

/** An offer for whoever may open something, or has something in the basket, depends on gates and goods besides its own. */
const looksAround = ({ rulebook: { offers = [], audiences = [] } }: CompiledRules) =>
  offers.length > 0 && /"(opens|basket|bought)":/.test(JSON.stringify([offers.map(one => one.for), audiences]))

/** Offers that differ between two rulebooks, by id. */
function movedOffers(then: CompiledOffers, now: CompiledOffers): Set<string> {
  const [was, is] = [then, now].map(
    side => new Map((side.rules.rulebook.offers ?? []).map(offer => [offer.id, offer])),
  ) as [Map<string, Offer>, Map<string, Offer>]
  return new Set(
    [...new Set([...was.keys(), ...is.keys()])].filter(
      id => was.get(id) !== is.get(id) && canonical(was.get(id) ?? null) !== canonical(is.get(id) ?? null),
    ),
  )
}

/** Whether an offer that moved bears on a product. */
function touches(side: CompiledOffers, moved: ReadonlySet<string>) {
  const known: (boolean | undefined)[] = []
  return (product: PricedProduct): boolean => {
    const weave = side.weaveOf(product)
    return (known[weave.number] ??=
      weave.offers.some(({ id }) => moved.has(id)) || [...weave.counts].some(n => moved.has(side.offers[n]!.id)))
  }
}

/** Only what an offer or a product that moved bears on, and only for tiers that get one of them before or after. */
function worksOutMoved(
  before: PricesBoard,
  offers: CompiledOffers,
  pricers: readonly Pricer[],
  quantity: number,
): { units: Float64Array; worked: number } {
  const then = offersOf(before.rules)
  const width = pricers.length
  const moved = movedOffers(then, offers)
  const [wasTouched, isTouched] = [touches(then, moved), touches(offers, moved)]
  const products = offers.goods.all
  const isSameSite = then.goods === offers.goods
  const units = isSameSite ? before.units.slice() : new Float64Array(products.length * width)
  if (isSameSite && !moved.size) return { units, worked: 0 }
  const some = isSameSite ? tiersConcerned(before, then, offers, { moved, pricers }) : undefined
  const row = rowsInto(units, offers, pricers, { quantity, some })
  const positions = isSameSite ? undefined : new Map(before.products.map((one, i) => [one.id, i]))
  let worked = 0
  for (let p = 0; p < products.length; p++) {
    const product = products[p]!
    const was = positions ? (positions.get(product.id) ?? -1) : p
    const earlier = before.products[was]
    const holds =
      earlier && !isTouched(product) && !wasTouched(earlier) && (isSameSite || isAlike(then, earlier, offers, product))
    if (holds && isSameSite) continue
    if (holds) {
      units.set(before.units.subarray(was * width, (was + 1) * width), p * width)
      continue
    }
    worked++
    row(product, p)
  }
  return { units, worked }
}

/** Tiers that get one of the offers that moved, as it was or as it is. */
function tiersConcerned(
  before: PricesBoard,
  then: CompiledOffers,
  now: CompiledOffers,
  { moved, pricers }: { moved: ReadonlySet<string>; pricers: readonly Pricer[] },
): number[] {
  const earlier = before.tiers.map(tier => new Pricer(new CompiledDecider(before.rules, tier.visitor, before.nowMs)))
  const gets = (side: CompiledOffers, pricer: Pricer) =>
    side.offers.some(offer => moved.has(offer.id) && pricer.has(offer))
  return pricers.flatMap((pricer, t) => (gets(now, pricer) || gets(then, earlier[t]!) ? [t] : []))
}

function isAlike(then: CompiledOffers, earlier: PricedProduct, now: CompiledOffers, product: PricedProduct): boolean {
  if (earlier.root !== product.root || canonical(earlier.prices) !== canonical(product.prices)) return false
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
