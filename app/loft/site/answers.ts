import { coverageOf } from '~~/core/audit/coverage'
import { invertedCopies } from '~~/core/audit/inverted-copies'
import { answersOf } from '~/loft/core/worker/answering'
import { sideAsked, tierAsked, worldNow } from '~/loft/core/worker/world'
import type { SiteQuestions } from './kit/questions'
import { pageAnswer } from './page/page-answer'

export const siteAnswers = answersOf<SiteQuestions>('site', {
  page(ask) {
    const tier = tierAsked(ask.tier)
    return tier ? pageAnswer(sideAsked(ask.which), tier.visitor, worldNow().nowMs, ask) : null
  },
  coverage: ask => coverageOf(sideAsked(ask.which).rules, ask, worldNow().nowMs),
  inverted: ({ place, which }) => invertedCopies(sideAsked(which).rules, place, worldNow().nowMs),
})
