/**
 * One thing by which conditions tell visitors apart. The constants conditions look for cut it into pieces, and one
 * visitor of each piece stands for all in it.
 */
import type { Holdings } from '../asker'
import type { Visitor } from '../visitor'
import type { Piece } from './pieces'

export interface Dimension<N> {
  /** Only somebody signed in is or has it. */
  held?: true
  /** Where nothing is noted yet. */
  start(): N
  /** A list for each thing of which a visitor is in one piece; an empty one is passed over. */
  pieces(noted: N, space: Cuts): Piece[][]
}

/** What has been noted of every dimension. */
export interface Cuts {
  readonly holdings: Holdings
  readonly nowMs: number
  /** Set where something is looked at that cannot be cut. */
  undecidable: boolean
  /** What is noted of one, to note more. */
  on<N>(dimension: Dimension<N>): N
}

/** As many subsets of a list as are looked at; more make the space too large anyway. */
export const mostListed = 16

/** Every choice of some of a list. */
export function subsets(
  ids: readonly string[],
  make: (visitor: Visitor, chosen: string[]) => Visitor,
  space: Cuts,
): Piece[] {
  if (!ids.length) return []
  if (ids.length > mostListed) {
    space.undecidable = true
    return []
  }
  return Array.from(
    { length: 2 ** ids.length },
    (_, bits): Piece =>
      visitor =>
        make(
          visitor,
          ids.filter((_, i) => bits & (1 << i)),
        ),
  )
}

/** As they are, or one of these. */
export const orOneOf = <T>(values: Iterable<T>, make: (visitor: Visitor, value: T) => Visitor): Piece[] => [
  visitor => visitor,
  ...[...values].map(
    (value): Piece =>
      visitor =>
        make(visitor, value),
  ),
]

/** Ids of which a visitor has one or another that is named, or none. */
export const oneOfNamed = (make: (visitor: Visitor, id: string) => Visitor): Dimension<Set<string>> => ({
  held: true,
  start: () => new Set(),
  pieces: named => [named.size ? orOneOf(named, make) : []],
})
