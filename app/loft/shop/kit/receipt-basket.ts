import { countryName } from '~~/core/sentences/place-name'
import type { BasketLine } from '~~/core/shop/price-trail'
import type { Address } from '~~/core/site/place'
import { readPlace } from '~/loft/shop/kit/tax-words'

/** A basket and where it is sent as receipts are asked for: written in chips, and read back from what was typed there. */

interface Named {
  id: string
  title?: string | undefined
}

/** “2 Fell DK; 1 Niddy-noddy”. */
export const basketText = (lines: readonly BasketLine[], title: (id: string) => string): string =>
  lines.map(({ quantity, product }) => `${quantity} ${title(product)}`).join('; ')

/** Goods by id, by title, or by how a title begins; null for nothing, and the name of what there is not. */
export function readBasket(text: string, goods: Iterable<Named>): BasketLine[] | { unknown: string } | null {
  const all = [...goods]
  const read = text.split(';').flatMap(part => {
    const [, count = '1', name = ''] = /^\s*(\d{1,5})?\s*(.*?)\s*$/.exec(part) ?? []
    if (!name) return []
    const wanted = name.toLowerCase()
    const found =
      all.find(one => one.id === wanted || one.title?.toLowerCase() === wanted) ??
      all.find(one => one.title?.toLowerCase().startsWith(wanted))
    return [{ product: found?.id, quantity: Number(count), name }]
  })
  const unknown = read.find(one => one.product === undefined || one.quantity < 1)
  if (unknown) return { unknown: unknown.name }
  return read.length ? read.map(({ product, quantity }) => ({ product: product!, quantity })) : null
}

/** “Spain 35001”. */
export const addressText = ({ country, region, postcode }: Address): string =>
  [region ?? countryName(country), postcode].filter(Boolean).join(' ')

/** A country or a region, and a postcode; null where it is no place that is known. */
export function readAddressText(text: string): Address | null {
  const [, area = '', code = ''] = /^(.*?)(?:\s+((?=\S*\d)[\w -]{2,12}))?$/.exec(text.trim()) ?? []
  const place = readPlace(area)
  if (!place?.country) return null
  return {
    country: place.country,
    ...(place.region ? { region: place.region } : {}),
    ...(code ? { postcode: code } : {}),
  }
}
