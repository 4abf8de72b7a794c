/** Who reaches what: every thing by every tier, counted by weave. */
import type { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { masterKeyBit, reaches, reachOf, rightBit, toldBit } from '../gates/verdict'
import { isHidden, toldOfHidden } from './hidden-told'
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
      const bits = weave.perRecord ? decider.bits(weave.example) : decider.bitsOfWeave(weave.number)
      const told = isHidden(bits) && toldOfHidden(rules, weave, decider) ? toldBit : 0
      cells[weave.number * tiers.length + t] = bits | told
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
      signedIn: () => decider.signedIn,
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

/** What of a cell shows: everything but whether the key was what admitted. */
const visible = (bits: number) => bits & ~(masterKeyBit | toldBit)

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

/** Things that share their weaves on both boards move alike: one example of each, and how many they are. */
interface Pairs {
  before: Int32Array
  both: { then: number | undefined; now: number; times: number }[]
  /** Positions of things only the earlier board has. */
  gone: number[]
}
/** Which things share their weaves stays the same while only what gates say changes. */
const paired = new WeakMap<Int32Array, Pairs>()

function pairsOf(before: ReachBoard, after: ReachBoard): Pairs {
  const known = paired.get(after.weaves)
  if (known?.before === before.weaves) return known
  const positions = before.things === after.things ? undefined : positionsOf(before.things)
  const pairs = new Map<number, Pairs['both'][number]>()
  const alone: Pairs['both'] = []
  const seen = new Uint8Array(before.things.length)
  const ways = after.weaves.reduce((most, one) => Math.max(most, one), 0) + 2
  after.things.forEach((thing, i) => {
    const then = positions ? positions.get(`${thing.kind}:${thing.id}`) : i
    if (then !== undefined) seen[then] = 1
    if (after.items.has(i) || (then !== undefined && before.items.has(then)))
      return void alone.push({ then, now: i, times: 1 })
    const key = (then === undefined ? 0 : before.weaves[then]! + 2) * ways + after.weaves[i]! + 1
    const pair = pairs.get(key)
    if (pair) pair.times++
    else pairs.set(key, { then, now: i, times: 1 })
  })
  const gone: number[] = []
  seen.forEach((there, then) => {
    if (!there) gone.push(then)
  })
  const made = { before: before.weaves, both: [...pairs.values(), ...alone], gone }
  paired.set(after.weaves, made)
  return made
}

/**
 * Counts the cells of `after` that differ from `before`. A thing or tier only one board has counts as unseen in the
 * other. `but`: tiers that do not count, such as those only looked at as if.
 */
export function impactOf(before: ReachBoard, after: ReachBoard, but: ReadonlySet<string> = new Set()): Impact {
  const impact: Impact = { moved: 0, gain: 0, lose: 0, other: 0 }
  const tierBefore = after.tiers.map(tier =>
    but.has(tier.id) ? -1 : before.tiers.findIndex(one => one.id === tier.id),
  )
  const count = (bits: number, next: number, times: number) => {
    const move = moveOf(bits, next)
    if (!move) return
    impact.moved += times
    impact[move] += times
  }
  const { both, gone } = pairsOf(before, after)
  for (const { then, now, times } of both)
    after.tiers.forEach((_, t) => {
      const tier = tierBefore[t]!
      if (tier >= 0) count(then === undefined ? 0 : cellAt(before, then, tier), cellAt(after, now, t), times)
    })
  for (const then of gone)
    after.tiers.forEach((_, t) => {
      if (tierBefore[t]! >= 0) count(cellAt(before, then, tierBefore[t]!), 0, 1)
    })
  return impact
}

/** How many things of each kind stand in each weave; by position what is decided alone. */
interface KindCounts {
  perWeave: Map<Kind, Map<number, number>>
  alone: Map<Kind, number[]>
}
const counted = new WeakMap<Int32Array, KindCounts>()
function kindCounts({ things, weaves, items }: ReachBoard): KindCounts {
  let counts = counted.get(weaves)
  if (counts) return counts
  counts = { perWeave: new Map(), alone: new Map() }
  for (let i = 0; i < things.length; i++) {
    const { kind } = things[i]!
    if (items.has(i)) {
      counts.alone.set(kind, [...(counts.alone.get(kind) ?? []), i])
      continue
    }
    let perWeave = counts.perWeave.get(kind)
    if (!perWeave) counts.perWeave.set(kind, (perWeave = new Map()))
    perWeave.set(weaves[i]!, (perWeave.get(weaves[i]!) ?? 0) + 1)
  }
  counted.set(weaves, counts)
  return counts
}

/** By kind, then by tier, how many things are reached how far: `[unseen, glimpse, open, take]`. */
export function sharesByKind(board: ReachBoard): Partial<Record<Kind, number[][]>> {
  const { perWeave, alone } = kindCounts(board)
  const shares: Partial<Record<Kind, number[][]>> = {}
  const of = (kind: Kind) => (shares[kind] ??= board.tiers.map(() => [0, 0, 0, 0]))
  const add = (counts: number[][], t: number, bits: number, times: number) => {
    counts[t]![reaches.indexOf(reachOf(bits))]! += times
  }
  for (const [kind, weaves] of perWeave)
    for (const [weave, times] of weaves)
      board.tiers.forEach((_, t) =>
        add(of(kind), t, weave < 0 ? 0 : board.cells[weave * board.tiers.length + t]!, times),
      )
  for (const [kind, positions] of alone)
    for (const i of positions) board.tiers.forEach((_, t) => add(of(kind), t, cellAt(board, i, t), 1))
  return shares
}

/** Weaves of `things` as another board has them; -1 where it has not. `items`: the same for what is decided alone. */
export function alignedTo(board: ReachBoard, things: readonly Resource[]): Pick<ReachBoard, 'weaves' | 'items'> {
  if (board.things === things) return board
  const positions = positionsOf(board.things)
  const items = new Map<number, Uint8Array>()
  const weaves = Int32Array.from(things, ({ kind, id }, i) => {
    const at = positions.get(`${kind}:${id}`)
    const item = at === undefined ? undefined : board.items.get(at)
    if (item) items.set(i, item)
    return at === undefined ? -1 : board.weaves[at]!
  })
  return { weaves, items }
}

const positionsOf = (things: readonly Resource[]) => new Map(things.map((thing, i) => [`${thing.kind}:${thing.id}`, i]))
