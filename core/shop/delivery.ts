/** Ways of sending a basket somewhere, and what each costs. */
import type { Condition } from '../conditions/condition'
import type { Lookup } from '../kinds/kind'
import type { Delivery } from '../rulebook/shop-rules'
import { fitOf } from '../site/place'
import type { Address } from '../site/place'
import { everyone } from './offer'
import { familyOf } from './prices-of'

export interface DeliveryOffered {
  id: string
  name: string
  note: string
  /** Without tax, minor units. */ cost: number
}

export interface Parcel {
  /** Grams. */ weight: number
  /** What the goods that are sent come to as typed, after discounts, minor units. */ worth: number
  /** Something in it is sent: else there is nothing to deliver. */ sent: boolean
}

/** What lines that are sent weigh and come to, and whether anything is sent. A variant's own before its product's; what states no weight weighs nothing. */
export function parcelOf(
  lines: readonly { product: string; quantity: number; amount: number; discount: number }[],
  look: Lookup,
): Parcel {
  const parcel: Parcel = { weight: 0, worth: 0, sent: false }
  for (const { product: id, quantity, amount, discount } of lines) {
    const product = look.get('product', id) as Parameters<typeof familyOf>[0] | undefined
    const family = product ? familyOf(product, look) : []
    if (family.find(one => one.sent !== undefined)?.sent === false) continue
    parcel.sent = true
    parcel.worth += amount - discount
    parcel.weight += quantity * (family.find(one => one.weight !== undefined)?.weight ?? 0)
  }
  return parcel
}

/** In the order of the rulebook, those that are for the visitor, go there and carry as much. */
export function deliveriesFor(
  deliveries: readonly Delivery[],
  { parcel, to, admits }: { parcel: Parcel; to: Address; admits(condition: Condition): boolean },
): DeliveryOffered[] {
  if (!parcel.sent) return []
  return deliveries.flatMap(delivery => {
    const { id, name = id, note = '', active, for: who = everyone, to: places, freeFrom } = delivery
    if (active === false || (places && !places.some(place => fitOf(place, to))) || !admits(who)) return []
    const cost = costOf(delivery, parcel.weight)
    if (cost === null) return []
    return [{ id, name, note, cost: freeFrom !== undefined && parcel.worth >= freeFrom ? 0 : cost }]
  })
}

/** Null where it is too heavy. Steps are read from the lightest. */
function costOf({ cost }: Delivery, weight: number): number | null {
  if ('flat' in cost) return cost.flat
  const steps = cost.byWeight.toSorted((a, b) => (a.upTo ?? Infinity) - (b.upTo ?? Infinity))
  return steps.find(({ upTo }) => upTo === undefined || weight <= upTo)?.cost ?? null
}
