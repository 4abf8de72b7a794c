import { describe, expect, it } from 'vitest'
import { at as now, bookOf, forMakers, siteOf } from '../../tests/support/page-at'
import { CompiledDecider } from '../gates/compiled-decider'
import { CompiledRules } from '../gates/compiled'
import { triWord } from '../tri'
import type { Condition } from './condition'
import { eachLeaf, keyOf } from './condition'
import { evaluate } from './evaluate'
import { looksAt } from './looks-at'

const site = siteOf({ pages: [{ id: 'wool', path: '/wool' }] })
const rules = new CompiledRules(bookOf([], { audiences: [{ id: 'makers', is: { not: forMakers } }] } as never), site)
const decider = new CompiledDecider(rules, { person: { id: 'p-ines' }, roles: ['keeper'] }, now)
const irish: Condition = { country: { in: ['IE'] } }

/** With the master key, by the plain reading and by the compiled one. */
function withKey(condition: Condition) {
  const compiled = triWord(decider.slot(rules.slots.slotOf(condition, 'key')))
  const plain = evaluate(condition, {
    asker: decider.asker,
    withKey: true,
    record: undefined,
    audience: () => 1,
    audienceCondition: id => rules.audiences.get(id),
    opens: () => true,
  })
  expect([condition, compiled]).toEqual([condition, triWord(plain)])
  return compiled
}

describe('with the master key', () => {
  it('what somebody would have to hold is held, and what they must not hold is not', () => {
    expect([withKey(forMakers), withKey({ not: forMakers }), withKey({ not: { not: forMakers } })]).toEqual([
      true,
      true,
      true,
    ])
    expect([withKey({ nobody: true }), withKey(irish), withKey({ not: irish })]).toEqual([false, 'unknown', 'unknown'])
    expect([withKey({ audience: 'makers' }), withKey({ not: { audience: 'makers' } })]).toEqual([true, true])
    expect(withKey({ all: [forMakers, { not: { role: { anyOf: ['islander'] } } }, irish] })).toBe('unknown')
  })
})

describe('compiled conditions', () => {
  it('are one where they are the same, and know whether they look at the record', () => {
    const { slots } = new CompiledRules(bookOf(), site)
    const first = slots.slotOf({ signedIn: true }, 'plain')
    expect(slots.slotOf({ signedIn: true }, 'plain')).toBe(first)
    expect(slots.slotOf({ signedIn: true }, 'key')).not.toBe(first)
    expect(slots.slotOf({ signedIn: false }, 'plain')).not.toBe(first)
    const perRecord = (condition: Condition) => slots.slots[slots.slotOf(condition, 'plain')]!.perRecord
    expect([
      perRecord({ mine: true }),
      perRecord({ any: [irish, { not: { assigned: 'by' } }] }),
      perRecord(irish),
    ]).toEqual([true, true, false])
    expect(slots.slots[first]!.condition).toEqual({ signedIn: true })
  })

  it('of a leaf nobody knows are unknown', () => {
    const strange = { nothing: 1 } as unknown as Condition
    expect([withKey(strange), triWord(decider.slot(rules.slots.slotOf(strange, 'plain')))]).toEqual([
      'unknown',
      'unknown',
    ])
  })
})

describe('the parts of a condition', () => {
  const condition: Condition = { all: [irish, { not: { any: [forMakers, { not: { signedIn: true } }] } }] }

  it('are each told by their path, and whether an odd number of nots is around them', () => {
    const met: unknown[] = []
    eachLeaf(condition, (key, argument, path, negated) => met.push([key, argument, path.join('/'), negated]))
    expect(met).toEqual([
      ['country', { in: ['IE'] }, 'all/0', false],
      ['level', forMakers.level, 'all/1/not/any/0', true],
      ['signedIn', true, 'all/1/not/any/1/not', false],
    ])
    expect([keyOf(condition)[0], keyOf(irish)]).toEqual(['all', ['country', { in: ['IE'] }]])
  })

  it('are each given a value while they are read, the whole last', () => {
    const values: unknown[] = []
    const reading = {
      asker: decider.asker,
      withKey: false,
      record: undefined,
      audience: () => 1 as const,
      audienceCondition: () => undefined,
      opens: () => true,
    }
    evaluate(condition, reading, (path, value) => values.push([path.join('/'), triWord(value)]))
    expect(values).toEqual([
      ['all/0', 'unknown'],
      ['all/1/not/any/0', false],
      ['all/1/not/any/1/not', true],
      ['all/1/not/any/1', false],
      ['all/1/not', false],
      ['all/1', true],
      ['', 'unknown'],
    ])
  })

  it('say what of a request they look at, through names, other things and facts', () => {
    const looks = (one: Condition) =>
      [
        ...looksAt(one, {
          audience: id => (id === 'makers' ? ['person'] : []),
          opens: (kind, id) => (`${kind}:${id}` === 'page:wool' ? ['clock'] : []),
          fact: id => (id === 'near' ? ['query'] : []),
        }),
      ].sort()
    expect([looks(irish), looks(condition), looks({ everyone: true })]).toEqual([
      ['country'],
      ['country', 'person'],
      [],
    ])
    expect([
      looks({ audience: 'makers' }),
      looks({ audience: 'x' }),
      looks({ opens: { page: 'wool' } }),
      looks({ opens: { page: 'x' } }),
    ]).toEqual([['person'], [], ['clock'], []])
    expect([looks({ fact: { name: 'near', is: 1 } }), looks({ fact: { name: 'x', is: 1 } })]).toEqual([
      ['person', 'query'],
      ['person'],
    ])
  })
})
