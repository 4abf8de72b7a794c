/** Moving rows of a tree, by dragging and by Alt and the arrows: beside one another, under one another, and out again. */
interface TreeRow {
  key: string
  id: string
}
type Where = 'before' | 'in' | 'after'

export interface TreeMoves<R extends TreeRow> {
  /** Those it stands beside, itself among them, in their order. */
  siblings(row: R): readonly { id: string }[]
  /** What it lies under; null for nothing. */
  parentOf(row: R): string | null
  /** What that lies under in turn. */
  above(row: R, parent: string): string | null
  nests(row: R): boolean
  /** Whether one may be put beside or under the other. */
  fits(row: R, other: R): boolean
  /** Under another, or null for under none; left out it lies where it lay. Before another of those there, or last. */
  put(row: R, parent: string | null | undefined, before: string | null): Promise<unknown>
}

export function useTreeMoves<R extends TreeRow>(moves: TreeMoves<R>) {
  const dragged = shallowRef<R | null>(null)
  const over = ref<{ key: string; where: Where } | null>(null)

  async function byKey(row: R, key: string): Promise<void> {
    const all = moves.siblings(row)
    const here = all.findIndex(one => one.id === row.id)
    const parent = moves.parentOf(row)
    const ways: Record<string, () => Promise<unknown> | undefined> = {
      ArrowUp: () => (here > 0 ? moves.put(row, undefined, all[here - 1]!.id) : undefined),
      ArrowDown: () => (here < all.length - 1 ? moves.put(row, undefined, all[here + 2]?.id ?? null) : undefined),
      ArrowRight: () => (here > 0 && moves.nests(row) ? moves.put(row, all[here - 1]!.id, null) : undefined),
      ArrowLeft: () => (parent === null ? undefined : moves.put(row, moves.above(row, parent), null)),
    }
    await ways[key]?.()
  }

  /** The upper and the lower edge of a row put beside it, the middle puts under it. */
  function onDragOver(event: DragEvent, row: R): void {
    const one = dragged.value
    if (!one || row.key === one.key || !moves.fits(one, row)) return
    event.preventDefault()
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
    const share = (event.clientY - box.top) / box.height
    const [upper, lower] = moves.nests(row) ? [0.3, 0.7] : [0.5, 0.5]
    over.value = { key: row.key, where: share < upper ? 'before' : share > lower ? 'after' : 'in' }
  }
  async function onDrop(row: R): Promise<void> {
    const [one, to] = [dragged.value, over.value]
    dragged.value = over.value = null
    if (!one || !to) return
    const parent = moves.parentOf(row)
    if (to.where === 'in') return void (await moves.put(one, row.id, null))
    const all = moves.siblings(row).filter(other => other.id !== one.id)
    const here = all.findIndex(other => other.id === row.id)
    const before = to.where === 'before' ? row.id : (all[here + 1]?.id ?? null)
    await moves.put(one, parent === moves.parentOf(one) ? undefined : parent, before)
  }
  function drag(row: R | null): void {
    dragged.value = row
    over.value = null
  }
  /** How a row is marked while something is dragged over it. */
  const marked = (key: string): string =>
    over.value?.key !== key
      ? ''
      : { in: 'ring-2 ring-inset ring-woad', before: 'border-t-2 border-woad', after: 'border-b-2 border-woad' }[
          over.value.where
        ]
  return { byKey, drag, onDragOver, onDrop, marked }
}
