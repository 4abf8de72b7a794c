import { coverageOf } from '~~/core/audit/coverage'
import { invertedCopies } from '~~/core/audit/inverted-copies'
import { answersOf } from '~/loft/core/worker/answering'
import { sideAsked, worldNow } from '~/loft/core/worker/world'
import type { SiteQuestions } from './kit/questions'

export const siteAnswers = answersOf<SiteQuestions>('site', {
  coverage: ask => coverageOf(sideAsked(ask.which).rules, ask, worldNow().nowMs),
  inverted: ({ place, which }) => invertedCopies(sideAsked(which).rules, place, worldNow().nowMs),
})
