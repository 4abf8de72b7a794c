/** The gate that refuses, and nothing else of why: for whoever notes each refusal. Equal to `explain`'s, by test. */
import type { Resource } from '../kinds/kinds'
import { queryFits } from '../site/path-pattern'
import { chainOf } from './chain'
import type { Guard } from './chain'
import type { CompiledDecider } from './compiled-decider'
import { explain } from './explain'
import { foldRight } from './fold'
import type { Term } from './fold'
import { perWeave } from './per-weave'

interface Deciding {
  id: string
  condition: Term['condition']
  guard?: Guard
}
/** Gates that say who opens, in force, the innermost first; the same for all things of a weave. */
const decidingIn = perWeave((weave, rules): readonly Deciding[] => {
  const chain = chainOf(rules.weaves[weave]!.example, rules.gates, rules.index)!
  const gates = [...chain.outer, ...chain.branches.flat(), ...chain.inner].flatMap(step => step.gates)
  // In the order they stand, which is not that of the document; guards last.
  const { terms } = foldRight(chain, 'open')
  const placed = [...gates, ...chain.guards].flatMap(({ gate, order }): Deciding[] => {
    const term = terms.find(one => one.order === order)
    return term ? [{ id: gate.id, condition: term.condition, ...(term.guard ? { guard: term.guard } : {}) }] : []
  })
  return placed.toReversed()
})

/** The innermost gate that refuses open to this visitor; null where it opens, or where no gate of its own refuses. */
export function decidingGate(decider: CompiledDecider, resource: Resource): string | null {
  const { rules } = decider
  const weave = rules.weaveOf(resource)
  if (weave < 0) return null
  // What a condition says of a record is said of the one that is asked about.
  if (resource.record) return explain(decider.plainly, resource)?.decidedBy ?? null
  const refuses = ({ condition, guard }: Deciding) =>
    (!guard || queryFits(guard.pattern.pairs, decider.asker.query)) && !decider.admitsOrKey(condition)
  return decidingIn(weave, rules).find(refuses)?.id ?? null
}
