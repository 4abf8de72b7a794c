/** What Reach asks the core. */
import type { ComparedThings } from '~~/core/audit/compare-visitors'
import type { Kind, Resource } from '~~/core/kinds/kinds'
import type { AsIf } from '~~/core/visitor/as-if'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

export interface CompareAsk {
  one: string
  two: string
  which: Which
  of: Kind | ''
  within: Resource | null
  text: string
}
export interface CompareAnswer {
  /** Positions are the board's. */
  groups: ComparedThings[]
  /** How many things were asked about. */
  among: number
}
export interface ReachQuestions {
  /** What a tier that is refused lacks. */
  ways(ask: { resource: Resource; tier: string; which: Which }): AsIf[][]
  /** What two of the tiers or looks find, open and take that the other does not: of everything, of a kind, or in a thing. */
  compare(ask: CompareAsk): CompareAnswer | null
}
export const askReach = askerOf<ReachQuestions>('reach')
