import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyCondition, anyLeaf, anyVisitor } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { rightBit } from '../gates/verdict'
import type { Gate } from '../rulebook/gate'
import { idleGates } from './idle-gates'

const file = wexlowCase()
const page = file.site.pages!.find(one => one.parent === undefined)!.id
const thing = { kind: 'page' as const, id: page }
const nowMs = Date.parse('2025-01-01T00:00:00Z')
const rulesOf = (gates: Gate[]) => new CompiledRules({ ...file.book, gates }, file.site)
const everywhere: Gate = { id: 'all', on: { everything: true }, open: { level: { atLeast: 'maker' } } }
const idle = (...gates: Gate[]) => idleGates(rulesOf([everywhere, ...gates]), thing, nowMs)

describe('gates that change nothing', () => {
  it('are those that say no more than what stands further out, or as much', () => {
    expect(idle({ id: 'own', on: { page }, open: { everyone: true } })).toEqual(['own'])
    expect(idle({ id: 'own', on: { page }, open: { level: { atLeast: 'friend' } } })).toEqual(['own'])
    expect(idle({ id: 'own', on: { page }, inherit: false, open: { level: { atLeast: 'maker' } } }).sort()).toEqual([
      'all',
      'own',
    ])
  })

  it('are not those that refuse somebody, stand instead, or say more than who', () => {
    expect(idle({ id: 'own', on: { page }, open: { level: { atLeast: 'guild' } } })).toEqual(['all'])
    expect(idle({ id: 'own', on: { page }, inherit: false, open: { everyone: true } })).toEqual(['all'])
    expect(idle({ id: 'own', on: { page }, find: { everyone: true } })).toEqual(['own'])
    expect(idle({ id: 'own', on: { page }, search: { everyone: true } })).toEqual([])
  })

  it('change no verdict of anybody at all', () => {
    const condition = anyCondition(anyLeaf(file))
    const gates = fc
      .array(fc.tuple(condition, fc.constantFrom<Gate['on']>({ kind: 'page' }, { page }), fc.boolean()), {
        minLength: 1,
        maxLength: 3,
      })
      .map(list => list.map(([open, on, inherit], i): Gate => ({ id: `g${i}`, on, open, inherit })))
    fc.assert(
      fc.property(gates, fc.array(anyVisitor, { minLength: 4, maxLength: 4 }), (list, visitors) => {
        const rules = rulesOf(list)
        const reach = (of: CompiledRules) =>
          visitors.map(
            one => new CompiledDecider(of, { ...one, roles: [] }, nowMs).bits(thing) & (rightBit.open | rightBit.find),
          )
        const before = reach(rules)
        for (const id of idleGates(rules, thing, nowMs))
          expect(reach(rulesOf(list.filter(gate => gate.id !== id)))).toEqual(before)
      }),
    )
  })
})
