/** What the console and its core say to each other about prices. */
import type { PriceImpact } from '~~/core/audit/prices-board'
import type { Version } from '~~/core/editions/contents'
import type { Verdict } from '~~/core/gates/verdict'
import type { Finding } from '~~/core/audit/findings/findings'
import type { StaffRule } from '~~/core/staff/staff-rule'
import type { Offer } from '~~/core/rulebook/shop-rules'
import type { PriceList } from '~~/core/audit/price-list'
import type { PriceView } from '~~/core/tax/price-view'
import type { Showing } from '~~/core/tax/tax-settings'
import type { PriceTrail } from '~~/core/shop/price-trail'
import type { Which } from './core-messages'

/** An offer as it would be; null takes it away. */
export interface OfferPut {
  key: string
  body: Offer | null
}

export type PricesAsk =
  /** Which products stand on the board, in order, with their categories above them. */
  | {
      kind: 'prices'
      which: Which
      quantity: number
      text: string
      category: string
      only: 'all' | 'differ' | 'moved'
    }
  /** What each tier pays for these. */
  | { kind: 'priceCells'; which: Which; quantity: number; ids: string[]; view: PriceView }
  | { kind: 'priceTrail'; which: Which; quantity: number; product: string; tier: string; codes: string[] }
  /** What each of these would move, by itself, on top of the draft; `costs` as far as whoever looks may know them. */
  | { kind: 'weighOffers'; alternatives: OfferPut[][]; quantity: number; costs: Record<string, number> }
  /** What is wrong or doubtful about goods and prices; `costs` and `staffRules` as far as whoever looks may know them. */
  | { kind: 'priceFindings'; which: Which; costs: Record<string, number>; staffRules: StaffRule[] }
  /** What a tier, or whoever is looked at as, can buy at what price. */
  | { kind: 'priceList'; which: Which; tier: string }
  /** What these changes move on top of what is live; null for all of the draft. */
  | { kind: 'priceImpact'; changes: Version[] | null; quantity: number; costs: Record<string, number> }

const pricesAsks: Record<PricesAsk['kind'], true> = {
  prices: true,
  priceCells: true,
  priceTrail: true,
  weighOffers: true,
  priceImpact: true,
  priceFindings: true,
  priceList: true,
}
export const isPricesAsk = (ask: { kind: string }): ask is PricesAsk => Object.hasOwn(pricesAsks, ask.kind)

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

export interface PricesAnswers {
  prices: PricesAnswer
  /** By product, then by tier. */
  priceCells: PriceCell[][]
  priceTrail: TrailAnswer | null
  weighOffers: WeighedOffer[]
  priceImpact: PriceImpact
  priceFindings: Finding[]
  /** Null where there is no such tier. */
  priceList: PriceList | null
}
