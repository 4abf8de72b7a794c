/** What a refused visitor gets, and which gate or setting said so. */
import type { Gate, Notice, Otherwise, Treatment } from '../rulebook/gate'
import { moduleOf } from '../kinds/kinds'
import type { Kind } from '../kinds/kinds'
import type { Rulebook } from '../rulebook/rulebook'
import { chainOf } from './chain'
import type { Chain, GateIndex, Guard, PlacedGate } from './chain'
import type { SiteIndex } from '../site/site-index'
import { forgetsOpen, forgetsTake, inForce } from './fold'

export interface Answer<T> {
  value: T
  from: { gate: number } | { settings: 'any' | Kind } | 'default'
}

/** The part of an otherwise that speaks to guests or to people signed in. */
export function treatmentFor(otherwise: Otherwise | undefined, signedIn: boolean): Treatment | undefined {
  if (!otherwise) return undefined
  if ('guest' in otherwise || 'signedIn' in otherwise) return otherwise[signedIn ? 'signedIn' : ('guest' as never)]
  return otherwise as Treatment
}

/** Gates that may choose the otherwise of a thing. Of one with others of its kind around it: their kind, those around, itself. */
export function otherwiseCandidates(chain: Chain, gates: GateIndex, index: SiteIndex): PlacedGate[] {
  const { kind } = chain.resource
  const { around } = moduleOf(kind)
  const thing = around && index.find(chain.resource)
  if (!thing) return inForce(chain, forgetsOpen)
  const chains = around(thing as never, index).flatMap(id => chainOf({ kind, id }, gates, index) ?? [])
  const lists = [...chains, chain].map(one => inForce(one, forgetsOpen))
  const ofKind = new Set(gates.on('kind', kind))
  const kindGates = lists.flat().filter(placed => ofKind.has(placed))
  return [...new Set(kindGates), ...lists.flat().filter(placed => !ofKind.has(placed))]
}

/** Picks the treatment of a refused `open`. `refuses` tells whether a guard is one that refuses. */
export function otherwiseOf(
  chain: Chain,
  candidates: PlacedGate[],
  refuses: (guard: Guard) => boolean,
  signedIn: boolean,
  rulebook: Rulebook,
): Answer<Treatment> {
  for (const guard of chain.guards) {
    const said = treatmentFor(guard.gate.otherwise, signedIn)
    if (said && refuses(guard)) return { value: said, from: { gate: guard.order } }
  }
  for (let i = candidates.length - 1; i >= 0; i--) {
    const said = treatmentFor(candidates[i]!.gate.otherwise, signedIn)
    if (said) return { value: said, from: { gate: candidates[i]!.order } }
  }
  for (const key of [chain.resource.kind, 'any'] as const) {
    const said = treatmentFor(rulebook.settings?.otherwise?.[key], signedIn)
    if (said) return { value: said, from: { settings: key } }
  }
  return { value: { absent: true }, from: 'default' }
}

/** The notice of a refused `take` on an opened product; undefined when no gate has one. */
export function takeNoticeOf(chain: Chain, refuses: (guard: Guard) => boolean): Answer<Notice> | undefined {
  const guard = chain.guards.find(one => one.gate.takeNotice && refuses(one))
  const innermost = guard ?? inForce(chain, forgetsTake).findLast(({ gate }: { gate: Gate }) => gate.takeNotice)
  return innermost && { value: innermost.gate.takeNotice!, from: { gate: innermost.order } }
}
