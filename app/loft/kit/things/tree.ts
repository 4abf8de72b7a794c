/**
 * Things by what they lie under, in their order; what lies under nothing that is there, under `undefined`.
 * Read once for all of them: looking through a hundred thousand for the children of each is never done.
 */
export function childrenOf<T>(
  list: readonly T[],
  idOf: (one: T) => string,
  parentOf: ((one: T) => string | undefined) | undefined,
): ReadonlyMap<string | undefined, readonly T[]> {
  const present = new Set(list.map(idOf))
  const children = new Map<string | undefined, T[]>()
  for (const one of list) {
    const above = parentOf?.(one)
    const holder = above !== undefined && present.has(above) ? above : undefined
    const beside = children.get(holder)
    if (beside) beside.push(one)
    else children.set(holder, [one])
  }
  return children
}
