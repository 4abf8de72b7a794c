/** What findings about prices look at: the board of what every tier pays, worked out once for the rules it is of. */
import type { CompiledRules } from '../../gates/compiled'
import { rightBit } from '../../gates/verdict'
import { pricesBoard } from '../prices-board'
import type { PricesBoard } from '../prices-board'
import type { PricedProduct } from '../../shop/priced-goods'
import type { FindingAsk, Found } from './finding'

/** Of each sort so many are told: nobody mends more at once. */
export const mostFound = 100

const boards = new WeakMap<CompiledRules, PricesBoard>()
export function boardOf({ rules, tiers, nowMs }: FindingAsk): PricesBoard {
  const known = boards.get(rules)
  const isSame =
    known?.tiers.length === tiers.length && known.tiers.every((tier, t) => tier.visitor === tiers[t]!.visitor)
  if (known && isSame && known.nowMs === nowMs) return known
  const made = pricesBoard(
    rules,
    tiers.map(tier => ({ name: tier.id, ...tier })),
    { nowMs },
    known,
  )
  boards.set(rules, made)
  return made
}

export interface ToldPrice {
  product: PricedProduct
  tier: string
  /** Minor units. */ unit: number
  /** Positions on the board. */ p: number
  t: number
}

/** Products of which some price somebody is told is doubtful: each once, with the first tier that meets it. */
export function doubtfulPrices<F>(
  ask: FindingAsk,
  factsOf: (price: ToldPrice, board: PricesBoard) => F | null,
): Found<F>[] {
  const board = boardOf(ask)
  const width = board.tiers.length
  const found: Found<F>[] = []
  for (let p = 0; p < board.products.length && found.length < mostFound; p++) {
    const product = board.products[p]!
    for (let t = 0; t < width; t++) {
      if (!(board.bits[p * width + t]! & rightBit.price)) continue
      const tier = board.tiers[t]!.id
      const facts = factsOf({ product, tier, unit: board.units[p * width + t]!, p, t }, board)
      if (facts === null) continue
      found.push({ place: { kind: 'product', key: product.id }, tier, facts })
      break
    }
  }
  return found
}
