/** What stays in force along a chain: for each right its terms, and for refusals the gates that may choose the answer. */
import type { Condition } from '../conditions/condition'
import type { Gate } from '../rulebook/gate'
import { moduleOf } from '../kinds/kinds'
import type { Right } from '../kinds/kinds'
import type { Chain, Guard, PlacedGate, Step } from './chain'

/** One condition a right depends on. All terms must hold. */
export interface Term {
  condition: Condition
  order: number
  guard?: Guard
}
export interface Fold {
  terms: Term[]
  /** Shut by its kind, and no gate opens it. */ closed: boolean
}

/** What a gate states of a right: its condition, `'reset'` to everyone, or nothing. A gate's find is its find, else its open. */
export function statedOf(gate: Gate, right: Right): Condition | 'reset' | undefined {
  const stated = right === 'find' ? (gate.find ?? gate.open) : gate[right]
  if (stated) return stated
  return gate.inherit === false && gate.open && right !== 'find' && right !== 'open' ? 'reset' : undefined
}

/** Folds one right along the chain. */
export function foldRight(chain: Chain, right: Right): Fold {
  const outer = chain.outer.reduce(through(right), [] as Term[])
  const joined = chain.branches.length
    ? distinct(chain.branches.flatMap(branch => branch.reduce(through(right), outer)))
    : outer
  const terms = chain.inner.reduce(through(right), joined)
  const guards = chain.guards.flatMap(guard => {
    const condition = statedOf({ ...guard.gate, inherit: true }, right)
    return condition && condition !== 'reset' ? [{ condition, order: guard.order, guard }] : []
  })
  return { terms: [...terms, ...guards], closed: isClosed(chain, right) }
}

const through =
  (right: Right) =>
  (before: Term[], step: Step): Term[] =>
    step.gates.reduce((terms, { gate, order }) => {
      const stated = statedOf(gate, right)
      if (stated === undefined) return terms
      if (stated === 'reset') return []
      return gate.inherit === false ? [{ condition: stated, order }] : [...terms, { condition: stated, order }]
    }, before)

const distinct = (terms: Term[]) => [...new Map(terms.map(term => [term.order, term])).values()]

function isClosed(chain: Chain, right: Right): boolean {
  if (!moduleOf(chain.resource.kind).closed || (right !== 'open' && right !== 'find')) return false
  const opening = [...chain.outer, ...chain.inner].filter(step => step.on === 'kind' || step.on === 'self')
  return !opening.some(step => step.gates.some(({ gate }) => gate.open))
}

/**
 * The gates of a chain that still count when an answer to a refusal is
 * chosen, outermost first. A gate is forgotten by a later one for which
 * `forgets` holds; where branches differ it counts while one of them keeps it.
 */
export function inForce(chain: Chain, forgets: (gate: Gate) => boolean): PlacedGate[] {
  const pass = (kept: PlacedGate[], step: Step) =>
    step.gates.reduce((list, placed) => (forgets(placed.gate) ? [placed] : [...list, placed]), kept)
  const outer = chain.outer.reduce(pass, [] as PlacedGate[])
  const branches = chain.branches.map(branch => branch.reduce(pass, outer))
  const keptOuter = branches.length ? outer.filter(placed => branches.some(branch => branch.includes(placed))) : outer
  const joined = [...keptOuter, ...branches.flatMap(branch => branch.filter(placed => !outer.includes(placed)))]
  return chain.inner.reduce(pass, joined)
}

export const forgetsOpen = (gate: Gate) => gate.inherit === false && gate.open !== undefined
export const forgetsTake = (gate: Gate) =>
  gate.inherit === false && (gate.open !== undefined || gate.take !== undefined)
