/** Where something is sent to, and the places rates are for. Countries and regions are those of ISO 3166. */

export interface Address {
  country: string
  region?: string | undefined
  postcode?: string | undefined
}

/** Empty: anywhere. */
export interface Place {
  country?: string | undefined
  region?: string | undefined
  /** Beginnings of postcodes. */ startsWith?: readonly string[] | undefined
}

/** As postcodes compare: in capitals, without spaces. */
export const foldedPostcode = (postcode: string): string => postcode.replace(/\s/g, '').toUpperCase()

/** How closely a place fits an address: the length of the postcode's beginning, then region before country before anywhere. */
export type Fit = readonly [beginning: number, area: 0 | 1 | 2]

/** Null where the place does not hold the address. */
export function fitOf({ country, region, startsWith }: Place, address: Address): Fit | null {
  if (country !== undefined && country !== address.country) return null
  if (region !== undefined && region !== address.region) return null
  const area = region !== undefined ? 2 : country !== undefined ? 1 : 0
  if (!startsWith) return [0, area]
  const postcode = foldedPostcode(address.postcode ?? '')
  const lengths = startsWith
    .map(foldedPostcode)
    .filter(one => postcode.startsWith(one))
    .map(one => one.length)
  return lengths.length ? [Math.max(...lengths), area] : null
}

export const isCloser = (one: Fit, than: Fit): boolean => one[0] > than[0] || (one[0] === than[0] && one[1] > than[1])
