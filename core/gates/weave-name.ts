/**
 * A name for the list of gates a thing is behind: the same in every edition in which the same gates stand before it in
 * the same places, whatever they say. By it a database knows weaves that are numbered anew whenever rules are compiled.
 */
import type { Resource } from '../kinds/kinds'
import { chainOf } from './chain'
import type { Step } from './chain'
import type { CompiledRules } from './compiled'
import { perWeave } from './per-weave'

/** Undefined where the thing is not there. */
export function weaveName(thing: Resource, rules: CompiledRules): string | undefined {
  const weave = rules.weaveOf(thing)
  return weave < 0 ? undefined : nameOf(weave, rules)
}

const nameOf: (weave: number, rules: CompiledRules) => string = perWeave(made)

function made(weave: number, rules: CompiledRules): string {
  const { example, standsIn } = rules.weaves[weave]!
  const { outer, branches, inner, guards } = chainOf(example, rules.gates, rules.index)!
  const ids = (steps: readonly Step[]) => steps.map(step => step.gates.map(({ gate }) => gate.id))
  const within = standsIn >= 0 ? nameOf(standsIn, rules) : standsIn
  const filled = (steps: readonly Step[]) => ids(steps).filter(gates => gates.length)
  const ways = [...new Set(branches.map(branch => JSON.stringify(filled(branch))))]
  return JSON.stringify([
    example.kind,
    filled(outer),
    // One way without a gate is none, as the weave has it: whichever of its things it was made from, it is called the same.
    ways.length === 1 && ways[0] === '[]' ? [] : ways,
    filled(inner),
    guards.map(({ gate }) => gate.id),
    within,
  ])
}
