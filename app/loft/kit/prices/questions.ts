/** What is asked of prices and taxes wherever changes are looked at. */
import type { Finding } from '~~/core/audit/findings/findings'
import type { PriceImpact } from '~~/core/audit/prices-board'
import type { TaxImpact } from '~~/core/audit/tax-impact'
import type { Version } from '~~/core/editions/contents'
import type { StaffRule } from '~~/core/staff/staff-rule'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

export interface ImpactQuestions {
  /** What these changes move on top of what is live; null for all of the draft. */
  prices(ask: { changes: Version[] | null; quantity: number; costs: Record<string, number> }): PriceImpact
  taxes(ask: { changes: Version[] | null }): TaxImpact
  /** What is wrong or doubtful about goods and prices; `costs` and `staffRules` as far as whoever looks may know them. */
  findings(ask: { which: Which; costs: Record<string, number>; staffRules: StaffRule[] }): Finding[]
}
export const askImpact = askerOf<ImpactQuestions>('impact')
