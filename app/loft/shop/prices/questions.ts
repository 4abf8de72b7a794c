/** What Prices asks the core. */
import type { PriceImpact } from '~~/core/audit/prices-board'
import type { Verdict } from '~~/core/gates/verdict'
import type { Offer } from '~~/core/rulebook/shop-rules'
import type { PriceTrail } from '~~/core/shop/price-trail'
import type { PriceView } from '~~/core/tax/price-view'
import type { Showing } from '~~/core/tax/tax-settings'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

/** An offer as it would be; null takes it away. */
export interface OfferPut {
  key: string
  body: Offer | null
}

export interface RowsAsk {
  which: Which
  quantity: number
  text: string
  category: string
  only: 'all' | 'differ' | 'moved'
}
export interface CellsAsk {
  which: Which
  quantity: number
  ids: string[]
  view: PriceView
}
export interface TrailAsk {
  which: Which
  quantity: number
  product: string
  tier: string
  codes: string[]
}
/** `category ID`, `product ID` or `variant ID`. */
export interface PricesAnswer {
  rows: string[]
  products: number
  /** By product, how many of its variants cost every tier the same and have no row. */
  alike: Record<string, number>
}
export interface PriceCell {
  /** As typed, minor units; null where it has no price. */ unit: number | null
  /** The same as it was asked to be looked at. */ amount: number | null
  /** How that reads; null as it was typed. */ showing: Showing | null
  /** Rights, as bits of the verdict. */ bits: number
  regular: number
  onSale: boolean
  /** Offers that made it. */ won: string[]
  /** What it is live in the same view, where that is something else. */ was?: number
}
export interface TrailAnswer {
  trail: PriceTrail
  verdict: Verdict
  /** By tier: from so many on a piece costs so much. */
  ladders: { tier: string; steps: { from: number; unit: number }[]; told: boolean }[]
}
export interface WeighedOffer {
  impact: PriceImpact
  /** Products in its scope, and those of them that are on sale. */ goods: number
  onSale: number
}

export interface PricesQuestions {
  /** Which products stand on the board, in order, with their categories above them. */
  rows(ask: RowsAsk): PricesAnswer
  /** What each tier pays for these: by product, then by tier. */
  cells(ask: CellsAsk): PriceCell[][]
  trail(ask: TrailAsk): TrailAnswer | null
  /** What each of these would move, by itself, on top of the draft; `costs` as far as whoever looks may know them. */
  weigh(ask: { alternatives: OfferPut[][]; quantity: number; costs: Record<string, number> }): WeighedOffer[]
}
export const askPrices = askerOf<PricesQuestions>('prices')
