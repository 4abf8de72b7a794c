/**
 * Gates that change nothing of who finds and opens a thing: what stands further out says as much already. Tried on every
 * visitor the conditions involved can tell apart.
 */
import type { Gate } from '../rulebook/gate'
import { chainOf } from '../gates/chain'
import type { Chain, Step } from '../gates/chain'
import type { CompiledRules } from '../gates/compiled'
import { foldRight } from '../gates/fold'
import { PlainDecider } from '../gates/plain-decider'
import type { Resource, Right } from '../kinds/kinds'
import { TRUE } from '../tri'
import { spaceOf } from './coverage'

/** It is looked at while one writes: of more pieces nothing is said. */
const mostPieces = 4000
const looked = ['find', 'open'] as const satisfies Right[]

/** Ids of gates without which the thing would be found and opened by the same visitors; none where that cannot be decided. */
export function idleGates(rules: CompiledRules, resource: Resource, nowMs: number): string[] {
  const chain = chainOf(resource, rules.gates, rules.index)
  if (!chain) return []
  const space = spaceOf(rules, [resource], nowMs, ['find'])
  if (space.undecidable || space.count > mostPieces) return []
  const stated = [...stepsOf(chain).flatMap(step => step.gates), ...chain.guards].map(({ gate }) => gate)
  let idle = [...new Map(stated.filter(saysOnlyWho).map(gate => [gate.id, without(chain, gate)]))]
  for (const visitor of space.visitors()) {
    if (!idle.length) break
    const decider = new PlainDecider(rules, visitor, nowMs)
    if (chain.standsIn && chain.standsIn !== 'open' && !opensTo(decider, chain.standsIn)) continue
    const had = looked.map(right => admits(decider, chain, right))
    idle = idle.filter(([, rest]) => looked.every((right, i) => admits(decider, rest, right) === had[i]))
  }
  return idle.map(([id]) => id)
}

/** A gate that also says what is bought, for how much or what is found by search is more than who it is for. */
const saysOnlyWho = (gate: Gate) =>
  (gate.open !== undefined || gate.find !== undefined) && !gate.search && !gate.price && !gate.take

const stepsOf = ({ outer, branches, inner }: Chain): Step[] => [...outer, ...branches.flat(), ...inner]

function without(chain: Chain, { id }: Gate): Chain {
  const rest = (steps: Step[]) =>
    steps.map(step => ({ ...step, gates: step.gates.filter(placed => placed.gate.id !== id) }))
  return {
    ...chain,
    outer: rest(chain.outer),
    branches: chain.branches.map(rest),
    inner: rest(chain.inner),
    guards: chain.guards.filter(guard => guard.gate.id !== id),
  }
}

const opensTo = (decider: PlainDecider, { kind, id }: Resource) => decider.opens(kind, id, false)

function admits(decider: PlainDecider, chain: Chain, right: Right): boolean {
  const { terms, closed } = foldRight(chain, right)
  return !closed && terms.every(term => !decider.applies(term) || decider.test(term.condition, false, chain) === TRUE)
}
