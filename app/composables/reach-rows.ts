import { kindPlurals } from '~~/core/sentences/words'
import { kinds } from '~~/core/kinds/kinds'
import type { Kind } from '~~/core/kinds/kinds'
import type { SiteIndex } from '~~/core/site/site-index'
import { appKindOf } from '~/kinds/kinds'
import type { BoardAnswer } from '~/workers/core-messages'

export interface GroupRow {
  type: 'group'
  key: string
  title: string
  positions: number[]
  open: boolean
}
export interface ThingRow {
  type: 'thing'
  key: string
  position: number
  kind: Kind
  id: string
  title: string
  note: string
  depth: number
  below: number
  open: boolean
}
export type Row = GroupRow | ThingRow

export interface Filter {
  text: string
  kind: Kind | ''
  onlyChanges: boolean
  /** Two tiers by position whose cells must differ. */ differ: [number, number] | null
  /** Only things no two tiers of which are alike. */ mixed: boolean
  alike: boolean
}

interface Thing {
  position: number
  kind: Kind
  id: string
  title: string
  note: string
  parent?: string
}

/** What a thing is called and where it stands, for every thing of the board. */
export function describedThings(board: BoardAnswer, index: SiteIndex): Thing[] {
  return board.things.map(({ kind, id }, position) => {
    const { title, note, parent } = appKindOf(kind)
    const thing = (index.get(kind as string, id) ?? { id }) as Record<string, unknown>
    const above = parent?.(thing)
    return { position, kind, id, title: title(thing), note: note(thing, index), ...(above ? { parent: above } : {}) }
  })
}

/** The element of a cell on the board, for screen readers and focus. */
export const cellId = (row: string, tier: number) => `cell-${row}-${tier}`.replaceAll(' ', '_')

export const cellOf = (cells: Uint8Array, tiers: number, position: number, tier: number) =>
  cells[position * tiers + tier] ?? 0

/** The rows to show: groups of kinds, pages as a tree, what is folded left out. */
export function reachRows(board: BoardAnswer, things: Thing[], filter: Filter, folded: Set<string>): Row[] {
  const tiers = board.tiers.length
  const words = filter.text.toLowerCase().split(/\s+/).filter(Boolean)
  const cell = (position: number, tier: number) => cellOf(board.draft, tiers, position, tier) & 31
  const keep = (thing: Thing) => {
    if (filter.kind && thing.kind !== filter.kind) return false
    const named = `${thing.title} ${thing.note} ${thing.id}`.toLowerCase()
    if (!words.every(word => named.includes(word))) return false
    const columns = board.tiers.map((_, t) => t)
    if (
      filter.onlyChanges &&
      !columns.some(t => cell(thing.position, t) !== (cellOf(board.live, tiers, thing.position, t) & 31))
    )
      return false
    if (filter.mixed && columns.every(t => cell(thing.position, t) === cell(thing.position, 0))) return false
    return !filter.differ || cell(thing.position, filter.differ[0]) !== cell(thing.position, filter.differ[1])
  }
  const kept = things.filter(keep)
  if (filter.alike) return alikeRows(board, kept, folded)
  const searching = kept.length < things.length && !filter.kind
  const kinds = [...new Set(kept.map(thing => thing.kind))]
  return kinds.flatMap(kind => {
    const members = kept.filter(thing => thing.kind === kind)
    const key = `kind ${kind}`
    const open = !folded.has(key) || (searching && members.length < 40)
    const group: GroupRow = {
      type: 'group',
      key,
      title: kindPlurals[kind],
      positions: members.map(thing => thing.position),
      open,
    }
    return [group, ...(open ? treeRows(members, folded, searching) : [])]
  })
}

/** Things that share one list of gates, together. These groups begin folded, so for them `folded` names those unfolded. */
function alikeRows(board: BoardAnswer, kept: Thing[], folded: Set<string>): Row[] {
  const byWeave = new Map<number, Thing[]>()
  for (const thing of kept) {
    const weave = board.weaves[thing.position]!
    byWeave.set(weave, [...(byWeave.get(weave) ?? []), thing])
  }
  return [...byWeave]
    .sort((a, b) => b[1].length - a[1].length)
    .flatMap(([weave, members]) => {
      if (members.length === 1) return [thingRow(members[0]!, 0, 'alike ')]
      const key = `weave ${weave}`
      const open = folded.has(key)
      const group: GroupRow = {
        type: 'group',
        key,
        title: `${members[0]!.title} and ${members.length - 1} alike`,
        positions: members.map(thing => thing.position),
        open,
      }
      return [group, ...(open ? members.map(thing => thingRow(thing, 0, 'alike ')) : [])]
    })
}

function treeRows(members: Thing[], folded: Set<string>, searching: boolean): ThingRow[] {
  const present = new Set(members.map(thing => thing.id))
  const childrenOf = (id: string | undefined) =>
    members.filter(thing => (thing.parent && present.has(thing.parent) ? thing.parent : undefined) === id)
  const countBelow = (id: string): number => childrenOf(id).reduce((sum, child) => sum + 1 + countBelow(child.id), 0)
  const walk = (id: string | undefined, depth: number): ThingRow[] =>
    childrenOf(id).flatMap(thing => {
      const below = countBelow(thing.id)
      const open = below > 0 && (searching || !folded.has(`${thing.kind} ${thing.id}`))
      return [{ ...thingRow(thing, depth), below, open }, ...(open ? walk(thing.id, depth + 1) : [])]
    })
  return walk(undefined, 0)
}

const thingRow = (thing: Thing, depth = 0, prefix = ''): ThingRow => ({
  type: 'thing',
  key: `${prefix}${thing.kind} ${thing.id}`,
  depth,
  below: 0,
  open: false,
  ...thing,
})

/** Kinds that begin folded, and whatever lies below the second depth. */
export function firstFolds(index: SiteIndex): Set<string> {
  const folds = kinds.filter(kind => appKindOf(kind).folded).map(kind => `kind ${kind}`)
  const deep = kinds.flatMap(kind => {
    const { parent } = appKindOf(kind)
    if (!parent) return []
    return [...index.all(kind).values()].flatMap(thing => (parent(thing as never) ? [`${kind} ${thing.id}`] : []))
  })
  return new Set([...folds, ...deep])
}
