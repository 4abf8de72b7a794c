/** What People asks the core, of one visitor. */
import type { Explanation } from '~~/core/gates/explain'
import type { Resource } from '~~/core/kinds/kinds'
import type { LandingExplanation } from '~~/core/landings/explain-landing'
import type { Visitor } from '~~/core/visitor/visitor'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

/** What one visitor reaches: rights of thing `i` of the board. */
export interface PersonAnswer {
  things: Resource[]
  bits: Uint8Array
  landing: LandingExplanation
}
export interface PeopleQuestions {
  reaches(ask: { visitor: Visitor; which: Which }): PersonAnswer
  explain(ask: { resource: Resource; visitor: Visitor; which: Which }): Explanation | null
}
export const askPerson = askerOf<PeopleQuestions>('people')
