/** What the console and its core say to each other about taxes. */
import type { Finding } from '~~/core/audit/findings/findings'
import type { ReceiptDifference } from '~~/core/audit/receipt-differences'
import type { TaxImpact } from '~~/core/audit/tax-impact'
import type { Version } from '~~/core/editions/contents'
import type { BasketQuote } from '~~/core/orders/basket-quote'
import type { BasketLine } from '~~/core/shop/price-trail'
import type { Address } from '~~/core/site/place'
import type { TaxSettings } from '~~/core/tax/tax-settings'
import type { Which } from './core-messages'

/** A receipt that is asked for: whose, of what, sent where, how. */
export interface ReceiptAsked {
  tier: string
  lines: BasketLine[]
  to: Address
  delivery: string | null
}

export type TaxesAsk =
  /** Receipts beside each other; differences are told from the first. */
  | { kind: 'receipts'; which: Which; columns: ReceiptAsked[] }
  /** Of each place and category the tiers that are taxed otherwise than most: by place, then by category, delivery last. */
  | { kind: 'taxBoard'; which: Which }
  /** What is wrong or doubtful about taxes; what is counted, as far as whoever looks may know it. */
  | { kind: 'taxFindings'; which: Which; sentTo: Record<string, number>; changedAt: Record<string, number> }
  /** What a receipt comes to under other settings each, by themselves. */
  | { kind: 'receiptIf'; settings: TaxSettings[]; column: ReceiptAsked }
  /** What chosen changes do to taxes, or all of the draft where it is null. */
  | { kind: 'taxImpact'; changes: Version[] | null }

const taxesAsks: Record<TaxesAsk['kind'], true> = {
  receipts: true,
  taxBoard: true,
  receiptIf: true,
  taxFindings: true,
  taxImpact: true,
}
export const isTaxesAsk = (ask: { kind: string }): ask is TaxesAsk => Object.hasOwn(taxesAsks, ask.kind)

export interface ReceiptTold {
  quote: BasketQuote
  /** Against the first of the receipts. */ differences: ReceiptDifference[]
}
export interface TaxesAnswers {
  /** Null where there is no such tier. */
  receipts: (ReceiptTold | null)[]
  taxBoard: string[][][]
  receiptIf: (BasketQuote | null)[]
  taxFindings: Finding[]
  taxImpact: TaxImpact
}
