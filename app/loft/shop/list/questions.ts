/** What the price list asks the core. */
import type { PriceList } from '~~/core/audit/price-list'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

export interface ListQuestions {
  /** What a tier, or whoever is looked at as, can buy at what price; null where there is no such tier. */
  list(ask: { which: Which; tier: string }): PriceList | null
}
export const askList = askerOf<ListQuestions>('list')
