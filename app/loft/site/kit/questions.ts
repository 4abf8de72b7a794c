/** What Site asks the core. */
import type { Coverage } from '~~/core/audit/coverage'
import type { InvertedCopies } from '~~/core/audit/inverted-copies'
import type { Standing } from '~~/core/kinds/block'
import type { Resource } from '~~/core/kinds/kinds'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

export interface SiteQuestions {
  /** Whether everybody gets exactly one of these parts. */
  coverage(ask: { place: Resource | null; parts: Resource[]; which: Which }): Coverage
  /** Parts that stand there and were copied and inverted by hand. */
  inverted(ask: { place: Standing; which: Which }): InvertedCopies[]
}
export const askSite = askerOf<SiteQuestions>('site')
