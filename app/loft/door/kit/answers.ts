import { fitsNewcomer } from '~~/core/audit/fits-newcomer'
import { findingGroups, findingsOf } from '~~/core/audit/findings/findings'
import { explainLanding } from '~~/core/landings/explain-landing'
import { answersOf } from '~/loft/core/worker/answering'
import { inContext, sideAsked, tierAsked, worldNow } from '~/loft/core/worker/world'
import type { DoorQuestions } from './questions'

export const doorAnswers = answersOf<DoorQuestions>('door', {
  fitsNewcomer: ({ who }) => fitsNewcomer(sideAsked('live').rules, who, worldNow().nowMs),
  landings({ which, tier, on, refused }) {
    const { tiers, nowMs, context } = worldNow()
    const { rules } = sideAsked(which)
    const visitor = tier === undefined ? undefined : tierAsked(tier)?.visitor
    return {
      findings: findingsOf({ rules, tiers, nowMs }, findingGroups.landings),
      explanation: visitor ? explainLanding(rules, inContext(visitor, context), on, nowMs, refused ?? undefined) : null,
    }
  },
})
