/** The gate that refuses, and nothing else of why: for whoever notes each refusal. Equal to `explain`'s, by test. */
import type { Resource } from '../kinds/kinds'
import { queryFits } from '../site/path-pattern'
import { chainOf } from './chain'
import type { Guard } from './chain'
import type { CompiledDecider } from './compiled-decider'
import type { CompiledRules } from './compiled'
import { explain } from './explain'
import { foldRight } from './fold'
import type { Term } from './fold'

interface Deciding {
  id: string
  condition: Term['condition']
  guard?: Guard
}
/** Gates that say who opens, in force, the innermost first; the same for all things of a weave. */
const known = new WeakMap<CompiledRules, Map<number, readonly Deciding[]>>()

function decidingIn(rules: CompiledRules, weave: number, resource: Resource): readonly Deciding[] {
  let ofRules = known.get(rules)
  if (!ofRules) known.set(rules, (ofRules = new Map()))
  let found = ofRules.get(weave)
  if (!found) {
    const chain = chainOf(resource, rules.gates, rules.index)
    const gates = chain ? [...chain.outer, ...chain.branches.flat(), ...chain.inner].flatMap(step => step.gates) : []
    // In the order they stand, which is not that of the document; guards last.
    const terms = chain ? foldRight(chain, 'open').terms : []
    const placed = [...gates, ...(chain?.guards ?? [])].flatMap(({ gate, order }): Deciding[] => {
      const term = terms.find(one => one.order === order)
      return term ? [{ id: gate.id, condition: term.condition, ...(term.guard ? { guard: term.guard } : {}) }] : []
    })
    ofRules.set(weave, (found = placed.toReversed()))
  }
  return found
}

/** The innermost gate that refuses open to this visitor; null where it opens, or where no gate of its own refuses. */
export function decidingGate(decider: CompiledDecider, resource: Resource): string | null {
  const { rules } = decider
  const weave = rules.weaveOf(resource)
  if (weave < 0) return null
  // What a condition says of a record is said of the one that is asked about.
  if (resource.record) return explain(decider.plainly, resource)?.decidedBy ?? null
  const refuses = ({ condition, guard }: Deciding) =>
    (!guard || queryFits(guard.pattern.pairs, decider.asker.query)) && !decider.admitsOrKey(condition)
  return decidingIn(rules, weave, resource).find(refuses)?.id ?? null
}
