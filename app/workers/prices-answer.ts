/** What the core answers the console about prices, live and in the draft. */
import { findingGroups, findingsOf } from '~~/core/audit/findings/findings'
import { priceImpact, pricesBoard } from '~~/core/audit/prices-board'
import type { PricesBoard } from '~~/core/audit/prices-board'
import type { BoardTier } from '~~/core/audit/reach-board'
import type { Contents, Version } from '~~/core/editions/contents'
import { CompiledRules } from '~~/core/gates/compiled'
import { CompiledDecider } from '~~/core/gates/compiled-decider'
import { rightBit } from '~~/core/gates/verdict'
import { categoriesOf, liesInCategory } from '~~/core/kinds/product'
import type { Product } from '~~/core/kinds/product'
import { offersOf } from '~~/core/shop/compiled-offers'
import { goodsOf } from '~~/core/shop/priced-goods'
import type { PricedProduct } from '~~/core/shop/priced-goods'
import { priceList } from '~~/core/audit/price-list'
import { Pricer } from '~~/core/shop/pricer'
import { saleRuns } from '~~/core/shop/prices-of'
import { variantsOf } from '~~/core/shop/variants'
import { viewed } from '~~/core/tax/price-view'
import { Taxer } from '~~/core/tax/taxer'
import { localTime } from '~~/core/calendar'
import type { Which } from './core-messages'
import type {
  OfferPut,
  PriceCell,
  PricesAnswer,
  PricesAnswers,
  PricesAsk,
  TrailAnswer,
  WeighedOffer,
} from './prices-messages'

interface Side {
  contents: Contents
  rules: CompiledRules
}
export interface PricesWorld {
  live: Side
  draft: Side
  tiers: BoardTier[]
  nowMs: number
}

/** The boards worked out last: the next is made from them, where they are alike. */
let boards: Partial<Record<Which, PricesBoard>> = {}

function boardOf({ tiers, nowMs, ...sides }: PricesWorld, which: Which, quantity: number): PricesBoard {
  const { rules } = sides[which]
  const known = boards[which]
  if (known?.rules === rules && known.tiers === tiers && known.quantity === quantity && known.nowMs === nowMs)
    return known
  const before = [known, boards.live].find(one => one?.tiers === tiers && one.quantity === quantity)
  const made = pricesBoard(rules, tiers, { quantity, nowMs }, before)
  boards = { ...boards, [which]: made }
  return made
}

const isTold = (bits: number) => (bits & rightBit.price) !== 0
/** What a cell shows: the price where it is told, else how far it is seen. */
const shownAt = ({ units, bits }: PricesBoard, at: number) => (isTold(bits[at]!) ? units[at]! : -1 - (bits[at]! & 5))

function rowsOf(world: PricesWorld, ask: Extract<PricesAsk, { kind: 'prices' }>): PricesAnswer {
  const { index } = world[ask.which].rules
  const words = ask.text.toLowerCase().split(/\s+/).filter(Boolean)
  const keep = kept(world, ask)
  const fits = (one: Product) => {
    const name = `${one.title ?? ''} ${one.id}`.toLowerCase()
    return words.every(word => name.includes(word)) && (!keep || keep.has(one.id))
  }
  const byCategory = new Map<string, string[]>()
  const board = boardOf(world, ask.which, ask.quantity)
  const alike: Record<string, number> = {}
  let products = 0
  for (const product of index.all('product').values()) {
    if (product.of !== undefined) continue
    const [category = ''] = categoriesOf(product, index)
    if (ask.category && !liesInCategory(product, ask.category, index)) continue
    const variants = variantsOf(product.id, index).filter(fits)
    if (!variants.length && !fits(product)) continue
    products += 1 + variants.length
    const own = variants.filter(one => words.length > 0 || !isAlike(board, one.id, product.id))
    if (own.length < variants.length) alike[product.id] = variants.length - own.length
    const rows = [`product ${product.id}`, ...own.map(one => `variant ${one.id}`)]
    const there = byCategory.get(category)
    if (there) there.push(...rows)
    else byCategory.set(category, rows)
  }
  const order = new Map([...index.all('category').keys()].map((id, i) => [id, i]))
  const rows = [...byCategory]
    .sort(([a], [b]) => (order.get(a) ?? Infinity) - (order.get(b) ?? Infinity))
    .flatMap(([category, list]) => [`category ${category}`, ...list])
  return { rows, products, alike }
}

/** Where products stand on a board, by id. */
const placed = new WeakMap<readonly PricedProduct[], ReadonlyMap<string, number>>()
function placesOf({ products }: PricesBoard): ReadonlyMap<string, number> {
  let places = placed.get(products)
  if (!places) placed.set(products, (places = new Map(products.map(({ id }, i) => [id, i]))))
  return places
}

/** A variant that costs every tier what its product does, whatever is bought, needs no row of its own. */
function isAlike(board: PricesBoard, variant: string, product: string): boolean {
  const places = placesOf(board)
  const [a, b] = [places.get(variant) ?? -1, places.get(product) ?? -1]
  if (a < 0 || b < 0) return false
  const offers = offersOf(board.rules)
  if (offers.weaveOf(board.products[a]!) !== offers.weaveOf(board.products[b]!)) return false
  const width = board.tiers.length
  for (let t = 0; t < width; t++) if (shownAt(board, a * width + t) !== shownAt(board, b * width + t)) return false
  return true
}

