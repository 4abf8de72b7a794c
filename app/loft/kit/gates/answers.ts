import { findingGroups, findingsOf } from '~~/core/audit/findings/findings'
import { idleGates } from '~~/core/audit/idle-gates'
import { explain } from '~~/core/gates/explain'
import { PlainDecider } from '~~/core/gates/plain-decider'
import { answersOf } from '~/loft/core/worker/answering'
import { sideAsked, tierAsked, worldNow } from '~/loft/core/worker/world'
import type { GateQuestions } from './questions'

export const gateAnswers = answersOf<GateQuestions>('gates', {
  explain({ resource, tier, which }) {
    const asked = tierAsked(tier)
    return asked ? explain(new PlainDecider(sideAsked(which).rules, asked.visitor, worldNow().nowMs), resource) : null
  },
  refused(which) {
    const { tiers, nowMs } = worldNow()
    return findingsOf({ rules: sideAsked(which).rules, tiers, nowMs }, findingGroups.refused)
  },
  idle: ({ resource, which }) => idleGates(sideAsked(which).rules, resource, worldNow().nowMs),
})
