/** How the tax of a line came about, as data; and what a basket comes to with it. Money in minor units. */
import type { BasketLine, PriceTrail } from '../shop/price-trail'
import type { Address } from '../site/place'

export interface TaxAsk {
  lines: readonly BasketLine[]
  sentTo?: Address | undefined
  /** What delivery costs without tax, minor units. */ delivery?: number | undefined
  codes?: readonly string[]
}

/** A rate that applies, with what an exception made of it. */
export interface AppliedRate {
  rate: string
  tax: string
  /** What it is called on a receipt. */ called: string
  /** As a decimal, such as `"13.5"`. */ percent: string
  /** Other rates that apply and that it is taken on top of. */ onTopOf: string[]
  /** What it comes to of the price without tax, in percent, as a decimal: more than `percent` on top of others. */
  contribution: string
  /** The exception that says so. */ exception?: string
  /** Who owes it where that is not the seller: nothing is taken. */ owedBy?: 'buyer'
  /** What an invoice says of that. */ reason?: string
}

/** A rate for the place that does not apply. */
export interface LeftOutRate {
  rate: string
  tax: string
  /** An exception drops it; delivery is free of it. */ why: 'dropped' | 'deliveryFree'
  exception?: string
  /** What an invoice says of why. */ reason?: string
}

/** A part of how goods are taxed, and the goods entry it is from; without one it is the product's. */
export interface From<T> {
  is: T
  entry?: string
}

export interface GoodsTaxed {
  goodsTaxed: From<boolean>
  deliveryTaxed: From<boolean>
  category: From<string>
}

export interface TaxTrail extends GoodsTaxed {
  at: Address
  applied: AppliedRate[]
  leftOut: LeftOutRate[]
  /** Tax contained in the price as it was typed, in percent of the price without tax; none where it is typed without. */
  inside?: string
  /** What was typed is what is paid. */ kept: boolean
}

export interface TaxOfRate {
  rate: string
  amount: number
}

/** An amount as it is without and with tax, each rounded once. */
export interface Both {
  withoutTax: number
  withTax: number
}

export interface TaxedLine extends PriceTrail {
  /** What one piece shows as, and what the line came to before a discount on the basket. */ each: Both
  before: Both
  /** The share of a discount on the basket that falls on it. */ discount: number
  net: number
  taxes: TaxOfRate[]
  gross: number
  tax: TaxTrail
}
export type BasketLineTaxed = { refused: true; product: string; quantity: number } | TaxedLine

export interface DeliveryTaxed {
  net: number
  taxes: TaxOfRate[]
  gross: number
  /** Null where nothing in the basket asks for it to be taxed. */
  trail: Pick<TaxTrail, 'at' | 'applied' | 'leftOut'> | null
}

/** Top amounts include delivery. */
export interface TaxedBasket {
  lines: BasketLineTaxed[]
  delivery: DeliveryTaxed
  discount: number
  net: number
  tax: number
  gross: number
}

/** What is shown for one piece. */
export interface ShownPrice extends Both {
  /** Whichever of them shows in lists. */ shown: number
  note: string
}

export const isTaxed = (line: BasketLineTaxed): line is TaxedLine => !('refused' in line)
export const sum = (amounts: readonly number[]): number => amounts.reduce((all, one) => all + one, 0)
