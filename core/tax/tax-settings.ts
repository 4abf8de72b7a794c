/** How a shop deals with tax, with everything filled in that its operator left out. */
import type { z } from 'zod'
import type { taxSettings } from '../rulebook/shop-rules'
import type { Address } from '../site/place'

export type TaxSettings = z.infer<typeof taxSettings>
export type Showing = 'withTax' | 'withoutTax'
export type TaxLines = 'summed' | 'each'

/** How prices show to somebody. */
export interface Shown {
  list: Showing
  basket: Showing
  pay: Showing
  taxLines: TaxLines
  /** Words after a price; may hold `{net}` and `{gross}`. */ note: string
}

export interface ReadTaxSettings {
  typed: Showing
  origin: Address
  place: 'destination' | 'origin'
  keepGross: boolean
  deliveryCategory: string
  shown: Shown
}

/** The category of whatever states none. */
export const standardCategory = 'standard'

/** How prices are typed is how they show, unless something else is said. */
export function readTaxSettings({
  typed,
  origin,
  place = 'destination',
  keepGross = false,
  deliveryCategory = standardCategory,
  shown = {},
}: TaxSettings): ReadTaxSettings {
  const { list = typed, basket = list, pay = basket, taxLines = 'summed', note = '' } = shown
  return { typed, origin, place, keepGross, deliveryCategory, shown: { list, basket, pay, taxLines, note } }
}

/** Where something is taxed: where it is sent, else where the visitor is, else at home; under the origin principle at home. */
export function taxedAt(
  { place, origin }: Pick<ReadTaxSettings, 'place' | 'origin'>,
  sentTo: Address | undefined,
  request: { country?: string | undefined; region?: string | undefined } | undefined,
): Address {
  if (place === 'origin') return origin
  if (sentTo) return sentTo
  if (!request?.country) return origin
  return { country: request.country, ...(request.region ? { region: request.region } : {}) }
}
