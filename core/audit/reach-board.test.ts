import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyGates } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { CompiledRules, thingsOf } from '../gates/compiled'
import { RuleSet } from '../gates/rule-set'
import { PlainDecider } from '../gates/plain-decider'
import { reaches, reachOf } from '../gates/verdict'
import type { Condition } from '../conditions/condition'
import type { Resource } from '../kinds/kinds'
import type { Gate } from '../rulebook/gate'
import { validateRulebook } from '../check/validate'
import { alignedTo, cellAt, impactOf, moveOf, reachBoard, sharesByKind } from './reach-board'

const world = wexlowCase()
const tiers = Object.entries(world.visitors).map(([id, visitor]) => ({ id, name: id, visitor }))
const things = thingsOf(world.site)
const boardOf = (gates: Gate[]) => reachBoard(new CompiledRules({ ...world.book, gates }, world.site), things, tiers, 0)

describe('the reach board', () => {
  it('has in every cell what the plain reading says of that thing and tier', () => {
    fc.assert(
      fc.property(anyGates(world), gates => {
        const book = { ...world.book, gates }
        fc.pre(validateRulebook(book, world.site).every(issue => issue.code === 'states-nothing'))
        const board = boardOf(gates)
        const rules = new RuleSet(book, world.site)
        tiers.forEach(({ visitor }, t) => {
          const decider = new PlainDecider(rules, visitor, 0)
          things.forEach((thing, i) => {
            if (thing.kind === 'menuItem' || thing.kind === 'record') return
            expect(reachOf(cellAt(board, i, t))).toBe(decider.decide(thing).reach)
          })
        })
      }),
      { numRuns: 60 },
    )
  })

  it('shows a menu item as the menu shows it: with its target, locked, or not at all', () => {
    const board = boardOf([
      { id: 'g', on: { page: 'trade' }, open: { role: { anyOf: ['stockist'] } } },
      { id: 'h', on: { page: 'techniques' }, open: { signedIn: true } },
    ])
    const seen = (item: string, tier: string) =>
      reachOf(
        cellAt(
          board,
          things.findIndex(one => one.id === item),
          tiers.findIndex(one => one.id === tier),
        ),
      )
    expect([seen('m-trade', 'guest'), seen('m-trade', 'stockist'), seen('m-tech', 'guest')]).toEqual([
      'unseen',
      'open',
      'glimpse',
    ])
  })

  it('counts by weave what stands in its cells', () => {
    const board = boardOf([{ id: 'g', on: { category: 'yarn' }, open: { signedIn: true }, find: { everyone: true } }])
    const counted = tiers.map((_, t) =>
      things.reduce(
        (counts, __, i) =>
          counts.with(
            reaches.indexOf(reachOf(cellAt(board, i, t))),
            counts[reaches.indexOf(reachOf(cellAt(board, i, t)))]! + 1,
          ),
        [0, 0, 0, 0],
      ),
    )
    const byKind = Object.values(sharesByKind(board))
    expect(tiers.map((_, t) => [0, 1, 2, 3].map(r => byKind.reduce((sum, one) => sum + one[t]![r]!, 0)))).toEqual(
      counted,
    )
  })

  it('counts by kind what stands in its cells, and lays one board over other things', () => {
    fc.assert(
      fc.property(anyGates(world), gates => {
        fc.pre(validateRulebook({ ...world.book, gates }, world.site).every(one => one.code === 'states-nothing'))
        const board = boardOf(gates)
        const counted: ReturnType<typeof sharesByKind> = {}
        things.forEach(({ kind }, i) =>
          tiers.forEach((_, t) => {
            const counts = (counted[kind] ??= tiers.map(() => [0, 0, 0, 0]))
            counts[t]![reaches.indexOf(reachOf(cellAt(board, i, t)))]!++
          }),
        )
        expect(sharesByKind(board)).toEqual(counted)
        // The same things in another order, with one more and one less.
        const others: Resource[] = [{ kind: 'page', id: 'new' }, ...things.slice(1).toReversed()]
        const laid = { ...board, things: others, ...alignedTo(board, others) }
        others.forEach((thing, i) =>
          tiers.forEach((_, t) =>
            expect(cellAt(laid, i, t)).toBe(thing.id === 'new' ? 0 : cellAt(board, things.indexOf(thing), t)),
          ),
        )
      }),
      { numRuns: 25 },
    )
  })

  it('counts moves anew where only what a gate says is new', () => {
    const gate = (open: Condition): Gate => ({ id: 'g', on: { page: 'trade' }, open })
    const [nobody, all] = [gate({ nobody: true }), gate({ everyone: true })]
    const rules = (one: Gate, like?: CompiledRules) =>
      new CompiledRules({ ...world.book, gates: [one] }, like?.index ?? world.site, like)
    const first = rules(nobody)
    const before = { rules: first, board: reachBoard(first, things, tiers, 0) }
    const [second, third] = [rules(all, first), rules(nobody, first)]
    const [after, back] = [second, third].map(one => reachBoard(one, things, tiers, 0, before))
    expect(after!.weaves).toBe(before.board.weaves)
    const moved = impactOf(before.board, after!)
    expect(moved.gain).toBeGreaterThan(0)
    expect(moved).toEqual(impactOf(boardOf([nobody]), boardOf([all])))
    expect(impactOf(before.board, back!).moved).toBe(0)
  })

  it('counts what moves, and which way', () => {
    const open: Gate = { id: 'g', on: { page: 'trade' }, open: { role: { anyOf: ['stockist'] } } }
    const wider: Gate = { ...open, open: { role: { anyOf: ['stockist', 'classroom'] } } }
    // The page and its menu item, for one tier.
    expect(impactOf(boardOf([open]), boardOf([wider]))).toEqual({ moved: 3, gain: 3, lose: 0, other: 0 })
    expect(impactOf(boardOf([wider]), boardOf([open]))).toEqual({ moved: 3, gain: 0, lose: 3, other: 0 })
    expect(moveOf(1, 4)).toBe('other')
    expect(moveOf(5, 5 | 32)).toBeNull()
  })
})
