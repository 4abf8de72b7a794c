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
  moveBefore(row: R, before: string | null): Promise<unknown>
  moveUnder(row: R, parent: string | null): Promise<unknown>
}

export function useTreeMoves<R extends TreeRow>(moves: TreeMoves<R>) {
  const dragged = shallowRef<R | null>(null)
  const over = ref<{ key: string; where: Where } | null>(null)

  async function byKey(row: R, key: string): Promise<void> {
    const all = moves.siblings(row)
    const here = all.findIndex(one => one.id === row.id)
    const parent = moves.parentOf(row)
    const ways: Record<string, () => Promise<unknown> | undefined> = {
      ArrowUp: () => (here > 0 ? moves.moveBefore(row, all[here - 1]!.id) : undefined),
      ArrowDown: () => (here < all.length - 1 ? moves.moveBefore(row, all[here + 2]?.id ?? null) : undefined),
      ArrowRight: () => (here > 0 && moves.nests(row) ? moves.moveUnder(row, all[here - 1]!.id) : undefined),
      ArrowLeft: () => (parent === null ? undefined : moves.moveUnder(row, moves.above(row, parent))),
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
    if (to.where === 'in') return void (await moves.moveUnder(one, row.id))
    await moves.moveUnder(one, moves.parentOf(row))
    const all = moves.siblings(row).filter(other => other.id !== one.id)
    const here = all.findIndex(other => other.id === row.id)
    await moves.moveBefore(one, to.where === 'before' ? row.id : (all[here + 1]?.id ?? null))
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
