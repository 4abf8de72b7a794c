import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyGates, anyVisitor } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { validateRulebook } from '../check/validate'
import type { Gate } from '../rulebook/gate'
import type { Visitor } from '../visitor/visitor'
import { thingsOf } from './compiled'
import { givingOf, withGate } from './giving'
import { RuleSet } from './rule-set'
import { PlainDecider } from './plain-decider'
import { rightBit } from './verdict'

const world = wexlowCase()
const nowMs = Date.parse('2026-11-26T10:30:00Z')
const who = { role: { anyOf: ['weaver'] } }
const visitor: Visitor = { person: { id: 'somebody' }, roles: ['weaver'] }
const book = { ...world.book, roles: [...world.book.roles!, { id: 'weaver' }] }
const rulesOf = (gates: Gate[]) => new RuleSet({ ...book, gates }, world.site)
const give = (gates: Gate[], id: string, kind = 'page') =>
  givingOf(rulesOf(gates), { kind: kind as 'page', id }, { who, visitor, newId: 'new', name: 'New' }, nowMs)
const maker = { level: { atLeast: 'maker' } }
const library: Gate = {
  id: 'library',
  on: { page: 'techniques', below: true },
  open: maker,
  find: { everyone: true },
  otherwise: { teaser: true },
}
const below = world.site.pages!.find(page => page.parent === 'techniques')!.id

describe('giving somebody a thing', () => {
  it('says it in the gate that stands on it, where that alone refuses them', () => {
    const trade: Gate = { id: 'trade', on: { page: 'trade' }, open: { any: [maker, { signedIn: false }] } }
    expect(give([trade], 'trade')).toEqual({
      state: 'can',
      here: { ...trade, open: { any: [maker, { signedIn: false }, who] } },
      isNew: false,
      wide: null,
    })
  })

  it('makes a gate for it alone where one further out refuses them, or says it in that one for all it stands before', () => {
    expect(give([library], below)).toEqual({
      state: 'can',
      isNew: true,
      here: {
        id: 'new',
        name: 'New',
        on: { page: below },
        inherit: false,
        open: { any: [maker, who] },
        find: { everyone: true },
        otherwise: { teaser: true },
      },
      wide: { ...library, open: { any: [maker, who] } },
    })
  })

  it('gives nothing that opens already, is not there, or stands in what stays shut', () => {
    expect(give([], 'trade')).toEqual({ state: 'open' })
    expect(give([], 'gone')).toEqual({ state: 'missing' })
    const shut: Gate = { id: 'trade', on: { page: 'trade' }, open: maker }
    expect(give([{ ...shut, on: { page: 'cabling' } }], 'cable-chart', 'block')).toEqual({
      state: 'inside',
      in: { kind: 'page', id: 'cabling' },
    })
  })

  it('puts no gate on what holds others, which would move them too', () => {
    const category = world.site.products!.flatMap(product => product.categories ?? [])[0]!
    const kind: Gate = { id: 'kind', on: { kind: 'category' }, open: maker }
    expect(give([kind], category, 'category')).toEqual({
      state: 'can',
      here: null,
      isNew: true,
      wide: { ...kind, open: { any: [maker, who] } },
    })
  })

  it('lets them in, and nobody else gains or loses anything by it, whatever the gates', () => {
    fc.assert(
      fc.property(
        anyGates(world),
        fc.array(anyVisitor, { minLength: 1, maxLength: 3 }),
        fc.nat(),
        (gates, others, pick) => {
          const rules = rulesOf(gates)
          fc.pre(validateRulebook(rules.rulebook, world.site).every(issue => issue.code === 'states-nothing'))
          const things = thingsOf(rules.index)
          const thing = things[pick % things.length]!
          const answer = givingOf(rules, thing, { who, visitor, newId: 'new-gate', name: 'New' }, nowMs)
          if (answer.state !== 'can') return
          for (const gate of [answer.here, answer.wide]) {
            if (!gate) continue
            const next = new RuleSet(withGate(rules.rulebook, gate), rules.index)
            const bits = (set: RuleSet, as: Visitor, at = thing) => new PlainDecider(set, as, nowMs).bits(at).plain
            expect(bits(next, visitor) & rightBit.open).toBe(rightBit.open)
            for (const other of others)
              for (const one of things) expect([one, bits(next, other, one)]).toEqual([one, bits(rules, other, one)])
          }
        },
      ),
      { numRuns: 120 },
    )
  })
})
