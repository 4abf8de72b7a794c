/** Reductions compiled: percentages as whole ten-thousandths, so that what is exact in decimals is exact in whole numbers. */
import { decimal } from '../exact'
import type { Off } from '../rulebook/shop-rules'

/** Ten-thousandths of a percent in the whole: at most four decimals are written. */
const whole = 1_000_000

export interface Reduction {
  kind: 'percent' | 'amount' | 'price'
  /** Ten-thousandths of a percent, or minor units. */ value: number
}

export function compiledReduction(off: Off): Reduction {
  if ('price' in off) return { kind: 'price', value: off.price }
  if ('amount' in off) return { kind: 'amount', value: off.amount }
  return { kind: 'percent', value: decimal(off.percent).mul(10_000).valueOf() }
}

/** `base × part / whole`, half rounded up, exact whatever the size. */
function portion(base: number, part: number): number {
  const product = base * part
  // So far from the ends of a double that dividing it cannot reach the next whole number.
  if (base <= 1_000_000_000) return Math.floor((product + whole / 2) / whole)
  if (product > Number.MAX_SAFE_INTEGER - whole)
    return Number((BigInt(base) * BigInt(part) * 2n + BigInt(whole)) / BigInt(2 * whole))
  const rest = product % whole
  return (product - rest) / whole + (rest * 2 >= whole ? 1 : 0)
}

/** A price after a reduction, in whole minor units. */
export function reducedPrice(base: number, { kind, value }: Reduction): number {
  if (kind === 'percent') return portion(base, whole - value)
  if (kind === 'price') return value
  return base > value ? base - value : 0
}

/** What a discount on the basket takes off a sum; no more than there is. */
export function discountOn(sum: number, { kind, value }: Reduction): number {
  return kind === 'percent' ? portion(sum, value) : Math.min(sum, value)
}
