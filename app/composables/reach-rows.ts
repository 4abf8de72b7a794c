import { kindPlurals } from '~~/core/sentences/words'
import type { Kind } from '~~/core/rulebook/kinds'
import type { Site } from '~~/core/site/site'
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
export function describedThings(board: BoardAnswer, site: Site): Thing[] {
  const pages = new Map((site.pages ?? []).map(page => [page.id, page]))
  const blocks = new Map((site.blocks ?? []).map(block => [block.id, block]))
  const items = new Map((site.menus ?? []).flatMap(menu => menu.items.map(item => [item.id, { item, menu }] as const)))
  const standing = (id: string, depth = 0): string => {
    const place = blocks.get(id)?.in
    if (!place || depth > 20) return ''
    if ('page' in place) return `on ${pages.get(place.page)?.title ?? place.page}`
    if ('frame' in place) return `in the ${place.frame}`
    return 'block' in place ? standing(place.block, depth + 1) : ''
  }
  return board.things.map(({ kind, id }, position) => {
    if (kind === 'page')
      return {
        position,
        kind,
        id,
        title: pages.get(id)?.title ?? id,
        note: pages.get(id)?.path ?? '',
        parent: pages.get(id)?.parent,
      }
    if (kind === 'block')
      return {
        position,
        kind,
        id,
        title: blocks.get(id)?.title ?? id,
        note: `${blocks.get(id)?.kind ?? ''} ${standing(id)}`,
      }
    if (kind === 'menuItem')
      return {
        position,
        kind,
        id,
        title: items.get(id)?.item.label ?? id,
        note: items.get(id)?.item.follow === false ? 'on its own' : 'follows its page',
      }
    return { position, kind, id, title: id, note: '' }
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
    return [
      group,
      ...(open ? (kind === 'page' ? treeRows(members, folded, searching) : members.map(thing => thingRow(thing))) : []),
    ]
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
      const open = below > 0 && (searching || !folded.has(`page ${thing.id}`))
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

/** Pages below the second depth, and blocks, start folded. */
export function firstFolds(site: Site): Set<string> {
  return new Set(['kind block', ...(site.pages ?? []).filter(page => page.parent).map(page => `page ${page.id}`)])
}
