import { CompiledDecider } from '../../gates/compiled-decider'
import type { CompiledRules } from '../../gates/compiled'
import { rightBit } from '../../gates/verdict'
import { spaceOf } from '../coverage'
import { finding } from './finding'
import { boardOf, mostFound } from './priced'

const seen = rightBit.find | rightBit.open
/** More pieces than these are not tried: then somebody may well see it. */
const mostPieces = 20_000

/** Goods nobody finds or opens: no tier, and no other visitor there could be. Variants are found with their product. */
export const goodsUnseen = finding<Record<string, never>>(({ rules, ...ask }) => {
  const { products, bits, tiers } = boardOf({ rules, ...ask })
  const byWeave = new Map<number, boolean>()
  const isHidden = (id: string, p: number) => {
    if (tiers.some((_, t) => bits[p * tiers.length + t]! & seen)) return false
    const weave = rules.weaveOf({ kind: 'product', id })
    let hidden = byWeave.get(weave)
    if (hidden === undefined) byWeave.set(weave, (hidden = isHiddenFromAll(rules, id, ask.nowMs)))
    return hidden
  }
  return products
    .flatMap(({ id, root }, p) => (root === id && tiers.length && isHidden(id, p) ? [id] : []))
    .slice(0, mostFound)
    .map(key => ({ place: { kind: 'product', key }, tier: tiers[0]!.id, facts: {} }))
})

function isHiddenFromAll(rules: CompiledRules, id: string, nowMs: number): boolean {
  const space = spaceOf(rules, [{ kind: 'product', id }], nowMs, ['find'])
  if (space.undecidable || space.count > mostPieces) return false
  for (const visitor of space.visitors())
    if (new CompiledDecider(rules, visitor, nowMs).bits({ kind: 'product', id }) & seen) return false
  return true
}
