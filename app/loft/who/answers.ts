import { moveOf } from '~~/core/audit/reach-board'
import { CompiledRules } from '~~/core/gates/compiled'
import { givingOf, withGate } from '~~/core/gates/giving'
import type { Resource } from '~~/core/kinds/kinds'
import { answersOf } from '~/loft/core/worker/answering'
import { bitsOf, inContext, sideAsked, worldNow } from '~/loft/core/worker/world'
import type { GainsAnswer, GivingAnswer, GivingAsk, WhoQuestions } from './questions'

function gainsBetween(before: Uint8Array, after: Uint8Array, things: readonly Resource[]): GainsAnswer {
  const moves = things.map((resource, i) => ({
    resource,
    before: before[i]!,
    after: after[i]!,
    move: moveOf(before[i]!, after[i]!),
  }))
  return {
    gained: moves.filter(one => one.move === 'gain' || one.move === 'other').map(({ move: _move, ...one }) => one),
    lost: moves.filter(one => one.move === 'lose').length,
  }
}

function giving({ resource, visitor, ...ask }: GivingAsk): GivingAnswer {
  const { draft, nowMs, context, things } = worldNow()
  const asked = inContext(visitor, context)
  const answer = givingOf(draft.rules, resource, { ...ask, visitor: asked }, nowMs)
  if (answer.state !== 'can' || !answer.wide) return answer
  const wider = new CompiledRules(withGate(draft.contents.book, answer.wide), draft.contents.index, draft.rules)
  const { gained } = gainsBetween(
    bitsOf(draft.rules, asked, things, nowMs),
    bitsOf(wider, asked, things, nowMs),
    things,
  )
  return {
    ...answer,
    besides: gained.filter(one => one.resource.id !== resource.id || one.resource.kind !== resource.kind).length,
  }
}

export const whoAnswers = answersOf<WhoQuestions>('who', {
  giving,
  gains({ from, to, which }) {
    const { things, nowMs } = worldNow()
    const { rules } = sideAsked(which)
    return gainsBetween(bitsOf(rules, from, things, nowMs), bitsOf(rules, to, things, nowMs), things)
  },
})
