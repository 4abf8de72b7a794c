import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyGates } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { validateRulebook } from '../check/validate'
import { CompiledRules, thingsOf } from '../gates/compiled'
import { RuleSet } from '../gates/rule-set'
import { PlainDecider } from '../gates/plain-decider'
import type { Gate } from '../rulebook/gate'
import { rights } from '../kinds/kinds'
import { compareVisitors, isWithin } from './compare-visitors'

const world = wexlowCase()
const things = thingsOf(world.site)
const visitors = Object.values(world.visitors)
const rulesOf = (gates: Gate[]) => new CompiledRules({ ...world.book, gates }, world.site)

describe('two visitors compared', () => {
  it('differ in exactly what the plain reading says of each, and by a gate that refuses', () => {
    const two = fc.constantFrom(...visitors)
    fc.assert(
      fc.property(anyGates(world), two, two, (gates, one, other) => {
        const book = { ...world.book, gates }
        fc.pre(validateRulebook(book, world.site).every(issue => issue.code === 'states-nothing'))
        const found = compareVisitors(rulesOf(gates), things, { one, two: other }, 0)
        const at = new Map(found.flatMap(group => group.positions.map(position => [position, group] as const)))
        const plain = new RuleSet(book, world.site)
        const [first, second] = [new PlainDecider(plain, one, 0), new PlainDecider(plain, other, 0)]
        things.forEach((thing, position) => {
          if (thing.kind === 'menuItem' || thing.kind === 'record') return
          const [a, b] = [first.decide(thing), second.decide(thing)]
          const differs = at.get(position)?.differs ?? []
          expect(differs.map(({ right, only }) => `${right} ${only}`)).toEqual(
            rights.filter(right => a[right] !== b[right]).map(right => `${right} ${a[right] ? 'one' : 'two'}`),
          )
          for (const { by } of differs) if ('gate' in by) expect(gates.some(gate => gate.id === by.gate)).toBe(true)
          for (const { by } of differs) expect('target' in by).toBe(false)
        })
      }),
      { numRuns: 40 },
    )
  })

  it('are the same where the visitor is', () => {
    for (const one of visitors)
      expect(compareVisitors(rulesOf(world.book.gates ?? []), things, { one, two: one }, 0)).toEqual([])
  })

  it('are told the innermost gate that refuses, on the thing or around it', () => {
    const { index } = rulesOf([])
    const below = [...index.all('page').values()].find(page => page.parent && index.get('page', page.parent))!
    const above = below.parent!
    const gates: Gate[] = [
      { id: 'outer', on: { page: above, below: true }, open: { signedIn: true }, find: { everyone: true } },
      { id: 'inner', on: { page: below.id }, search: { signedIn: true } },
    ]
    const [one, two] = [{ person: { id: 'p' } }, { person: null }]
    const found = compareVisitors(rulesOf(gates), [{ kind: 'page', id: below.id }], { one, two }, 0)
    expect(found.map(group => group.differs)).toEqual([
      [
        { right: 'search', only: 'one', by: { gate: 'inner' } },
        { right: 'open', only: 'one', by: { gate: 'outer' } },
      ],
    ])
    const page = { kind: 'page', id: below.id } as const
    expect([
      isWithin(page, { kind: 'page', id: above }, index),
      isWithin({ kind: 'page', id: above }, page, index),
    ]).toEqual([true, false])
  })
})