/** Products whose cells differ between tiers, or from what is live. */
function kept(
  world: PricesWorld,
  { which, quantity, only }: Extract<PricesAsk, { kind: 'prices' }>,
): Set<string> | null {
  if (only === 'all') return null
  const board = boardOf(world, which, quantity)
  const width = board.tiers.length
  const found = new Set<string>()
  const other = only === 'moved' ? boardOf(world, which === 'live' ? 'draft' : 'live', quantity) : undefined
  const positions = other && placesOf(other)
  board.products.forEach(({ id }, p) => {
    const then = positions?.get(id)
    for (let t = 0; t < width; t++) {
      const here = shownAt(board, p * width + t)
      const isOther = other
        ? then === undefined || shownAt(other, then * width + t) !== here
        : here !== shownAt(board, p * width)
      if (isOther) return void found.add(id)
    }
  })
  return found
}

function cellsOf(
  world: PricesWorld,
  { which, quantity, ids, view }: Extract<PricesAsk, { kind: 'priceCells' }>,
): PriceCell[][] {
  const sides = world.tiers.map(tier => {
    const of = ({ rules }: Side) => {
      const decider = new CompiledDecider(rules, tier.visitor, world.nowMs)
      return { decider, pricer: new Pricer(decider), taxer: new Taxer(decider), goods: goodsOf(rules.index) }
    }
    return { here: of(world[which]), live: which === 'live' ? undefined : of(world.live) }
  })
  const seen = ({ pricer, taxer, goods }: (typeof sides)[number]['here'], id: string) => {
    const price = pricer.quick(id, quantity)
    const product = goods.get(id)
    return price && product ? { price, ...viewed(taxer, { product, amount: price.unit }, view) } : null
  }
  return ids.map(id =>
    sides.map(({ here, live }): PriceCell => {
      const told = seen(here, id)
      const price = told?.price
      const bits = here.decider.bits({ kind: 'product', id })
      const was = live && seen(live, id)?.amount
      return {
        unit: price?.unit ?? null,
        amount: told?.amount ?? null,
        showing: told?.showing ?? null,
        bits,
        regular: price?.regular ?? 0,
        onSale: price?.onSale ?? false,
        won: price?.won.map(offer => offer.id) ?? [],
        ...(was !== undefined && was !== told?.amount ? { was } : {}),
      }
    }),
  )
}

function trailOf(world: PricesWorld, ask: Extract<PricesAsk, { kind: 'priceTrail' }>): TrailAnswer | null {
  const { rules } = world[ask.which]
  const tier = world.tiers.find(one => one.id === ask.tier)
  if (!tier) return null
  const decider = new CompiledDecider(rules, tier.visitor, world.nowMs)
  const trail = new Pricer(decider, { codes: ask.codes }).price(ask.product, ask.quantity)
  if (!trail) return null
  const ladders = world.tiers.map(({ id, visitor }) => {
    const own = new CompiledDecider(rules, visitor, world.nowMs)
    const told = isTold(own.bits({ kind: 'product', id: ask.product }))
    return { tier: id, steps: new Pricer(own).ladder(ask.product), told }
  })
  return { trail, verdict: decider.decide({ kind: 'product', id: ask.product }), ladders }
}

function weighed(
  world: PricesWorld,
  puts: readonly OfferPut[],
  quantity: number,
  costs: ReadonlyMap<string, number>,
): WeighedOffer {
  const { draft, tiers, nowMs } = world
  const before = boardOf(world, 'draft', quantity)
  const versions = puts.map(({ key, body }): Version => {
    const { position = Number.MAX_SAFE_INTEGER } = draft.contents.get('offer', key) ?? {}
    return { kind: 'offer', key, position, body }
  })
  const contents = draft.contents.with(versions)
  const rules = new CompiledRules(contents.book, contents.index, draft.rules)
  const after = pricesBoard(rules, tiers, { quantity, nowMs }, before)
  const { date } = localTime(nowMs, contents.index.site.timezone)
  const keys = new Set(puts.map(({ key }) => key))
  const inScope = after.products.filter(product =>
    offersOf(rules)
      .weaveOf(product)
      .offers.some(({ id }) => keys.has(id)),
  )
  return {
    impact: priceImpact(before, after, costs),
    goods: inScope.length,
    onSale: inScope.filter(({ prices: { sale } }) => sale && saleRuns(sale, date)).length,
  }
}

/** The rules that are live with changes on top of them. */
export function withChanges(live: Side, changes: readonly Version[]): CompiledRules {
  const contents = live.contents.with(changes)
  return new CompiledRules(contents.book, contents.index, live.rules)
}

export function answerPrices(ask: PricesAsk, world: PricesWorld): PricesAnswers[PricesAsk['kind']] {
  if (ask.kind === 'prices') return rowsOf(world, ask)
  if (ask.kind === 'priceCells') return cellsOf(world, ask)
  if (ask.kind === 'priceTrail') return trailOf(world, ask)
  if (ask.kind === 'priceList') {
    const tier = world.tiers.find(one => one.id === ask.tier)
    return tier ? priceList(new CompiledDecider(world[ask.which].rules, tier.visitor, world.nowMs)) : null
  }
  const costs = new Map(Object.entries(ask.costs))
  if (ask.kind === 'priceFindings') {
    const { rules } = world[ask.which]
    const { tiers, nowMs } = world
    return findingsOf({ rules, tiers, nowMs, costs, staffRules: ask.staffRules }, findingGroups.prices)
  }
  if (ask.kind === 'weighOffers') return ask.alternatives.map(puts => weighed(world, puts, ask.quantity, costs))
  const { quantity, changes } = ask
  const { tiers, nowMs } = world
  const live = boardOf(world, 'live', quantity)
  const after = changes
    ? pricesBoard(withChanges(world.live, changes), tiers, { quantity, nowMs }, live)
    : boardOf(world, 'draft', quantity)
  return priceImpact(live, after, costs)
}
