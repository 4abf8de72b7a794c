import { CompiledDecider } from '../../gates/compiled-decider'
import { thingsOf } from '../../gates/compiled'
import type { Resource } from '../../kinds/kinds'
import { singleKey } from '../../rulebook/rulebook'
import { isHidden, toldOfHidden } from '../hidden-told'
import { finding } from './finding'
import type { Found } from './finding'

export interface HiddenToldFacts {
  /** What is told in its place. */ how: string
  /** One that is told of, and how many are. */ example: Resource
  things: number
}

/** Something may not be found, and a redirect, notice or the like replaces its absence: whoever tries its address knows of it. */
export const hiddenTold = finding<HiddenToldFacts>(({ rules, tiers, nowMs }) => {
  const found = new Map<string, Found<HiddenToldFacts> & { weaves: Set<number> }>()
  const sizes = new Map<number, number>()
  // Weaves are known once their things were asked about.
  for (const thing of thingsOf(rules.index)) rules.weaveOf(thing)
  for (const { id, visitor } of tiers) {
    const decider = new CompiledDecider(rules, visitor, nowMs)
    for (const weave of rules.weaves) {
      if (weave.perRecord || !isHidden(decider.bitsOfWeave(weave.number))) continue
      const told = toldOfHidden(rules, weave, decider)
      if (!told || told.from === 'default') continue
      sizes.set(weave.number, weave.size)
      const gate = 'gate' in told.from ? rules.rulebook.gates?.[told.from.gate]?.id : undefined
      const place =
        gate === undefined ? { kind: 'settings' as const, key: singleKey } : { kind: 'gate' as const, key: gate }
      const name = `${place.kind} ${place.key}`
      const facts = { how: Object.keys(told.value)[0]!, example: weave.example, things: 0 }
      const one = found.get(name) ?? { place, tier: id, facts, weaves: new Set<number>() }
      one.weaves.add(weave.number)
      found.set(name, one)
    }
  }
  return [...found.values()].map(({ weaves, facts, ...one }) => ({
    ...one,
    facts: { ...facts, things: [...weaves].reduce((sum, weave) => sum + sizes.get(weave)!, 0) },
  }))
})
