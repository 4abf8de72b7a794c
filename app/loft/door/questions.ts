/** What Door asks the core. */
import type { Finding } from '~~/core/audit/findings/findings'
import type { Resource } from '~~/core/kinds/kinds'
import type { LandingExplanation } from '~~/core/landings/explain-landing'
import type { LandingMoment } from '~~/core/rulebook/rulebook'
import type { Visitor } from '~~/core/visitor/visitor'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

export interface LandingsAsk {
  which: Which
  visitor: Visitor | null
  on: LandingMoment
  refused: Resource | null
}
export interface LandingsAnswer {
  findings: Finding[]
  explanation: LandingExplanation | null
}
export interface DoorQuestions {
  landings(ask: LandingsAsk): LandingsAnswer
}
export const askDoor = askerOf<DoorQuestions>('door')
