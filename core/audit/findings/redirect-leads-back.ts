import { CompiledDecider } from '../../gates/compiled-decider'
import { thingsOf } from '../../gates/compiled'
import { ledTo } from '../../gates/led-to'
import { rightBit } from '../../gates/verdict'
import type { Resource } from '../../kinds/kinds'
import { singleKey } from '../../rulebook/rulebook'
import { answerOfWeave } from '../hidden-told'
import { finding } from './finding'
import type { Found } from './finding'

export interface LeadsBackFacts {
  to: string
  /** One from where it leads back. */ example: Resource
}

/** The refused are led where they are refused again and led back: they get nothing there at all. */
export const redirectLeadsBack = finding<LeadsBackFacts>(({ rules, tiers, nowMs }) => {
  const found = new Map<string, Found<LeadsBackFacts>>()
  // Weaves are known once their things were asked about.
  for (const thing of thingsOf(rules.index)) rules.weaveOf(thing)
  for (const { id, visitor } of tiers) {
    const decider = new CompiledDecider(rules, visitor, nowMs)
    const answered = (path: string) => {
      const thing = rules.index.at(path)
      return thing ? decider.decide(thing).otherwise : decider.atNowhere(path).value
    }
    const ends = new Map<string, boolean>()
    const leadsBack = (to: string) => {
      if (!ends.has(to)) ends.set(to, ledTo(to, answered) === null)
      return ends.get(to)!
    }
    for (const weave of rules.weaves) {
      if (weave.perRecord || decider.bitsOfWeave(weave.number) & rightBit.open) continue
      const answer = answerOfWeave(rules, weave, decider)
      if (!answer || !('redirect' in answer.value) || answer.from === 'default') continue
      const { to } = answer.value.redirect
      if (!leadsBack(to)) continue
      const gate = 'gate' in answer.from ? rules.rulebook.gates?.[answer.from.gate]?.id : undefined
      const place =
        gate === undefined ? ({ kind: 'settings', key: singleKey } as const) : { kind: 'gate' as const, key: gate }
      const name = `${place.key} ${to}`
      if (!found.has(name)) found.set(name, { place, tier: id, facts: { to, example: weave.example } })
    }
  }
  return [...found.values()]
})
