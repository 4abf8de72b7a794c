/** What is asked of gates wherever they are shown. */
import type { Finding } from '~~/core/audit/findings/findings'
import type { Explanation } from '~~/core/gates/explain'
import type { Resource } from '~~/core/kinds/kinds'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

export interface GateQuestions {
  explain(ask: { resource: Resource; tier: string; which: Which }): Explanation | null
  /** What may not be found and is told of all the same. */
  refused(which: Which): Finding[]
  /** Gates that change nothing of who finds and opens it. */
  idle(ask: { resource: Resource; which: Which }): string[]
}
export const askGates = askerOf<GateQuestions>('gates')
