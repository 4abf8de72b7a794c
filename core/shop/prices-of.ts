/** What a product costs before any offer: its own price and sale, and a variant's own before its parent's. */
import type { Lookup } from '../kinds/kind'
import type { Product } from '../kinds/product'

export interface Sale {
  /** Minor units. */ price: number
  /** Local dates, `YYYY-MM-DD`, both included. */ from?: string | undefined
  until?: string | undefined
}

export interface Prices {
  /** Minor units, as typed. */ regular: number
  /** Only one that is lower: any other is no sale anywhere. */ sale?: Sale
}

/** A product and its parents, itself first; a ring in the data ends the walk. */
export function familyOf(product: Product, look: Lookup): Product[] {
  const family = [product]
  for (let at: Product | undefined = product; at?.of !== undefined;) {
    at = look.get('product', at.of) as Product | undefined
    if (!at || family.includes(at)) break
    family.push(at)
  }
  return family
}

/** Null where neither it nor its parents state a price: it cannot be sold. A sale goes with the price beside it. */
export function pricesOf(product: Product, look: Lookup): Prices | null {
  const family = familyOf(product, look)
  const priced = family.findIndex(one => one.price !== undefined)
  if (priced < 0) return null
  const regular = family[priced]!.price!
  const sale = family.slice(0, priced + 1).find(one => one.sale)?.sale
  return sale && sale.price < regular ? { regular, sale } : { regular }
}

/** Whether a sale runs on a local date. */
export const saleRuns = ({ from, until }: Sale, date: string): boolean =>
  (from === undefined || from <= date) && (until === undefined || date <= until)
