import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyGates, anyVisitor } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { validateRulebook } from '../rulebook/validate'
import { CompiledRules, thingsOf } from './compiled'
import { CompiledDecider } from './compiled-decider'
import { explain } from './explain'
import { PlainDecider, RuleSet } from './plain-decider'

const world = wexlowCase()
const things = [
  ...thingsOf(world.site),
  { kind: 'field' as const, id: 'loom-loans/deposit', record: 'loan-1' },
  { kind: 'field' as const, id: 'loom-loans/deposit', record: 'booking-1' },
  { kind: 'page' as const, id: 'nowhere' },
]
const masterKeys = { masterKeys: ['keeper'] }

describe('the compiled decider', () => {
  it('answers every question as the plain reading does', () => {
    fc.assert(
      fc.property(anyGates(world), fc.array(anyVisitor, { minLength: 1, maxLength: 3 }), (gates, visitors) => {
        const book = { ...world.book, gates, settings: masterKeys }
        fc.pre(validateRulebook(book, world.site).every(issue => issue.code === 'states-nothing'))
        const compiled = new CompiledRules(book, world.site)
        const plain = new RuleSet(book, world.site)
        for (const visitor of visitors) {
          const fast = new CompiledDecider(compiled, visitor, 0)
          const slow = new PlainDecider(plain, visitor, 0)
          for (const thing of things) expect(fast.decide(thing), JSON.stringify(thing)).toEqual(slow.decide(thing))
        }
      }),
      { numRuns: 250 },
    )
  })

  it('gives things with one list of gates one weave, and things with different lists different ones', () => {
    const book = { ...world.book, gates: [{ id: 'g', on: { category: 'yarn' }, open: { signedIn: true } }] }
    const rules = new CompiledRules(book, world.site)
    expect(rules.weaveOf('product', 'heather-dk')).toBe(rules.weaveOf('product', 'mist-lace'))
    expect(rules.weaveOf('product', 'heather-dk')).not.toBe(rules.weaveOf('product', 'bobbin'))
    expect(rules.weaveOf('product', 'nothing')).toBe(-1)
  })

  it('knows which facts of a request a thing depends on', () => {
    const book = {
      ...world.book,
      gates: [
        {
          id: 'a',
          on: { page: 'trade', below: true },
          open: { all: [{ audience: 'trade' }, { country: { in: ['IE'] } }] },
        },
        { id: 'b', on: { page: 'join' }, open: { opens: { page: 'techniques' } } },
        { id: 'c', on: { page: 'techniques' }, open: { weekday: { in: ['mon' as const] } } },
      ],
    }
    const rules = new CompiledRules(book, world.site)
    expect([...rules.factsOf('page', 'home')]).toEqual([])
    expect([...rules.factsOf('block', 'trade-table')].sort()).toEqual(['country', 'person'])
    expect([...rules.factsOf('page', 'join')]).toEqual(['clock'])
  })
})

describe('an explanation', () => {
  it('names the deciding gate exactly when open is refused, and every part of what it asks', () => {
    fc.assert(
      fc.property(anyGates(world), anyVisitor, (gates, visitor) => {
        const book = { ...world.book, gates, settings: masterKeys }
        fc.pre(validateRulebook(book, world.site).every(issue => issue.code === 'states-nothing'))
        const decider = new PlainDecider(new RuleSet(book, world.site), visitor, 0)
        for (const thing of things.slice(0, -1)) {
          const why = explain(decider, thing)!
          expect(why.verdict).toEqual(decider.decide(thing))
          const placeRefuses = why.standsNowhere || (why.standsIn !== undefined && !why.standsIn.verdict.open)
          // With a key each right is read whole, so gates that pass one by one may still refuse together.
          if (!decider.asker.masterKey)
            expect(why.verdict.open).toBe(!placeRefuses && !why.closedRoute && why.gates.every(gate => !gate.refuses))
          for (const gate of why.gates) for (const right of gate.rights) expect(right.values['']).toBe(right.value)
          if (why.otherwise) expect(why.otherwise.value).toEqual(why.verdict.otherwise)
        }
      }),
      { numRuns: 150 },
    )
  })
})
