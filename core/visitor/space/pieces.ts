/** Pieces a visitor can be made of, one from each list: days, clocks, addresses, thresholds. */
import { addDuration } from '../../calendar'
import { parseNetwork } from '../asker'
import type { Visitor } from '../visitor'

/** One piece of something: what a visitor in it is like. The first of each list is the plainest. */
export type Piece = (visitor: Visitor) => Visitor

export const thresholds = (cuts: ReadonlySet<number>, make: (visitor: Visitor, value: number) => Visitor): Piece[] =>
  cuts.size
    ? [0, ...cuts].map(
        (value): Piece =>
          visitor =>
            make(visitor, value),
      )
    : []

export const sizeOf = (lists: readonly Piece[][]) => lists.reduce((size, list) => size * list.length, 1)

export function* product(from: Visitor, lists: readonly Piece[][], at = 0): Generator<Visitor> {
  if (at === lists.length) return void (yield from)
  for (const piece of lists[at]!) yield* product(piece(from), lists, at + 1)
}

export const plusDays = (day: string, n: number) =>
  new Date(Date.parse(`${day}T00:00:00Z`) + n * dayMs).toISOString().slice(0, 10)

export const nextDay = (day: string) => plusDays(day, 1)

/** The latest start from which a duration has passed: looked for by halves, since calendars do not run backwards. */
export function latestStart(at: number, duration: string, timezone: string): number {
  let [low, high] = [at - longAgoMs * 4, at]
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    if (addDuration(middle, duration, timezone) <= at) low = middle
    else high = middle
  }
  return addDuration(high, duration, timezone) <= at ? high : low
}

export interface Range {
  from: bigint
  to: bigint
  six: boolean
}

export function rangeOf(cidr: string): Range {
  const [address, bits] = parseNetwork(cidr)
  const bytes = address.toByteArray()
  const value = bytes.reduce((sum, byte) => (sum << 8n) | BigInt(byte), 0n)
  const free = BigInt(bytes.length * 8 - bits)
  const from = (value >> free) << free
  return { from, to: from + (1n << free) - 1n, six: bytes.length > 4 }
}

export const addressText = (value: bigint, six: boolean): string => {
  const part = (i: number, size: bigint) => (value >> (BigInt(i) * size)) & ((1n << size) - 1n)
  return six
    ? [7, 6, 5, 4, 3, 2, 1, 0].map(i => part(i, 16n).toString(16)).join(':')
    : [3, 2, 1, 0].map(i => part(i, 8n).toString()).join('.')
}

const otherVatNumber = 'DE136695976'
/** One value for each piece the constants cut a type into; null where it cannot be cut. */
export function pieceValues(
  type: string | undefined,
  constants: readonly Value[],
  choices: readonly string[] = [],
): Value[] | null {
  if (type === 'flag') return [true, false]
  if (type === 'choice') return [...choices]
  if (type === 'number') {
    const cuts = constants.filter(one => typeof one === 'number').sort((a, b) => a - b)
    const between = cuts.slice(1).map((cut, i) => (cut + cuts[i]!) / 2)
    return [...new Set([(cuts[0] ?? 0) - 1, ...cuts, ...between, (cuts.at(-1) ?? 0) + 1])]
  }
  const texts = constants.filter(one => typeof one === 'string')
  if (type === 'date') return [...new Set(texts.flatMap(day => [plusDays(day, -1), day, plusDays(day, 1)]))]
  // Of texts only sameness is looked at, as a rule; what comes before or after is more than a cut can tell.
  if (type === 'vatNumber') return [...texts, otherVatNumber]
  return type === 'text' ? [...texts, 'other words'] : null
}

export type Value = string | number | boolean

export const longAgoMs = 50 * 365 * 86_400_000

const dayMs = 86_400_000
