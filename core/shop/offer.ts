/** An offer with everything it leaves out filled in, and the order in which offers are read. */
import type { Condition } from '../conditions/condition'
import type { Off, Offer, ShopScope } from '../rulebook/shop-rules'
import { foldedCode } from '../visitor/given-code'

export interface OfferBand {
  from: number
  /** Included; Infinity where it has no end. */ to: number
  off: Off
}

export interface ReadOffer {
  id: string
  active: boolean
  for: Condition
  on: ShopScope
  counts: ShopScope
  /** Folded, as codes compare. */ code: string | undefined
  codeAsWritten: string | undefined
  by: NonNullable<Offer['by']>
  base: NonNullable<Offer['base']>
  bands: OfferBand[]
  bonus: Offer['bonus']
  stacks: boolean
  order: number
}

export const everyone: Condition = { everyone: true }
const defaultOrder = 100

function readOffer(offer: Offer): ReadOffer {
  const { id, active = true, for: who = everyone, on, counts = on, code, by = 'each', base = 'current', bonus } = offer
  return {
    id,
    active,
    for: who,
    on,
    counts,
    code: code === undefined ? undefined : foldedCode(code),
    codeAsWritten: code,
    by,
    base,
    bands: offer.bands.map(({ from = 1, to = Infinity, off }) => ({ from, to, off })),
    bonus,
    stacks: offer.combine === 'stack' && by !== 'spend',
    order: offer.order ?? defaultOrder,
  }
}

/** By order, then by id: of two that tie the first wins, and stacks are applied so. */
export const offersInOrder = (offers: readonly Offer[]): ReadOffer[] =>
  offers.map(readOffer).sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0))

/** The band a measure lies in, by position; -1 where it lies in none. */
export function bandAt(bands: readonly OfferBand[], measure: number): number {
  for (let i = 0; i < bands.length; i++) if (bands[i]!.from <= measure && measure <= bands[i]!.to) return i
  return -1
}

/** The next band above a measure that lies in none, by position; -1 where there is none. */
export function bandAbove(bands: readonly OfferBand[], measure: number): number {
  let next = -1
  for (let i = 0; i < bands.length; i++)
    if (bands[i]!.from > measure && (next < 0 || bands[i]!.from < bands[next]!.from)) next = i
  return next
}
