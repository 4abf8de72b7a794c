/** What Who asks the core, of a level, a role or a firm. */
import type { Condition } from '~~/core/conditions/condition'
import type { Giving } from '~~/core/gates/giving'
import type { Resource } from '~~/core/kinds/kinds'
import type { Visitor } from '~~/core/visitor/visitor'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

export interface GivingAsk {
  resource: Resource
  who: Condition
  visitor: Visitor
  newId: string
  name: string
}
/** With how many things the wider of the two ways would open to them besides. */
export type GivingAnswer = Giving & { besides?: number }
export interface GainsAnswer {
  gained: { resource: Resource; before: number; after: number }[]
  lost: number
}
export interface WhoQuestions {
  /** What would give a thing of the draft to whoever is `who`, as `visitor` is. */
  giving(ask: GivingAsk): GivingAnswer
  gains(ask: { from: Visitor; to: Visitor; which: Which }): GainsAnswer
}
export const askWho = askerOf<WhoQuestions>('who')
