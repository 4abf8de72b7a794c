import { explain } from '~~/core/gates/explain'
import { PlainDecider } from '~~/core/gates/plain-decider'
import { explainLanding } from '~~/core/landings/explain-landing'
import { answersOf } from '~/loft/core/worker/answering'
import { bitsOf, inContext, sideAsked, worldNow } from '~/loft/core/worker/world'
import type { PeopleQuestions } from './questions'

export const peopleAnswers = answersOf<PeopleQuestions>('people', {
  reaches({ visitor, which }) {
    const { things, context, nowMs } = worldNow()
    const { rules } = sideAsked(which)
    const asked = inContext(visitor, context)
    return {
      things,
      bits: bitsOf(rules, asked, things, nowMs),
      landing: explainLanding(rules, asked, 'signIn', nowMs),
    }
  },
  explain({ resource, visitor, which }) {
    const { context, nowMs } = worldNow()
    return explain(new PlainDecider(sideAsked(which).rules, inContext(visitor, context), nowMs), resource)
  },
})
