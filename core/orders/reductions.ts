/** Why something in a basket costs less than its price: in figures, for whoever pays, and never by what the operator calls it. */
import type { Off, Offer } from '../rulebook/shop-rules'
import type { PriceTrail, TrailStep } from '../shop/price-trail'

export interface Reduction {
  is: 'sale' | 'percent' | 'amount' | 'price' | 'bonus'
  percent?: string
  /** So many come free with so many that are paid. */ bonus?: { buy: number; get: number }
  /** From so many pieces on, where that is more than one. */ from?: number
  /** From what sum on, minor units as typed. */ fromSum?: number
  /** The code it comes from, as it is written. */ code?: string
}

/** By line of a basket, and of it as a whole. */
export interface Reductions {
  lines: Reduction[][]
  basket: Reduction | null
}

type Traced = Pick<PriceTrail, 'offers' | 'sale' | 'steps'>

const isOf = (off: Off): Pick<Reduction, 'is' | 'percent'> => {
  if ('percent' in off) return { is: 'percent', percent: String(Number(off.percent)) }
  return { is: 'amount' in off ? 'amount' : 'price' }
}

function reductionOf({ bands, bonus, by, code }: Offer, { band = 0 }: TrailStep): Reduction {
  const { off, from = 1 } = bands[band] ?? bands[0]!
  return {
    ...(bonus ? { is: 'bonus' as const, bonus } : isOf(off)),
    ...(by !== 'spend' && from > 1 ? { from } : {}),
    ...(by === 'spend' && from > 1 ? { fromSum: from } : {}),
    ...(code === undefined ? {} : { code }),
  }
}

const applied = ({ steps, offers }: Traced, all: readonly Offer[], isSpend: boolean): Reduction[] =>
  steps.flatMap(step => {
    const offer = all.find(one => one.id === step.offer)
    const counts = offer && offers.includes(step.offer) && step.outcome === 'applied'
    return counts && (offer.by === 'spend') === isSpend ? [reductionOf(offer, step)] : []
  })

/** What makes a piece of a line cost less, in the order it was taken off; nothing for who pays its price. */
export function lineReductions(
  line: Traced & Pick<PriceTrail, 'unit' | 'regular'>,
  offers: readonly Offer[],
): Reduction[] {
  const found = applied(line, offers, false)
  return line.sale?.runs && line.unit < line.regular && !found.length ? [{ is: 'sale' }] : found
}

/** What is taken off the basket as a whole; one at most is. */
export const basketReduction = (lines: readonly Traced[], offers: readonly Offer[]): Reduction | null =>
  lines.flatMap(line => applied(line, offers, true))[0] ?? null
