/** Places as they are called. */
import type { Place } from '../site/place'
import { countries } from './words'

let byCode: Map<string, string> | undefined
export const countryName = (code: string): string =>
  (byCode ??= new Map(countries().map(one => [one.id, one.name]))).get(code) ?? code

/** “Spain, postcodes 35, 38”; “US-OR”; “anywhere else”. */
export function placeName({ country, region, startsWith }: Place): string {
  const area = region ?? (country === undefined ? '' : countryName(country))
  const codes = startsWith?.length ? `postcodes ${startsWith.join(', ')}` : ''
  return [area, codes].filter(Boolean).join(', ') || 'anywhere else'
}
