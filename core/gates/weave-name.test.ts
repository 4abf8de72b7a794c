import fc from 'fast-check'
import { expect, it } from 'vitest'
import { anyGates } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { CompiledRules, thingsOf } from './compiled'
import { weaveName } from './weave-name'

const world = wexlowCase()
const things = thingsOf(world.site)

it('is the same in whatever order things were asked about, and tells lists of gates apart', () => {
  fc.assert(
    fc.property(
      anyGates(world),
      fc.shuffledSubarray(things, { minLength: things.length, maxLength: things.length }),
      (gates, shuffled) => {
        const book = { ...world.book, gates }
        const [one, other] = [new CompiledRules(book, world.site), new CompiledRules(book, world.site)]
        for (const thing of shuffled) other.weaveOf(thing)
        const names = new Map<string, number>()
        for (const thing of things) {
          const name = weaveName(thing, one)!
          expect(weaveName(thing, other), JSON.stringify(thing)).toBe(name)
          const weave = one.weaveOf(thing)
          expect(names.get(name) ?? weave, JSON.stringify(thing)).toBe(weave)
          names.set(name, weave)
        }
      },
    ),
    { numRuns: 200 },
  )
})
