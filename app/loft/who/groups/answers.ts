import { ladderOf } from '~~/core/audit/ladder'
import { cellAt, moveOf, reachBoard } from '~~/core/audit/reach-board'
import { CompiledRules } from '~~/core/gates/compiled'
import { CompiledDecider } from '~~/core/gates/compiled-decider'
import { givingOf, withGate } from '~~/core/gates/giving'
import type { Resource } from '~~/core/kinds/kinds'
import { answersOf } from '~/loft/core/worker/answering'
import { bitsOf, inContext, sideAsked, worldNow } from '~/loft/core/worker/world'
import type { Level } from '~~/core/rulebook/people-rules'
import type { Visitor } from '~~/core/visitor/visitor'
import type { Which } from '~/loft/core/worker/questions'
import { mostNamed } from './questions'
import type { GainsAnswer, GivingAnswer, GivingAsk, LadderAnswer, RankedAnswer, WhoQuestions } from './questions'

/** What opens to one visitor and not to another, menus as they are seen. */
function opened(rules: CompiledRules, from: Visitor, to: Visitor): GainsAnswer {
  const { things, nowMs, context } = worldNow()
  const tiers = [from, to].map((visitor, i) => ({ id: String(i), name: '', visitor: inContext(visitor, context) }))
  const board = reachBoard(rules, things, tiers, nowMs)
  const [, rung] = ladderOf(board)
  return {
    gained: rung!.more.map(i => ({ resource: things[i]!, before: cellAt(board, i, 0), after: cellAt(board, i, 1) })),
    lost: rung!.fewer.length,
  }
}

function giving({ resource, visitor, ...ask }: GivingAsk): GivingAnswer {
  const { draft, nowMs, context, things } = worldNow()
  const asked = inContext(visitor, context)
  const answer = givingOf(draft.rules, resource, { ...ask, visitor: asked }, nowMs)
  if (answer.state !== 'can' || !answer.wide) return answer
  const wider = new CompiledRules(withGate(draft.contents.book, answer.wide), draft.contents.index, draft.rules)
  const [before, after] = [draft.rules, wider].map(rules => bitsOf(rules, asked, things, nowMs))
  const gains = (i: number) => ['gain', 'other'].includes(moveOf(before![i]!, after![i]!) ?? '')
  const isAsked = ({ kind, id }: Resource) => id === resource.id && kind === resource.kind
  return { ...answer, besides: things.filter((one, i) => gains(i) && !isAsked(one)).length }
}

function ladder({ visitors, which }: { visitors: Visitor[]; which: Which }): LadderAnswer {
  const { things, nowMs, context } = worldNow()
  const side = sideAsked(which)
  const tiers = visitors.map((visitor, i) => ({ id: String(i), name: '', visitor: inContext(visitor, context) }))
  const board = reachBoard(side.rules, things, tiers, nowMs, { rules: side.rules, board: side.board })
  const deciders = tiers.map(tier => new CompiledDecider(side.rules, tier.visitor, nowMs))
  const offers = (side.rules.rulebook.offers ?? []).filter(offer => offer.active !== false && !offer.code)
  const isFor = (offer: (typeof offers)[number], t: number) => !offer.for || (deciders[t]?.admits(offer.for) ?? false)
  const told = (positions: readonly number[]) => ({
    count: positions.length,
    first: positions.slice(0, mostNamed).map(i => things[i]!),
  })
  return {
    total: things.length,
    rungs: ladderOf(board).map(({ opens, more, fewer }, t) => ({
      opens,
      more: told(more),
      fewer: told(fewer),
      offers: offers.filter(offer => isFor(offer, t) && !(t > 0 && isFor(offer, t - 1))).map(offer => offer.id),
    })),
  }
}

function ranked(levels: readonly Level[]): RankedAnswer {
  const { draft, tiers, things, nowMs } = worldNow()
  const { book, index } = draft.contents
  const otherwise = {
    ...book,
    levels: book.levels?.map(level => levels.find(one => one.id === level.id) ?? level),
  } as typeof book
  const rules = new CompiledRules(otherwise, index, draft.rules)
  const after = reachBoard(rules, things, tiers, nowMs, { rules: draft.rules, board: draft.board })
  const found: RankedAnswer = { gain: 0, lose: 0, other: 0, tiers: [] }
  tiers.forEach((tier, t) => {
    let moves = false
    for (let i = 0; i < things.length; i++) {
      const move = moveOf(cellAt(draft.board, i, t), cellAt(after, i, t))
      if (!move) continue
      found[move]++
      moves = true
    }
    if (moves) found.tiers.push(tier.name)
  })
  return found
}

export const whoAnswers = answersOf<WhoQuestions>('who', {
  ladder,
  ranked,
  giving,
  gains: ({ from, to, which }) => opened(sideAsked(which).rules, from, to),
})
