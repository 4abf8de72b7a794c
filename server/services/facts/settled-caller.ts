/** Somebody who asks, with what services say of them as far as something turns on it: the same for pages, forms and orders. */
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { Visitor } from '../../../core/visitor/visitor'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { settled } from './settled'

interface Asking {
  decider: CompiledDecider
  readonly visitor: Visitor
}

/**
 * Does the work, again where it looked for what only a service knows; from then on whoever asks is decided with that. The
 * work may be done several times: it changes nothing.
 */
export async function settledFor<C extends Asking, T>(caller: C, work: (caller: C) => Promise<T>): Promise<T> {
  const { result, decider } = await settled(caller.decider, one => work(as(caller, one)))
  caller.decider = decider
  return result
}

/** The same caller, decided by another. */
function as<C extends Asking>(caller: C, decider: CompiledDecider): C {
  if (decider === caller.decider) return caller
  return Object.create(caller, {
    decider: { value: decider, writable: true },
    visitor: { value: decider.visitor },
  }) as C
}

/** A visitor with what services were found to say of them. */
export function withServiceFacts(book: Rulebook, visitor: Visitor, known: Visitor): Visitor {
  const asked = (book.facts ?? []).filter(
    ({ id, from }) => from && 'service' in from && known.facts?.[id] !== undefined,
  )
  if (!asked.length) return visitor
  return {
    ...visitor,
    facts: { ...visitor.facts, ...Object.fromEntries(asked.map(({ id }) => [id, known.facts![id]])) },
  }
}
