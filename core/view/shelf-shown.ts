/** Goods as they are shown: what they cost whom, and how a shelf of them is sorted and narrowed down. */
import type { ShelfSort } from '../shop/shelf'

/** A price as it is read, for whoever is told it. */
export interface PriceShown {
  now: string
  /** Words behind it, such as whether tax is in it. */ note?: string
  /** What it is without sale and offers, where that is more. */ was?: string
  /** The last day of the sale, in words. */ until?: string
  /** The lowest of several. */ from?: true
  /** The code it comes from. */ code?: string
}

export interface VariantShown {
  name: string
  href?: string
  price?: PriceShown
  /** It is the one that is looked at. */ here?: true
  /** It can be seen and not bought. */ notSold?: true
}

export interface GoodsShown {
  price?: PriceShown
  /** The price with tax that it is rounded from, which lines are reckoned on. */ rounded?: string
  /** From so many on a piece costs so much. */
  steps: { from: number; price: string }[]
  variants: VariantShown[]
  /** Where a code is given, where some offer takes one. */ codes?: string
  /** What is put into the basket here; none where it is not sold to them, or is to be chosen first. */ buy?: string
}

/** How goods are sorted and narrowed down, each a link. */
export interface ShelfShown {
  total: number
  sorts: { sort: ShelfSort; href: string; here: boolean }[]
  facets: { name: string; values: { value: string; href: string; here: boolean }[] }[]
  /** Where everything shows that is left out now. */ all?: string
  before?: string
  after?: string
  page: number
  pages: number
}
