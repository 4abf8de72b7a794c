import type { Resource } from '~~/core/kinds/kinds'

const known = new WeakMap<readonly Resource[], ReadonlyMap<string, number>>()

/** Where things stand on the board, by `kind id`. Read once for a site. */
export function positionsOf(things: readonly Resource[]): ReadonlyMap<string, number> {
  let positions = known.get(things)
  if (!positions) {
    positions = new Map(things.map(({ kind, id }, at) => [`${kind} ${id}`, at]))
    known.set(things, positions)
  }
  return positions
}
