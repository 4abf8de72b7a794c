/** Boards of what each tier pays, live and in the draft, kept while what they are made from is the same. */
import { pricesBoard } from '~~/core/audit/prices-board'
import type { PricesBoard } from '~~/core/audit/prices-board'
import type { Version } from '~~/core/editions/contents'
import { CompiledRules } from '~~/core/gates/compiled'
import type { Which } from '~/loft/core/worker/questions'
import type { Reckoned, Side } from '~/loft/core/worker/world'

/** The boards worked out last: the next is made from them, where they are alike. */
let boards: Partial<Record<Which, PricesBoard>> = {}

export function pricesBoardOf({ tiers, nowMs, ...sides }: Reckoned, which: Which, quantity: number): PricesBoard {
  const { rules } = sides[which]
  const known = boards[which]
  if (known?.rules === rules && known.tiers === tiers && known.quantity === quantity && known.nowMs === nowMs)
    return known
  const before = [known, boards.live].find(one => one?.tiers === tiers && one.quantity === quantity)
  const made = pricesBoard(rules, tiers, { quantity, nowMs }, before)
  boards = { ...boards, [which]: made }
  return made
}

/** The rules that are live with changes on top of them. */
export function withChanges(live: Side, changes: readonly Version[]): CompiledRules {
  const contents = live.contents.with(changes)
  return new CompiledRules(contents.book, contents.index, live.rules)
}
