/**
 * Conditions turned into closures. Each distinct condition of a rulebook is
 * compiled once and answered at most once per visitor (see `CompiledDecider`).
 */
import { FALSE, not, TRUE, UNKNOWN } from '../tri'
import type { Tri } from '../tri'
import type { Holdings } from '../visitor/asker'
import { eachLeaf, keyOf } from './condition'
import type { Condition } from './condition'
import type { Asking } from './leaves/leaf'
import { leafOf } from './leaves/leaves'

/** How a compiled condition asks: leaves look at `asking`, audiences go through their own slot. */
export interface CompiledAsking extends Asking {
  /** The answer of a compiled condition by its slot, remembered for the visitor. */
  slot(slot: number): Tri
}
export type Test = (asking: CompiledAsking) => Tri

/** `plain`, or with the master key outside (`key`) or inside (`keyNegated`) an odd number of `not`s. */
export type Mode = 'plain' | 'key' | 'keyNegated'
const flipped: Record<Mode, Mode> = { plain: 'plain', key: 'keyNegated', keyNegated: 'key' }

export interface Slot {
  condition: Condition
  mode: Mode
  test: Test
  /** Depends on the record asked about, so it is never remembered. */ perRecord: boolean
}

/** Every condition of one rulebook that was asked for, compiled. Slots are numbered from 0. */
export class ConditionSlots {
  readonly slots: Slot[] = []
  private readonly known = new Map<string, number>()
  /** The same by the object itself: conditions of a rulebook are never changed in place. */
  private readonly byObject: Record<Mode, WeakMap<Condition, number>> = {
    plain: new WeakMap(),
    key: new WeakMap(),
    keyNegated: new WeakMap(),
  }

  constructor(
    private readonly audiences: ReadonlyMap<string, Condition>,
    private readonly holdings: Holdings,
  ) {}

  slotOf(condition: Condition, mode: Mode): number {
    const same = this.byObject[mode].get(condition)
    if (same !== undefined) return same
    const number = this.findSlot(condition, mode)
    this.byObject[mode].set(condition, number)
    return number
  }

  private findSlot(condition: Condition, mode: Mode): number {
    const key = mode + JSON.stringify(condition)
    const found = this.known.get(key)
    if (found !== undefined) return found
    const number = this.slots.length
    this.known.set(key, number)
    const slot: Slot = { condition, mode, test: () => FALSE, perRecord: looksAtRecord(condition) }
    this.slots.push(slot)
    slot.test = this.compile(condition, mode)
    return number
  }

  private compile(node: Condition, mode: Mode): Test {
    const [key, argument] = keyOf(node)
    if (key === 'not') {
      const inner = this.compile(argument as Condition, flipped[mode])
      return asking => not(inner(asking))
    }
    if (key === 'all' || key === 'any')
      return join(
        key,
        (argument as Condition[]).map(part => this.compile(part, mode)),
      )
    if (key === 'audience') return this.audience(argument as string, mode)
    if (mode !== 'plain' && leafOf(key)?.held) return mode === 'key' ? yes : no
    return leafTest(key, argument, this.holdings)
  }

  private audience(id: string, mode: Mode): Test {
    const is = this.audiences.get(id)
    if (!is) return unknown
    const slot = this.slotOf(is, mode)
    return asking => asking.slot(slot)
  }
}

const yes: Test = () => TRUE
const no: Test = () => FALSE
const unknown: Test = () => UNKNOWN

function looksAtRecord(condition: Condition): boolean {
  let found = false
  eachLeaf(condition, key => {
    found ||= leafOf(key)?.ofRecord === true
  })
  return found
}

function join(key: 'all' | 'any', parts: Test[]): Test {
  const start = key === 'all' ? TRUE : FALSE
  const stop = key === 'all' ? FALSE : TRUE
  if (parts.length === 1) return parts[0]!
  if (parts.length === 2) {
    const [first, second] = parts as [Test, Test]
    return key === 'all'
      ? asking => {
          const a = first(asking)
          if (a === FALSE) return FALSE
          const b = second(asking)
          return a < b ? a : b
        }
      : asking => {
          const a = first(asking)
          if (a === TRUE) return TRUE
          const b = second(asking)
          return a > b ? a : b
        }
  }
  return asking => {
    let value: Tri = start
    for (const part of parts) {
      const one = part(asking)
      if (one === stop) return stop
      if (one === UNKNOWN) value = UNKNOWN
    }
    return value
  }
}

/** What nobody knows refuses. */
function leafTest(key: string, argument: unknown, holdings: Holdings): Test {
  const leaf = leafOf(key)
  if (!leaf) return unknown
  return leaf.prepare?.(argument, holdings) ?? (asking => leaf.test(argument, asking))
}
