import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyGates, anyVisitor } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { CompiledDecider } from '../gates/compiled-decider'
import { CompiledRules, thingsOf } from '../gates/compiled'
import { rightBit } from '../gates/verdict'
import type { Condition } from '../conditions/condition'
import type { Rulebook } from '../rulebook/rulebook'
import { asIfAll } from '../visitor/as-if'
import type { Visitor } from '../visitor/visitor'
import { waysIn } from './ways-in'

const nowMs = Date.parse('2026-11-26T10:30:00Z')
const rulesOf = (open: Condition, more: Partial<Rulebook> = {}) =>
  new CompiledRules(
    {
      bravik: 'rulebook/1',
      levels: [
        { id: 'maker', rank: 20 },
        { id: 'friend', rank: 10 },
        { id: 'guild', rank: 30 },
      ],
      roles: [
        { id: 'stockist', permissions: ['see-costs'] },
        { id: 'keeper', staff: true, permissions: ['see-costs'] },
      ],
      permissions: [{ id: 'see-costs' }],
      gates: [{ id: 'g', on: { page: 'p' }, open }],
      ...more,
    },
    {
      timezone: 'Europe/Dublin',
      currency: 'EUR',
      pages: [
        { id: 'p', path: '/p' },
        { id: 'other', path: '/other' },
      ],
      blocks: [{ id: 'b', kind: 'text', in: { page: 'p' } }],
    } as never,
  )
const guest: Visitor = {}
const ways = (open: Condition, visitor = guest, more: Partial<Rulebook> = {}) =>
  waysIn(rulesOf(open, more), visitor, { kind: 'page', id: 'p' }, nowMs)

describe('what a visitor lacks', () => {
  it('is a level, a role or signing in, the least first, and never a staff role', () => {
    expect(ways({ any: [{ role: { anyOf: ['stockist', 'keeper'] } }, { level: { atLeast: 'maker' } }] })).toEqual([
      [{ level: 'maker' }],
      [{ role: 'stockist' }],
    ])
    expect(ways({ level: { atMost: 'maker' } })).toEqual([[{ level: 'friend' }]])
    expect(ways({ permission: 'see-costs' })).toEqual([[{ role: 'stockist' }]])
    expect(ways({ signedIn: true })).toEqual([[{ sign: 'in' }]])
    expect(ways({ not: { signedIn: true } }, { person: { id: 'p' }, roles: ['stockist'] })).toEqual([[{ sign: 'out' }]])
    expect(ways({ everyone: true })).toEqual([])
    expect(ways({ nobody: true })).toEqual([])
    expect(ways({ person: { in: ['p-ana'] } })).toEqual([])
  })

  it('is a day or an hour to come, a device, a country: on the clock of the site', () => {
    expect(ways({ date: { from: '2026-12-01' } })).toEqual([[{ date: '2026-12-01' }]])
    expect(ways({ date: { until: '2026-11-01' } })).toEqual([])
    expect(ways({ not: { date: { until: '2026-11-30' } } })).toEqual([[{ date: '2026-12-01' }]])
    expect(ways({ time: { from: '18:00', until: '21:00' } })).toEqual([[{ time: '18:00' }]])
    expect(ways({ weekday: { in: ['sat'] } })).toEqual([[{ weekday: 'sat' }]])
    expect(ways({ not: { device: { in: ['phone'] } } }, { request: { device: 'phone' } })).toEqual([
      [{ device: 'tablet' }],
      [{ device: 'desktop' }],
    ])
    expect(ways({ country: { in: ['ES', 'IE'] } })).toEqual([[{ country: 'ES' }], [{ country: 'IE' }]])
    const held = { person: { id: 'p' }, levels: [{ level: 'friend', since: '2026-11-20T09:00:00Z' }] }
    expect(ways({ memberFor: { atLeast: 'P30D' } }, held)).toEqual([[{ at: '2026-12-20T09:00:00.000Z' }]])
    expect(ways({ memberFor: { atLeast: 'P30D' } })).toEqual([])
  })

  it('is several things together where one does not do, and no more than is needed', () => {
    const open: Condition = {
      all: [
        { level: { atLeast: 'guild' } },
        { date: { from: '2026-12-01' } },
        { any: [{ device: { in: ['phone'] } }, { role: { anyOf: ['stockist'] } }] },
      ],
    }
    expect(ways(open)).toEqual([
      [{ level: 'guild' }, { role: 'stockist' }, { date: '2026-12-01' }],
      [{ level: 'guild' }, { date: '2026-12-01' }, { device: 'phone' }],
    ])
  })

  it('is looked for behind audiences, in what a thing stands in, and in what else must open', () => {
    const audiences = [{ id: 'a', is: { not: { any: [{ not: { level: { atLeast: 'maker' } } }] } } as Condition }]
    expect(ways({ audience: 'a' }, guest, { audiences })).toEqual([[{ level: 'maker' }]])
    const gates = [{ id: 'o', on: { page: 'other' }, open: { role: { anyOf: ['stockist'] } } as Condition }]
    expect(
      ways({ opens: { page: 'other' } }, guest, {
        gates: [...gates, { id: 'g', on: { page: 'p' }, open: { opens: { page: 'other' } } }],
      }),
    ).toEqual([[{ role: 'stockist' }]])
    expect(waysIn(rulesOf({ level: { atLeast: 'maker' } }), guest, { kind: 'block', id: 'b' }, nowMs)).toEqual([
      [{ level: 'maker' }],
    ])
  })

  it('lets in whoever has it, whatever the rules, and nothing is lacked where it opens', () => {
    const world = wexlowCase()
    fc.assert(
      fc.property(anyGates(world), anyVisitor, fc.nat(), (gates, visitor, pick) => {
        const rules = new CompiledRules({ ...world.book, gates }, world.site)
        const things = thingsOf(rules.index)
        const thing = things[pick % things.length]!
        const opens = (as: Visitor) => (new CompiledDecider(rules, as, nowMs).bits(thing) & rightBit.open) !== 0
        const found = waysIn(rules, visitor, thing, nowMs)
        if (opens(visitor)) return void expect(found).toEqual([])
        for (const way of found)
          expect(opens(asIfAll(visitor, way, { nowMs, timezone: rules.index.site.timezone }))).toBe(true)
      }),
      { numRuns: 150 },
    )
  })
})
