import { CompiledDecider } from '../../gates/compiled-decider'
import { rightBit } from '../../gates/verdict'
import { offersOf } from '../../shop/compiled-offers'
import { Pricer } from '../../shop/pricer'
import { Taxer } from '../../tax/taxer'
import { finding } from './finding'
import { mostFound } from './priced'

interface Facts {
  quantity: number
  /** Of one piece as lists show it, and of the line as it is paid, on the same side of tax; minor units. */
  shown: number
  paid: number
}
/** Pieces that are tried: what people buy at once. */
const quantity = 10

/** A price that, times the pieces, is off by more than one minor unit from what is paid for them: each product once. */
export const roundingDiffers = finding<Facts>(({ rules, tiers, nowMs }) => {
  if (!rules.rulebook.tax?.settings) return []
  const products = offersOf(rules).goods.all
  const sides = tiers.map(({ id, visitor }) => {
    const decider = new CompiledDecider(rules, visitor, nowMs)
    return { id, decider, pricer: new Pricer(decider), taxer: new Taxer(decider) }
  })
  const found = []
  for (const product of products) {
    if (found.length >= mostFound) break
    for (const { id, decider, pricer, taxer } of sides) {
      if (!(decider.bits({ kind: 'product', id: product.id }) & rightBit.price)) continue
      const { unit } = pricer.quickOf(product, quantity)
      const side = taxer.showing.list
      const shown = taxer.both(product, unit)[side]
      const paid = taxer.both(product, unit * quantity)[side]
      if (Math.abs(shown * quantity - paid) <= 1) continue
      found.push({ place: { kind: 'product' as const, key: product.id }, tier: id, facts: { quantity, shown, paid } })
      break
    }
  }
  return found
})
