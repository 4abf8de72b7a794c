import { priceList } from '~~/core/audit/price-list'
import { CompiledDecider } from '~~/core/gates/compiled-decider'
import { answersOf } from '~/loft/core/worker/answering'
import { sideAsked, tierAsked, worldNow } from '~/loft/core/worker/world'
import type { ListQuestions } from './questions'

export const listAnswers = answersOf<ListQuestions>('list', {
  list({ which, tier }) {
    const asked = tierAsked(tier)
    return asked ? priceList(new CompiledDecider(sideAsked(which).rules, asked.visitor, worldNow().nowMs)) : null
  },
})
