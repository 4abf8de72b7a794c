/** What Door asks the core. */
import type { Finding } from '~~/core/audit/findings/findings'
import type { Condition } from '~~/core/conditions/condition'
import type { Resource } from '~~/core/kinds/kinds'
import type { LandingExplanation } from '~~/core/landings/explain-landing'
import type { LandingMoment } from '~~/core/rulebook/rulebook'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

export interface LandingsAsk {
  which: Which
  /** Whoever is looked as; left out, only what is wrong is told. */ tier?: string
  on: LandingMoment
  refused: Resource | null
}
export interface LandingsAnswer {
  findings: Finding[]
  explanation: LandingExplanation | null
}
export interface DoorQuestions {
  /** Whether anybody new can be that, by the live rules: what is not decided counts as yes. */
  fitsNewcomer(ask: { who: Condition }): boolean

  landings(ask: LandingsAsk): LandingsAnswer
}
export const askDoor = askerOf<DoorQuestions>('door')
