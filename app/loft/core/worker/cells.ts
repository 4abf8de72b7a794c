import type { Cells } from './questions'

/** What a tier reaches of the thing at a position of the board, as bits of the verdict. */
export function cellOf({ weaves, byWeave, items }: Cells, tiers: number, position: number, tier: number): number {
  const item = items.get(position)
  if (item) return item[tier] ?? 0
  const weave = weaves[position] ?? -1
  return weave < 0 ? 0 : (byWeave[weave * tiers + tier] ?? 0)
}
