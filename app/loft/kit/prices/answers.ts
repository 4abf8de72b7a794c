import { findingGroups, findingsOf } from '~~/core/audit/findings/findings'
import { priceImpact, pricesBoard } from '~~/core/audit/prices-board'
import { taxImpact } from '~~/core/audit/tax-impact'
import { answersOf } from '~/loft/core/worker/answering'
import { sideAsked, worldNow } from '~/loft/core/worker/world'
import { pricesBoardOf, withChanges } from './price-boards'
import type { ImpactQuestions } from './questions'

export const impactAnswers = answersOf<ImpactQuestions>('impact', {
  prices({ changes, quantity, costs }) {
    const world = worldNow()
    const { tiers, nowMs } = world
    const live = pricesBoardOf(world, 'live', quantity)
    const after = changes
      ? pricesBoard(withChanges(world.live, changes), tiers, { quantity, nowMs }, live)
      : pricesBoardOf(world, 'draft', quantity)
    return priceImpact(live, after, new Map(Object.entries(costs)))
  },
  taxes({ changes }) {
    const world = worldNow()
    const { live, draft, tiers } = world
    return taxImpact(live.rules, changes ? withChanges(live, changes) : draft.rules, tiers, world)
  },
  findings({ which, costs, staffRules }) {
    const { tiers, nowMs } = worldNow()
    const { rules } = sideAsked(which)
    return findingsOf({ rules, tiers, nowMs, costs: new Map(Object.entries(costs)), staffRules }, findingGroups.prices)
  },
})
