/** What Who asks the core, of a level, a role or a firm. */
import type { Condition } from '~~/core/conditions/condition'
import type { Giving } from '~~/core/gates/giving'
import type { Resource } from '~~/core/kinds/kinds'
import type { Level } from '~~/core/rulebook/people-rules'
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
/** So many things of a rung are told by name. */
export const mostNamed = 60
interface Counted {
  count: number
  /** The first of them, in the order of the board. */ first: Resource[]
}
export interface LadderAnswer {
  /** How many things there are. */ total: number
  rungs: {
    opens: number
    more: Counted
    fewer: Counted
    /** Offers that are for them and not for those one rung below. */ offers: string[]
  }[]
}
export interface RankedAnswer {
  /** Cells of the board that would move. */ gain: number
  lose: number
  other: number
  /** Columns in which any would, by name. */ tiers: string[]
}
export interface WhoQuestions {
  /** What the draft would move if these levels ranked otherwise. */
  ranked(levels: Level[]): RankedAnswer
  /** Kinds of visitor, lowest first. */
  ladder(ask: { visitors: Visitor[]; which: Which }): LadderAnswer

  /** What would give a thing of the draft to whoever is `who`, as `visitor` is. */
  giving(ask: GivingAsk): GivingAnswer
  gains(ask: { from: Visitor; to: Visitor; which: Which }): GainsAnswer
}
export const askWho = askerOf<WhoQuestions>('who')
