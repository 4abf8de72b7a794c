/** Who reaches what: every thing by every tier, counted by weave. */
import type { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { masterKeyBit, reaches, reachOf, rightBit } from '../gates/verdict'
import { menuFor } from '../menus/menu'
import { moduleOf } from '../kinds/kinds'
import type { Kind, Resource } from '../kinds/kinds'
import type { Visitor } from '../visitor/visitor'

export interface BoardTier {
  id: string
  name: string
  visitor: Visitor
}

export interface ReachBoard {
  tiers: BoardTier[]
  things: readonly Resource[]
  /** Weave of each thing, by position. */
  weaves: Int32Array
  /** Rights of weave `w` for tier `t` at `w * tiers.length + t`, as bits of the verdict. */
  cells: Uint8Array
  /** Items of menus by position: what a tier sees of one depends on its target and on the items around it. */
  items: Map<number, Uint8Array>
}

/**
 * Decides once per weave and tier. Weaves that look at a record are decided by an example of theirs.
 * `before`: an earlier board of the same things, whose weaves still hold where `rules` say so.
 */
export function reachBoard(
  rules: CompiledRules,
  things: readonly Resource[],
  tiers: BoardTier[],
  nowMs: number,
  before?: { rules: CompiledRules; board: ReachBoard },
): ReachBoard {
  const isSame = before && rules.sameWeavesAs === before.rules && before.board.things === things
  const weaves = isSame ? before.board.weaves : Int32Array.from(things, thing => rules.weaveOf(thing))
  const cells = new Uint8Array(rules.weaves.length * tiers.length)
  const items = new Map<number, Uint8Array>()
  things.forEach(({ kind }, i) => {
    if (moduleOf(kind).seenInMenu) items.set(i, new Uint8Array(tiers.length))
  })
  const positions = new Map([...items.keys()].map(i => [things[i]!.id, i]))
  tiers.forEach((tier, t) => {
    const decider = new CompiledDecider(rules, tier.visitor, nowMs)
    for (const weave of rules.weaves) {
      cells[weave.number * tiers.length + t] = weave.perRecord
        ? decider.bits(weave.example)
        : decider.bitsOfWeave(weave.number)
    }
    for (const [id, bits] of itemsSeen(rules, decider)) {
      const cell = items.get(positions.get(id) ?? -1)
      if (cell) cell[t] = bits
    }
  })
  return { tiers, things, weaves, cells, items }
}

/** A shown item counts as opened, a locked one as found, a hidden one as unseen. */
function itemsSeen(rules: CompiledRules, decider: CompiledDecider): [string, number][] {
  const admits = (kind: Kind, id: string, wanted: number) => (decider.bits({ kind, id }) & wanted) === wanted
  return [...rules.index.all('menu').values()].flatMap(menu =>
    menuFor(menu, {
      ownAdmits: item => admits('menuItem', item.id, rightBit.find | rightBit.open),
      opens: ({ kind, id }) => admits(kind, id, rightBit.open),
    }).map(({ item, state }): [string, number] => [
      item.id,
      state === 'shown' ? rightBit.find | rightBit.search | rightBit.open : rightBit.find | rightBit.search,
    ]),
  )
}

/** Rights of thing number `i` for tier number `t`. */
export function cellAt(board: ReachBoard, i: number, t: number): number {
  const item = board.items.get(i)
  if (item) return item[t]!
  const weave = board.weaves[i]!
  return weave < 0 ? 0 : board.cells[weave * board.tiers.length + t]!
}

/** How many things each tier reaches how far: `[unseen, glimpse, open, take]` per tier, counted by weave. */
export function shares(board: ReachBoard): number[][] {
  const counts = board.tiers.map(() => [0, 0, 0, 0])
  const perWeave = new Map<number, number>()
  for (let i = 0; i < board.things.length; i++) {
    if (!board.items.has(i)) perWeave.set(board.weaves[i]!, (perWeave.get(board.weaves[i]!) ?? 0) + 1)
  }
  board.tiers.forEach((_, t) => {
    const add = (bits: number, count: number) => {
      counts[t]![reaches.indexOf(reachOf(bits))]! += count
    }
    for (const [weave, count] of perWeave) add(weave < 0 ? 0 : board.cells[weave * board.tiers.length + t]!, count)
    for (const item of board.items.values()) add(item[t]!, 1)
  })
  return counts
}

/** What of a cell shows: everything but whether the key was what admitted. */
const visible = (bits: number) => bits & ~masterKeyBit

export type Move = 'gain' | 'lose' | 'other'

/** How a cell moves between two boards; null when it does not. A cell that gains one right and loses another is neither gain nor loss. */
export function moveOf(before: number, after: number): Move | null {
  const [a, b] = [visible(before), visible(after)]
  if (a === b) return null
  if ((a & b) === a) return 'gain'
  return (a & b) === b ? 'lose' : 'other'
}

export interface Impact {
  moved: number
  gain: number
  lose: number
  other: number
}

/** Counts the cells of `after` that differ from `before`. A thing or tier only one board has counts as unseen in the other. */
export function impactOf(before: ReachBoard, after: ReachBoard): Impact {
  const impact: Impact = { moved: 0, gain: 0, lose: 0, other: 0 }
  const tierBefore = after.tiers.map(tier => before.tiers.findIndex(one => one.id === tier.id))
  const count = (bits: number, next: number, times: number) => {
    const move = moveOf(bits, next)
    if (!move) return
    impact.moved += times
    impact[move] += times
  }
  const positions = before.things === after.things ? undefined : positionsOf(before.things)
  // Things that share their weave on both boards move alike.
  const pairs = new Map<string, { then: number | undefined; now: number; times: number }>()
  const seen = new Uint8Array(before.things.length)
  after.things.forEach((thing, i) => {
    const then = positions ? positions.get(`${thing.kind}:${thing.id}`) : i
    if (then !== undefined) seen[then] = 1
    const alone = after.items.has(i) || (then !== undefined && before.items.has(then))
    const key = alone ? `item ${i}` : `${then === undefined ? '' : before.weaves[then]} ${after.weaves[i]}`
    const pair = pairs.get(key)
    if (pair) pair.times++
    else pairs.set(key, { then, now: i, times: 1 })
  })
  for (const { then, now, times } of pairs.values())
    after.tiers.forEach((_, t) => {
      const tier = tierBefore[t]!
      if (tier >= 0) count(then === undefined ? 0 : cellAt(before, then, tier), cellAt(after, now, t), times)
    })
  seen.forEach((there, then) => {
    if (there) return
    after.tiers.forEach((_, t) => {
      if (tierBefore[t]! >= 0) count(cellAt(before, then, tierBefore[t]!), 0, 1)
    })
  })
  return impact
}

const positionsOf = (things: readonly Resource[]) => new Map(things.map((thing, i) => [`${thing.kind}:${thing.id}`, i]))
