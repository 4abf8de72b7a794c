/**
 * Conditions turned into closures. Each distinct condition of a rulebook is
 * compiled once and answered at most once per visitor (see `CompiledDecider`).
 */
import type ipaddr from 'ipaddr.js'
import { FALSE, not, TRUE, triOf, UNKNOWN } from '../tri'
import type { Tri } from '../tri'
import { parseNetwork } from './asker'
import type { Holdings } from './asker'
import { eachLeaf, heldLeaves, keyOf, recordLeaves } from './condition'
import type { Condition, LeafArgument, LeafKey } from './condition'
import { leafTests } from './leaf-tests'
import type { Asking } from './leaf-tests'

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

  constructor(
    private readonly audiences: ReadonlyMap<string, Condition>,
    private readonly holdings: Holdings,
  ) {}

  slotOf(condition: Condition, mode: Mode): number {
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
    if (mode !== 'plain' && heldLeaves.has(key)) return mode === 'key' ? yes : no
    return leaf(key as LeafKey, argument, this.holdings)
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
    found ||= recordLeaves.has(key)
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

/** Leaves met at every turn, or with something worth reading only once. The rest test as written. */
const prepared: { [K in LeafKey]?: (argument: LeafArgument<K>, holdings: Holdings) => Test } = {
  everyone: () => yes,
  nobody: () => no,
  signedIn:
    wanted =>
    ({ asker }) =>
      asker.signedIn === wanted ? TRUE : FALSE,
  level: (argument, { ranks }) => {
    if ('in' in argument) {
      const list = argument.in
      if (list.length > 1) return asking => leafTests.level(argument, asking)
      return ({ asker }) => (asker.levels.has(list[0]!) ? TRUE : FALSE)
    }
    const [least, most] =
      'atLeast' in argument
        ? [ranks.get(argument.atLeast) ?? Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY]
        : [1, ranks.get(argument.atMost) ?? 0]
    return ({ asker }) => (asker.rank >= least && asker.rank <= most && asker.signedIn ? TRUE : FALSE)
  },
  country: ({ in: list }) => {
    const only = list[0]!
    if (list.length > 1) return asking => leafTests.country({ in: list }, asking)
    return ({ asker }) =>
      asker.request.country === undefined ? UNKNOWN : asker.request.country === only ? TRUE : FALSE
  },
  role: argument => {
    const list = 'anyOf' in argument ? argument.anyOf : argument.allOf
    if (list.length > 1) return asking => leafTests.role(argument, asking)
    const role = list[0]!
    return ({ asker }) => (asker.roles.has(role) ? TRUE : FALSE)
  },
  address: ({ in: list }) => {
    const networks = list.map(parseNetwork)
    return ({ asker }) => {
      const address = asker.address as ipaddr.IPv4 | null
      return address === null
        ? UNKNOWN
        : triOf(
            networks.some(
              network => network[0].kind() === address.kind() && address.match(network as [ipaddr.IPv4, number]),
            ),
          )
    }
  },
}

function leaf(key: LeafKey, argument: unknown, holdings: Holdings): Test {
  const prepare = prepared[key] as ((argument: unknown, holdings: Holdings) => Test) | undefined
  if (prepare) return prepare(argument, holdings)
  const test = leafTests[key] as (argument: unknown, asking: Asking) => Tri
  return asking => test(argument, asking)
}
