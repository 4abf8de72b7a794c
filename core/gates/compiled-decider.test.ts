import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyGates, anyVisitor } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { validateRulebook } from '../check/validate'
import { SiteIndex } from '../site/site-index'
import { CompiledRules, thingsOf } from './compiled'
import { CompiledDecider } from './compiled-decider'
import { explain } from './explain'
import type { Resource } from '../kinds/kinds'
import { RuleSet } from './rule-set'
import { PlainDecider } from './plain-decider'

const world = wexlowCase()
const recordOf = (id: string) => world.records.find(one => one.id === id)!
const things: Resource[] = [
  ...thingsOf(world.site),
  ...world.records.map((record): Resource => ({ kind: 'record', id: record.id, record })),
  { kind: 'field', id: 'loom-loans/deposit', record: recordOf('loan-1') },
  // Not there: a record of another register, none at all, nothing.
  { kind: 'field', id: 'loom-loans/deposit', record: recordOf('booking-1') },
  { kind: 'field', id: 'loom-loans/deposit' },
  { kind: 'record', id: 'loan-1' },
  { kind: 'page', id: 'nowhere' },
]
const there = things.slice(0, -4)
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
    expect(rules.weaveOf({ kind: 'product', id: 'heather-dk' })).toBe(
      rules.weaveOf({ kind: 'product', id: 'mist-lace' }),
    )
    expect(rules.weaveOf({ kind: 'product', id: 'heather-dk' })).not.toBe(
      rules.weaveOf({ kind: 'product', id: 'bobbin' }),
    )
    expect(rules.weaveOf({ kind: 'product', id: 'nothing' })).toBe(-1)
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
    expect([...rules.factsOf({ kind: 'page', id: 'home' })]).toEqual([])
    expect([...rules.factsOf({ kind: 'block', id: 'trade-table' })].sort()).toEqual(['country', 'person'])
    expect([...rules.factsOf({ kind: 'page', id: 'join' })]).toEqual(['clock'])
  })
})

describe('an explanation', () => {
  it('names the deciding gate exactly when open is refused, and every part of what it asks', () => {
    fc.assert(
      fc.property(anyGates(world), anyVisitor, (gates, visitor) => {
        const book = { ...world.book, gates, settings: masterKeys }
        fc.pre(validateRulebook(book, world.site).every(issue => issue.code === 'states-nothing'))
        const decider = new PlainDecider(new RuleSet(book, world.site), visitor, 0)
        for (const thing of there) {
          const why = explain(decider, thing)!
          expect(why.verdict).toEqual(decider.decide(thing))
          const placeRefuses = why.standsNowhere || (why.standsIn !== undefined && !why.standsIn.verdict.open)
          // With a key each right is read whole, so gates that pass one by one may still refuse together.
          if (!decider.asker.masterKey)
            expect(why.verdict.open).toBe(!placeRefuses && !why.closed && why.gates.every(gate => !gate.refuses))
          for (const gate of why.gates) for (const right of gate.rights) expect(right.values['']).toBe(right.value)
          if (why.otherwise) expect(why.otherwise.value).toEqual(why.verdict.otherwise)
        }
      }),
      { numRuns: 150 },
    )
  })
})

describe('a gate that is switched off', () => {
  it('is explained where it would stand, and decides nothing', () => {
    const gate = { id: 'shut', on: { page: 'trade', below: true }, open: { nobody: true as const }, active: false }
    const more = [
      { id: 'all', on: { everything: true as const }, open: { everyone: true as const } },
      { id: 'way', on: { path: '/trade/**' }, open: { nobody: true as const }, active: false },
    ]
    const book = { ...world.book, gates: [gate, ...more], settings: masterKeys }
    const below = world.site.pages!.find(page => page.parent === 'trade')!
    const why = explain(new PlainDecider(new RuleSet(book, world.site), {}, 0), { kind: 'page', id: below.id })!
    expect(why.verdict.open).toBe(true)
    expect(why.gates.map(({ id, off, refuses, rights }) => [id, off, refuses, rights[0]!.inForce])).toEqual([
      ['all', undefined, false, true],
      ['shut', true, false, false],
      ['way', true, false, false],
    ])
    expect(why.gates[1]!.rights[0]!.value).toBe(false)
  })
})

describe('rules compiled after others', () => {
  it('keep the weaves where gates stand where they stood, and decide as rules compiled anew', () => {
    fc.assert(
      fc.property(anyGates(world), anyGates(world), anyVisitor, fc.boolean(), (first, second, visitor, samePlaces) => {
        // The same places, saying other things; or other places altogether.
        const gates = samePlaces
          ? first.map((gate, i) => ({ ...gate, open: second[i % Math.max(1, second.length)]?.open ?? gate.open }))
          : second
        const book = (list: typeof first) => ({ ...world.book, gates: list, settings: masterKeys })
        const index = new SiteIndex(world.site)
        const before = new CompiledRules(book(first), index)
        for (const thing of there) before.weaveOf(thing)
        const after = new CompiledRules(book(gates as typeof first), index, before)
        if (after.sameWeavesAs) for (const thing of there) expect(after.weaveOf(thing)).toBe(before.weaveOf(thing))
        const [kept, anew] = [after, new CompiledRules(book(gates as typeof first), index)].map(
          rules => new CompiledDecider(rules, visitor, 0),
        )
        for (const thing of there) expect(kept!.bits(thing)).toBe(anew!.bits(thing))
      }),
      { numRuns: 120 },
    )
  })

  it('note what a visitor was asked about: what decided it, and nothing before the watch began', () => {
    const gates = [
      { id: 'a', on: { page: 'trade' }, open: { country: { in: ['IE'] } } },
      { id: 'b', on: { page: 'join' }, open: { signedIn: false } },
    ]
    const decider = new CompiledDecider(new CompiledRules({ ...world.book, gates }, world.site), {}, 0)
    decider.decide({ kind: 'page', id: 'trade' })
    const seen = decider.watch()
    decider.bits({ kind: 'page', id: 'home' })
    expect([...seen]).toEqual([])
    decider.bits({ kind: 'page', id: 'trade' })
    expect([...seen]).toEqual(['country'])
    decider.turnsOn('person')
    expect([...seen].sort()).toEqual(['country', 'person'])
  })
})
