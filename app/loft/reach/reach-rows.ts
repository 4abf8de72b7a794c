import { kinds } from '~~/core/kinds/kinds'
import type { Kind, Resource } from '~~/core/kinds/kinds'
import { kindPlurals } from '~~/core/sentences/words'
import type { SiteIndex } from '~~/core/site/site-index'
import { described } from '~/kinds/described'
import { appKindOf } from '~/kinds/kinds'
import { cellOf } from '~/loft/core/worker/cells'
import type { BoardAnswer } from '~/loft/core/worker/questions'
import { childrenOf } from '~/loft/kit/things/tree'

export interface GroupRow {
  type: 'group'
  key: string
  /** Of which all shown are in the group. */ kind?: Kind
  /** Everything there is: what is said of the whole site is said here. */ everything?: true
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
  depth: number
  below: number
  open: boolean
}
export type Row = GroupRow | ThingRow
/** The key of the row of everything. */
export const wholeSite = 'everything'

export interface Filter {
  text: string
  kind: Kind | ''
  onlyChanges: boolean
  /** Names, `kind id`, of what the draft changes, whether a cell moves or not. */ changed?: ReadonlySet<string>
  /** Two tiers by position whose cells must differ. */ differ: [number, number] | null
  /** Only things no two tiers of which are alike. */ mixed: boolean
  alike: boolean
}

/** The element of a cell on the board, for screen readers and focus. */
export const cellId = (row: string, tier: number) => `cell-${row}-${tier}`.replaceAll(' ', '_')

type Told = Pick<BoardAnswer, 'tiers' | 'things' | 'live' | 'draft'>
/** Whether a filter looks at cells, and so at more than what there is. */
export const looksAtCells = ({ onlyChanges, differ, mixed, alike }: Filter) =>
  onlyChanges || differ !== null || mixed || alike

/**
 * The rows to show: groups of kinds, pages as a tree, what is folded left out. `named`: positions of what the
 * filter's text names. Nothing is described here: of a hundred thousand things only some thirty are ever seen.
 */
export function reachRows(
  board: Told,
  index: SiteIndex,
  filter: Filter,
  folded: ReadonlySet<string>,
  named: ReadonlySet<number> | null = null,
): Row[] {
  const tiers = board.tiers.length
  const columns = board.tiers.map((_, t) => t)
  const byCells = looksAtCells(filter)
  const cell = (position: number, tier: number) => cellOf(board.draft, tiers, position, tier) & 31
  const isChanged = (at: number) =>
    columns.some(t => cell(at, t) !== (cellOf(board.live, tiers, at, t) & 31)) ||
    filter.changed?.has(`${board.things[at]!.kind} ${board.things[at]!.id}`) === true
  const keep = (kind: Kind, at: number) => {
    if (filter.kind && kind !== filter.kind) return false
    if (named && !named.has(at)) return false
    if (!byCells) return true
    if (filter.onlyChanges && !isChanged(at)) return false
    if (filter.mixed && columns.every(t => cell(at, t) === cell(at, 0))) return false
    return !filter.differ || cell(at, filter.differ[0]) !== cell(at, filter.differ[1])
  }
  const kept: number[] = []
  board.things.forEach(({ kind }, at) => {
    if (keep(kind, at)) kept.push(at)
  })
  if (filter.alike) return alikeRows(board, index, kept, folded)
  const searching = kept.length < board.things.length && !filter.kind
  const everything: Row[] =
    searching || filter.kind
      ? []
      : [{ type: 'group', key: wholeSite, everything: true, title: 'Whole site', positions: kept, open: true }]
  const byKind = new Map<Kind, number[]>()
  for (const at of kept) {
    const { kind } = board.things[at]!
    const members = byKind.get(kind)
    if (members) members.push(at)
    else byKind.set(kind, [at])
  }
  const ofKinds = [...byKind].flatMap(([kind, members]): Row[] => {
    const key = `kind ${kind}`
    const open = !folded.has(key) || (searching && members.length < 40)
    const group: GroupRow = { type: 'group', key, kind, title: kindPlurals[kind], positions: members, open }
    return open ? [group, ...treeRows(board, index, kind, members, folded, searching)] : [group]
  })
  return [...everything, ...ofKinds]
}

/** Things that share one list of gates, together. These groups begin folded, so for them `folded` names those unfolded. */
function alikeRows(board: Told, index: SiteIndex, kept: number[], folded: ReadonlySet<string>): Row[] {
  const byWeave = new Map<number, number[]>()
  for (const at of kept) {
    const members = byWeave.get(board.draft.weaves[at]!)
    if (members) members.push(at)
    else byWeave.set(board.draft.weaves[at]!, [at])
  }
  const row = (at: number) => thingRow(board.things[at]!, at, 0, 'alike ')
  return [...byWeave]
    .sort((a, b) => b[1].length - a[1].length)
    .flatMap(([weave, members]): Row[] => {
      if (members.length === 1) return [row(members[0]!)]
      const key = `weave ${weave}`
      const open = folded.has(key)
      const { title } = described(board.things[members[0]!]!, index)
      const group: GroupRow = {
        type: 'group',
        key,
        title: `${title} and ${members.length - 1} alike`,
        positions: members,
        open,
      }
      return [group, ...(open ? members.map(row) : [])]
    })
}

function treeRows(
  board: Told,
  index: SiteIndex,
  kind: Kind,
  members: readonly number[],
  folded: ReadonlySet<string>,
  searching: boolean,
): ThingRow[] {
  const { parent } = appKindOf(kind)
  if (!parent) return members.map(at => thingRow(board.things[at]!, at))
  const children = childrenOf(
    members,
    at => board.things[at]!.id,
    at => parent(index.get(kind as string, board.things[at]!.id) as Record<string, unknown>),
  )
  const below = (id: string): number =>
    (children.get(id) ?? []).reduce((sum, at) => sum + 1 + below(board.things[at]!.id), 0)
  const walk = (id: string | undefined, depth: number): ThingRow[] =>
    (children.get(id) ?? []).flatMap(at => {
      const thing = board.things[at]!
      const count = below(thing.id)
      const open = count > 0 && (searching || !folded.has(`${kind} ${thing.id}`))
      return [{ ...thingRow(thing, at, depth), below: count, open }, ...(open ? walk(thing.id, depth + 1) : [])]
    })
  return walk(undefined, 0)
}

const thingRow = ({ kind, id }: Resource, position: number, depth = 0, prefix = ''): ThingRow => ({
  type: 'thing',
  key: `${prefix}${kind} ${id}`,
  position,
  kind,
  id,
  depth,
  below: 0,
  open: false,
})

/** Kinds of more things begin folded: one bar for each tier tells more of them than a list without an end. */
const manyThings = 400
/** Kinds that begin folded, and whatever lies below the second depth. */
export function firstFolds(index: SiteIndex): Set<string> {
  const folds = kinds
    .filter(kind => appKindOf(kind).folded || index.all(kind).size > manyThings)
    .map(kind => `kind ${kind}`)
  const deep = kinds.flatMap(kind => {
    const { parent } = appKindOf(kind)
    if (!parent) return []
    return [...index.all(kind).values()].flatMap(thing => (parent(thing as never) ? [`${kind} ${thing.id}`] : []))
  })
  return new Set([...folds, ...deep])
}
