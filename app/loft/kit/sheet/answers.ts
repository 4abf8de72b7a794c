import { formFor } from '~~/core/entrance/newcomer'
import { CompiledDecider } from '~~/core/gates/compiled-decider'
import { answersOf } from '~/loft/core/worker/answering'
import { sideAsked, tierAsked, worldNow } from '~/loft/core/worker/world'
import { pageAnswer } from './page-answer'
import type { SheetQuestions } from './questions'

export const sheetAnswers = answersOf<SheetQuestions>('sheet', {
  page(ask) {
    const tier = tierAsked(ask.tier)
    return tier ? pageAnswer(sideAsked(ask.which), tier.visitor, worldNow().nowMs, ask) : null
  },
  // Signing up is as it is live.
  form({ tier, form }) {
    const decider = new CompiledDecider(
      sideAsked('live').rules,
      tierAsked(tier)?.visitor ?? { person: null },
      worldNow().nowMs,
    )
    return formFor(form, of => decider.admits(of))
  },
})
