/** What Taxes asks the core. */
import type { Finding } from '~~/core/audit/findings/findings'
import type { ReceiptDifference } from '~~/core/audit/receipt-differences'
import type { BasketQuote } from '~~/core/orders/basket-quote'
import type { BasketLine } from '~~/core/shop/price-trail'
import type { Address } from '~~/core/site/place'
import type { TaxSettings } from '~~/core/tax/tax-settings'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

/** A receipt that is asked for: whose, of what, sent where, how. */
export interface ReceiptAsked {
  tier: string
  lines: BasketLine[]
  to: Address
  delivery: string | null
}

export interface ReceiptTold {
  quote: BasketQuote
  /** Against the first of the receipts. */ differences: ReceiptDifference[]
}
export interface TaxesQuestions {
  /** Receipts beside each other; differences are told from the first. Null where there is no such tier. */
  receipts(ask: { which: Which; columns: ReceiptAsked[] }): (ReceiptTold | null)[]
  /** Of each place and category the tiers that are taxed otherwise than most: by place, then by category, delivery last. */
  board(ask: { which: Which }): string[][][]
  /** What is wrong or doubtful about taxes; what is counted, as far as whoever looks may know it. */
  findings(ask: { which: Which; sentTo: Record<string, number>; changedAt: Record<string, number> }): Finding[]
  /** What a receipt comes to under other settings each, by themselves. */
  receiptIf(ask: { settings: TaxSettings[]; column: ReceiptAsked }): (BasketQuote | null)[]
}
export const askTaxes = askerOf<TaxesQuestions>('taxes')
