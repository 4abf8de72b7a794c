import { rightBit } from '../../gates/verdict'
import { finding } from './finding'
import { boardOf, mostFound } from './priced'

/** Goods no tier finds. Variants are found with their product. */
export const goodsUnseen = finding<Record<string, never>>(ask => {
  const { products, bits, tiers } = boardOf(ask)
  const isSeen = (p: number) => tiers.some((_, t) => bits[p * tiers.length + t]! & (rightBit.find | rightBit.open))
  return products
    .flatMap((product, p) => (product.root === product.id && tiers.length && !isSeen(p) ? [product.id] : []))
    .slice(0, mostFound)
    .map(key => ({ place: { kind: 'product', key }, tier: tiers[0]!.id, facts: {} }))
})
