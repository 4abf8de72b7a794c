import { compareVisitors, isWithin } from '~~/core/audit/compare-visitors'
import { waysIn } from '~~/core/audit/ways-in'
import type { Resource } from '~~/core/kinds/kinds'
import { answersOf } from '~/loft/core/worker/answering'
import { find, sideAsked, tierAsked, worldNow } from '~/loft/core/worker/world'
import type { CompareAnswer, CompareAsk, ReachQuestions } from './questions'

function compare(ask: CompareAsk): CompareAnswer | null {
  const { tiers, nowMs, things } = worldNow()
  const [one, two] = [ask.one, ask.two].map(id => tiers.find(tier => tier.id === id)?.visitor)
  if (!one || !two) return null
  const { rules } = sideAsked(ask.which)
  const named = ask.text.trim() ? new Set(find(ask.text)) : null
  const isAsked = (thing: Resource, at: number) =>
    (!ask.of || thing.kind === ask.of) &&
    (!named || named.has(at)) &&
    (!ask.within || isWithin(thing, ask.within, rules.index))
  const among = things.flatMap((thing, at) => (isAsked(thing, at) ? [at] : []))
  const groups = compareVisitors(
    rules,
    among.map(at => things[at]!),
    { one, two },
    nowMs,
  ).map(group => ({ ...group, positions: group.positions.map(i => among[i]!) }))
  return { groups, among: among.length }
}

export const reachAnswers = answersOf<ReachQuestions>('reach', {
  ways({ resource, tier, which }) {
    const asked = tierAsked(tier)
    return asked ? waysIn(sideAsked(which).rules, asked.visitor, resource, worldNow().nowMs) : []
  },
  compare,
})
