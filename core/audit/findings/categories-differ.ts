import { rightBit } from '../../gates/verdict'
import { chainOf } from '../../gates/chain'
import type { Step } from '../../gates/chain'
import { categoriesOf } from '../../kinds/product'
import type { Product } from '../../kinds/product'
import { finding } from './finding'
import { boardOf, mostFound } from './priced'

const gatesIn = (steps: readonly Step[]) => steps.flatMap(step => step.gates.map(({ gate }) => gate.id)).join()

/** A product lies in two categories with different gates: the stricter decides, which may be meant by neither. */
export const categoriesDiffer = finding<{ categories: string[] }>(ask => {
  const { rules } = ask
  const board = boardOf(ask)
  const width = board.tiers.length
  return board.products
    .flatMap(({ id, root }, p) => {
      const product = rules.index.get('product', id) as Product
      const categories = categoriesOf(product, rules.index)
      if (root !== id || categories.length < 2) return []
      const branches = chainOf({ kind: 'product', id }, rules.gates, rules.index)?.branches ?? []
      if (new Set(branches.map(gatesIn)).size < 2) return []
      const refused = board.tiers.findIndex((_, t) => !(board.bits[p * width + t]! & rightBit.take))
      const tier = board.tiers[Math.max(0, refused)]!.id
      return [{ place: { kind: 'product' as const, key: id }, tier, facts: { categories: [...categories] } }]
    })
    .slice(0, mostFound)
})
