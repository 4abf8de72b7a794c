/** The answer to "what may this visitor do with this thing". */
import type { Notice, Treatment } from '../rulebook/gate'
import { pricedKinds, takenKinds } from '../kinds/kinds'
import type { Kind, Right } from '../kinds/kinds'

export const reaches = ['unseen', 'glimpse', 'open', 'take'] as const
export type Reach = (typeof reaches)[number]

/** Rights as bits, so that a verdict fits a small integer. */
export const rightBit: Record<Right, number> = { find: 1, search: 2, open: 4, price: 8, take: 16 }
/** Set when the master key was what admitted any of the rights. */
export const masterKeyBit = 32
/** On a board: it may be neither found nor opened, and its address answers all the same. No right. */
export const toldBit = 64

export interface Verdict {
  find: boolean
  search: boolean
  open: boolean
  price: boolean
  take: boolean
  reach: Reach
  unlisted: boolean
  masterKey: boolean
  /** Only when open is refused. */
  otherwise?: Treatment
  takeNotice?: Notice
}

export const hasPrice = (kind: Kind) => pricedKinds.has(kind)
export const canBeTaken = (kind: Kind) => takenKinds.has(kind)

export function reachOf(bits: number): Reach {
  if (bits & rightBit.take) return 'take'
  if (bits & rightBit.open) return 'open'
  return bits & rightBit.find ? 'glimpse' : 'unseen'
}

export const isUnlisted = (bits: number) => (bits & rightBit.open) !== 0 && (bits & rightBit.find) === 0

export function verdictOf(bits: number): Verdict {
  const has = (right: Right) => (bits & rightBit[right]) !== 0
  return {
    find: has('find'),
    search: has('search'),
    open: has('open'),
    price: has('price'),
    take: has('take'),
    reach: reachOf(bits),
    unlisted: isUnlisted(bits),
    masterKey: (bits & masterKeyBit) !== 0,
  }
}

/**
 * Joins what each right's own terms say with what it stands on: search never
 * without find; price and take never without open; what stands in something
 * never without that.
 */
export function combine(kind: Kind, own: Record<Right, boolean>, placeOpens: boolean): number {
  const find = own.find && placeOpens
  const open = own.open && placeOpens
  const price = hasPrice(kind) && open && own.price
  const take = canBeTaken(kind) && open && own.take && (price || !hasPrice(kind))
  return (find ? 1 : 0) | (find && own.search ? 2 : 0) | (open ? 4 : 0) | (price ? 8 : 0) | (take ? 16 : 0)
}
