import { CompiledDecider } from '../../gates/compiled-decider'
import { rightBit } from '../../gates/verdict'
import { offersOf } from '../../shop/compiled-offers'
import { Pricer } from '../../shop/pricer'
import { Taxer } from '../../tax/taxer'
import { finding } from './finding'

interface Facts {
  quantity: number
  /** Of one piece as lists show it, and of the line as it is paid, on the same side of tax; minor units. */
  shown: number
  paid: number
  /** Goods it is so of, for this tier. */ products: number
}
/** Pieces that are tried: what people buy at once. */
const quantity = 10

/** Prices that, times the pieces, are off by more than one minor unit from what is paid for them: each tier once, at the goods that are off most. */
export const roundingDiffers = finding<Facts>(({ rules, tiers, nowMs }) => {
  if (!rules.rulebook.tax?.settings) return []
  const products = offersOf(rules).goods.all
  return tiers.flatMap(({ id: tier, visitor }) => {
    const decider = new CompiledDecider(rules, visitor, nowMs)
    const [pricer, taxer] = [new Pricer(decider), new Taxer(decider)]
    const side = taxer.showing.list
    let most: { key: string; shown: number; paid: number } | undefined
    let count = 0
    for (const product of products) {
      if (!(decider.bits({ kind: 'product', id: product.id }) & rightBit.price)) continue
      const { unit } = pricer.quickOf(product, quantity)
      const shown = taxer.both(product, unit)[side]
      const paid = taxer.both(product, unit * quantity)[side]
      const off = Math.abs(shown * quantity - paid)
      if (off <= 1) continue
      count++
      if (!most || off > Math.abs(most.shown * quantity - most.paid)) most = { key: product.id, shown, paid }
    }
    if (!most) return []
    const { key, ...example } = most
    return [{ place: { kind: 'product' as const, key }, tier, facts: { quantity, ...example, products: count } }]
  })
})
