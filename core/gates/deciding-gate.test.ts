import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyGates } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { validateRulebook } from '../check/validate'
import { CompiledDecider } from './compiled-decider'
import { CompiledRules, thingsOf } from './compiled'
import { decidingGate } from './deciding-gate'
import { explain } from './explain'
import { PlainDecider } from './plain-decider'

const world = wexlowCase()
const things = thingsOf(world.site).filter(thing => thing.kind !== 'record')

describe('the gate that decides', () => {
  it('is the one an explanation names, whatever gates there are and whoever asks', () => {
    const visitor = fc.constantFrom(...Object.values(world.visitors))
    let [refused, cases] = [0, 0]
    fc.assert(
      fc.property(anyGates(world), visitor, (gates, asked) => {
        const book = { ...world.book, gates }
        fc.pre(validateRulebook(book, world.site).every(issue => issue.code === 'states-nothing'))
        cases++
        const rules = new CompiledRules(book, world.site)
        const [compiled, plain] = [new CompiledDecider(rules, asked, 0), new PlainDecider(rules, asked, 0)]
        for (const thing of things) {
          const decidedBy = explain(plain, thing)?.decidedBy ?? null
          expect(decidingGate(compiled, thing), `${thing.kind} ${thing.id}`).toBe(decidedBy)
          if (decidedBy !== null) refused++
        }
      }),
      { numRuns: 60 },
    )
    expect(refused).toBeGreaterThan(2 * cases)
  })
})
