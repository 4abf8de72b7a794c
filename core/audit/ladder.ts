/** What each kind of visitor opens, and what more and fewer than the one before: levels as the rungs of a ladder. */
import { rightBit } from '../gates/verdict'
import { cellAt } from './reach-board'
import type { ReachBoard } from './reach-board'

export interface Rung {
  /** How many things of the board open. */
  opens: number
  /** Positions of things that open here and not one rung below, and of those that open there and not here. */
  more: number[]
  fewer: number[]
}

/** The tiers of the board in their order, lowest first; the lowest is compared with none. */
export function ladderOf(board: ReachBoard): Rung[] {
  const opensTo = (i: number, t: number) => (cellAt(board, i, t) & rightBit.open) !== 0
  return board.tiers.map((_, t) => {
    const rung: Rung = { opens: 0, more: [], fewer: [] }
    for (let i = 0; i < board.things.length; i++) {
      const opens = opensTo(i, t)
      if (opens) rung.opens++
      if (t === 0) continue
      const before = opensTo(i, t - 1)
      if (opens && !before) rung.more.push(i)
      if (before && !opens) rung.fewer.push(i)
    }
    return rung
  })
}
