/**
 * Giving somebody a thing: the gate that would have to say so, and what it would say. Nobody else gains or loses
 * by it.
 */
import type { Condition } from '../conditions/condition'
import type { Place } from '../kinds/kind'
import { kinds, moduleOf, rights, scopes } from '../kinds/kinds'
import type { Resource, Right } from '../kinds/kinds'
import type { Gate } from '../rulebook/gate'
import type { Rulebook } from '../rulebook/rulebook'
import type { SiteIndex } from '../site/site-index'
import { TRUE } from '../tri'
import type { Visitor } from '../visitor/visitor'
import { chainOf } from './chain'
import type { Chain } from './chain'
import { explain } from './explain'
import { foldRight, forgetsOpen, inForce } from './fold'
import { RuleSet } from './rule-set'
import { PlainDecider } from './plain-decider'
import { rightBit } from './verdict'

export type Giving =
  /** It opens to them already. */
  | { state: 'open' }
  /** It stands in something that does not open to them: that comes first. */
  | { state: 'inside'; in: Resource }
  | { state: 'missing' }
  /**
   * `here`: the gate on this thing alone, as it would be; new where `isNew`. `wide`: the one gate that refuses
   * them, as it would be:
   * with it they get all that gate stands before. Null where that would not do, or comes to the same as `here`.
   */
  | { state: 'can'; here: Gate | null; isNew: boolean; wide: Gate | null }

/** Somebody who is `who` and nothing else is `visitor`. `newId`: of a gate that has to be made. */
export function givingOf(
  rules: RuleSet,
  resource: Resource,
  { who, visitor, newId, name }: { who: Condition; visitor: Visitor; newId: string; name: string },
  nowMs: number,
): Giving {
  const decider = new PlainDecider(rules, visitor, nowMs)
  const why = explain(decider, resource)
  const chain = chainOf(resource, rules.gates, rules.index)
  if (!why || !chain) return { state: 'missing' }
  if (why.verdict.open) return { state: 'open' }
  if (why.standsIn && !why.standsIn.verdict.open) return { state: 'inside', in: why.standsIn.resource }
  const lets = (gate: Gate) => opensWith(rules, gate, resource, visitor, nowMs)
  const refusing = why.gates.filter(gate => gate.refuses)
  const admits = (condition: Condition) => decider.test(condition, false, chain) === TRUE
  const widened = refusing.length === 1 ? added(refusing[0]!.gate, who, admits) : null
  const wide = widened && lets(widened) ? widened : null
  if (wide && refusing[0]!.step === 'self' && !('below' in wide.on && wide.on.below))
    return { state: 'can', here: wide, isNew: false, wide: null }
  const own = ownGate(chain)
  // A gate on what holds others is read on the way to them too: one that stands instead of all further out would
  // move them.
  const here = holdsOthers(resource, rules.index) ? null : gateHere(chain, own ?? fresh(resource, newId, name), who)
  return { state: 'can', here: here && lets(here) ? here : null, isNew: !own, wide }
}

/** Whether gates on it are read on the way to other things, as a category's are for its goods. */
const holdsOthers = ({ kind, id }: Resource, index: SiteIndex): boolean =>
  kinds.some(other => {
    const { ways, before } = moduleOf(other)
    if (!ways && !before) return false
    const isIt = (place: Place | undefined) =>
      place !== undefined && (place.scope ?? place.on) === kind && place.id === id
    return [...index.all(other).values()].some(
      thing => isIt(before?.(thing as never)) || ways?.(thing as never, index).some(way => way.some(isIt)),
    )
  })

/** Of the gates on the thing itself the last one read that does not reach what lies below. */
const ownGate = (chain: Chain): Gate | undefined =>
  chain.inner.findLast(step => step.on === 'self')?.gates.findLast(({ gate }) => !('below' in gate.on && gate.on.below))
    ?.gate

const fresh = ({ kind, id }: Resource, newId: string, name: string): Gate | null =>
  kind in scopes ? ({ id: newId, name, on: { [kind]: id } } as Gate) : null

function or(condition: Condition, who: Condition): Condition {
  if ('everyone' in condition) return condition
  return 'any' in condition ? { any: [...condition.any, who] } : { any: [condition, who] }
}

/** The gate with them added to each right it refuses them. */
function added(gate: Gate, who: Condition, admits: (condition: Condition) => boolean): Gate {
  const more = rights.flatMap(right => {
    const stated = gate[right]
    return stated && !admits(stated) ? [[right, or(stated, who)] as const] : []
  })
  return { ...gate, ...(Object.fromEntries(more) as Partial<Gate>) }
}

/**
 * The gate on the thing alone, instead of all that is further out: for each right what stands there now, or them.
 * Guards stay: they are on an address, whatever stands there.
 */
function gateHere(chain: Chain, gate: Gate | null, who: Condition): Gate | null {
  if (!gate) return null
  const open = foldRight(chain, 'open')
  const said = rights.flatMap((right): [Right, Condition][] => {
    // Shut by its kind, it opens to nobody whatever stands further out: so it does to them alone.
    if (open.closed && (right === 'open' || right === 'find')) return [[right, who]]
    const terms = foldRight(chain, right)
      .terms.filter(term => !term.guard)
      .map(term => term.condition)
    if (!terms.length) return right === 'open' ? [[right, who]] : []
    return [[right, or(terms.length === 1 ? terms[0]! : { all: terms }, who)]]
  })
  // Where nothing further out refuses anybody, a gate would shut out the rest.
  if (!open.terms.length && !open.closed) return null
  const answering = inForce(chain, forgetsOpen).findLast(placed => placed.gate.otherwise)?.gate.otherwise
  const { open: _o, find: _f, search: _s, price: _p, take: _t, ...rest } = gate
  return {
    ...rest,
    ...(Object.fromEntries(said) as Partial<Gate>),
    inherit: false,
    ...((gate.otherwise ?? answering) ? { otherwise: gate.otherwise ?? answering } : {}),
  } as Gate
}

function opensWith(rules: RuleSet, gate: Gate, resource: Resource, visitor: Visitor, nowMs: number): boolean {
  const next = new RuleSet(withGate(rules.rulebook, gate), rules.index)
  return (new PlainDecider(next, visitor, nowMs).bits(resource).plain & rightBit.open) !== 0
}

/** A rulebook with a gate put in its place, or last where it is new. */
export function withGate(book: Rulebook, gate: Gate): Rulebook {
  const gates = book.gates ?? []
  return {
    ...book,
    gates: gates.some(one => one.id === gate.id)
      ? gates.map(one => (one.id === gate.id ? gate : one))
      : [...gates, gate],
  }
}
