import { priceImpact, pricesBoard } from '~~/core/audit/prices-board'
import type { PricesBoard } from '~~/core/audit/prices-board'
import { localTime } from '~~/core/calendar'
import type { Version } from '~~/core/editions/contents'
import { CompiledRules } from '~~/core/gates/compiled'
import { CompiledDecider } from '~~/core/gates/compiled-decider'
import { rightBit } from '~~/core/gates/verdict'
import { categoriesOf, liesInCategory } from '~~/core/kinds/product'
import type { Product } from '~~/core/kinds/product'
import { offersOf } from '~~/core/shop/compiled-offers'
import { goodsOf } from '~~/core/shop/priced-goods'
import type { PricedProduct } from '~~/core/shop/priced-goods'
import { Pricer } from '~~/core/shop/pricer'
import { saleRuns } from '~~/core/shop/prices-of'
import { variantsOf } from '~~/core/shop/variants'
import { viewed } from '~~/core/tax/price-view'
import { Taxer } from '~~/core/tax/taxer'
import { answersOf } from '~/loft/core/worker/answering'
import { worldNow } from '~/loft/core/worker/world'
import type { Reckoned, Side } from '~/loft/core/worker/world'
import { pricesBoardOf } from '~/loft/kit/prices/price-boards'
import type {
  CellsAsk,
  OfferPut,
  PriceCell,
  PricesAnswer,
  PricesQuestions,
  RowsAsk,
  TrailAnswer,
  TrailAsk,
  WeighedOffer,
} from './questions'

const isTold = (bits: number) => (bits & rightBit.price) !== 0
/** What a cell shows: the price where it is told, else how far it is seen. */
const shownAt = ({ units, bits }: PricesBoard, at: number) => (isTold(bits[at]!) ? units[at]! : -1 - (bits[at]! & 5))

function rowsOf(world: Reckoned, ask: RowsAsk): PricesAnswer {
  const { index } = world[ask.which].rules
  const words = ask.text.toLowerCase().split(/\s+/).filter(Boolean)
  const keep = kept(world, ask)
  const fits = (one: Product) => {
    const name = `${one.title ?? ''} ${one.id}`.toLowerCase()
    return words.every(word => name.includes(word)) && (!keep || keep.has(one.id))
  }
  const byCategory = new Map<string, string[]>()
  const board = pricesBoardOf(world, ask.which, ask.quantity)
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
function kept(world: Reckoned, { which, quantity, only }: RowsAsk): Set<string> | null {
  if (only === 'all') return null
  const board = pricesBoardOf(world, which, quantity)
  const width = board.tiers.length
  const found = new Set<string>()
  const other = only === 'moved' ? pricesBoardOf(world, which === 'live' ? 'draft' : 'live', quantity) : undefined
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

function cellsOf(world: Reckoned, { which, quantity, ids, view }: CellsAsk): PriceCell[][] {
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

function trailOf(world: Reckoned, ask: TrailAsk): TrailAnswer | null {
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
  world: Reckoned,
  puts: readonly OfferPut[],
  quantity: number,
  costs: ReadonlyMap<string, number>,
): WeighedOffer {
  const { draft, tiers, nowMs } = world
  const before = pricesBoardOf(world, 'draft', quantity)
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

export const pricesAnswers = answersOf<PricesQuestions>('prices', {
  rows: ask => rowsOf(worldNow(), ask),
  cells: ask => cellsOf(worldNow(), ask),
  trail: ask => trailOf(worldNow(), ask),
  weigh: ({ alternatives, quantity, costs }) =>
    alternatives.map(puts => weighed(worldNow(), puts, quantity, new Map(Object.entries(costs)))),
})
