/** How a price came about, as data: what was looked at, in which order, and what each of it would have made. */
import type { Sale } from './prices-of'

/** What became of an offer; of several that fit, the first. */
export type Outcome =
  'inactive' | 'notForVisitor' | 'codeMissing' | 'notOnSaleItems' | 'bandNotReached' | 'beaten' | 'applied'

export interface TrailStep {
  offer: string
  outcome: Outcome
  /** The band its measure lies in, by position; of one not reached the next above it, where there is one. */
  band?: number
  /** What was counted: pieces, or minor units of a discount on the basket. Of `each` nothing is. */
  measure?: number
  /** The unit price it makes or would make of this line, in minor units; of one in a stack, after those before it. */
  unit?: number
  /** What the line comes to with it; of a discount on the basket, what it takes off this line. */
  amount?: number
}

export interface PriceTrail {
  product: string
  quantity: number
  /** Minor units. */ regular: number
  sale?: Sale & { runs: boolean }
  /** The sale price while the sale runs, else the price. */ current: number
  /** Every offer the product is in scope of, by order and id; discounts on the basket last. */
  steps: TrailStep[]
  /** What one piece comes to: `current` under a bonus. */
  unit: number
  /** What the line comes to before discounts on the basket. */
  amount: number
  /** Offers that made it, in the order in which they were applied. */
  offers: string[]
}

/** A line of a basket with the share of a discount on the basket that falls on it. */
export type PricedLine = { refused: true; product: string; quantity: number } | (PriceTrail & { discount: number })

export interface PricedBasket {
  lines: PricedLine[]
  /** All that is taken off, minor units. */
  discount: number
  /** What the lines come to after it. */
  total: number
}

export interface BasketLine {
  product: string
  quantity: number
}

export const isPriced = (line: PricedLine): line is PriceTrail & { discount: number } => !('refused' in line)
