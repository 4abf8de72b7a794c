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

/** Why a way is offered or is not, first come first: it is off, nothing is sent, it goes elsewhere, is for others, or carries less. */
export type DeliveryOutcome = 'offered' | 'off' | 'nothingSent' | 'elsewhere' | 'forOthers' | 'tooHeavy'

export interface DeliveryWeighed {
  outcome: DeliveryOutcome
  /** Of one that is offered: without tax, minor units. */ cost?: number
  /** The weight its cost is for, in grams; of the last step none. */ upTo?: number
  /** The goods come to so much that it costs nothing. */ freed?: true
}

/** What becomes of one way for somebody's parcel. */
export function weighDelivery(
  { active, for: who = everyone, to: places, cost, freeFrom }: Delivery,
  { parcel, to, admits }: { parcel: Parcel; to: Address; admits(condition: Condition): boolean },
): DeliveryWeighed {
  if (active === false) return { outcome: 'off' }
  if (!parcel.sent) return { outcome: 'nothingSent' }
  if (places && !places.some(place => fitOf(place, to))) return { outcome: 'elsewhere' }
  if (!admits(who)) return { outcome: 'forOthers' }
  const step = stepOf(cost, parcel.weight)
  if (!step) return { outcome: 'tooHeavy' }
  const isFree = freeFrom !== undefined && parcel.worth >= freeFrom
  return {
    outcome: 'offered',
    cost: isFree ? 0 : step.cost,
    ...(step.upTo === undefined ? {} : { upTo: step.upTo }),
    ...(isFree ? { freed: true } : {}),
  }
}

/** In the order of the rulebook, those that are for the visitor, go there and carry as much. */
export function deliveriesFor(
  deliveries: readonly Delivery[],
  asked: { parcel: Parcel; to: Address; admits(condition: Condition): boolean },
): DeliveryOffered[] {
  return deliveries.flatMap(delivery => {
    const { id, name = id, note = '' } = delivery
    const { outcome, cost } = weighDelivery(delivery, asked)
    return outcome === 'offered' ? [{ id, name, note, cost: cost! }] : []
  })
}

/** Null where it is too heavy. Steps are read from the lightest. */
function stepOf(cost: Delivery['cost'], weight: number): { upTo?: number | undefined; cost: number } | null {
  if ('flat' in cost) return { cost: cost.flat }
  const steps = cost.byWeight.toSorted((a, b) => (a.upTo ?? Infinity) - (b.upTo ?? Infinity))
  return steps.find(({ upTo }) => upTo === undefined || weight <= upTo) ?? null
}
