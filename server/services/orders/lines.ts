/** What lies in a basket: putting in, changing how many, taking out, and making two into one. */
import type { BasketLine } from '../../../core/shop/price-trail'
import { Problem } from '../../problem'

export interface KeptLine extends BasketLine {
  /** What one piece showed as when they last saw it, minor units; null before. */ seen: number | null
}

/** Of one product, and of different ones. */
export const mostPieces = 9999
const mostLines = 100

/** How many somebody typed; throws `not-a-count` for anything but a whole number that can be bought. */
export function countTyped(text: string | undefined, least: 0 | 1 = 1): number {
  const typed = (text ?? '').trim()
  const count = /^\d{1,6}$/.test(typed) ? Number(typed) : Number.NaN
  if (!(count >= least && count <= mostPieces))
    throw new Problem('not-a-count', { most: mostPieces }, { at: '/quantity' })
  return count
}

/** More of a product; throws where that is more than can lie in a basket. */
export function withMore(lines: readonly KeptLine[], product: string, quantity: number): KeptLine[] {
  const there = lines.find(one => one.product === product)
  const all = (there?.quantity ?? 0) + quantity
  if (all > mostPieces) throw new Problem('not-a-count', { most: mostPieces }, { at: '/quantity' })
  if (there) return lines.map(one => (one === there ? { ...one, quantity: all } : one))
  if (lines.length >= mostLines) throw new Problem('basket-full')
  return [...lines, { product, quantity, seen: null }]
}

/** So many of a product; none takes it out. */
export const withCount = (lines: readonly KeptLine[], product: string, quantity: number): KeptLine[] =>
  lines.flatMap(one => (one.product !== product ? [one] : quantity ? [{ ...one, quantity }] : []))

/** Of two baskets, that of somebody signed in first: what lies in both counts as often as it lies in the fuller one, not twice. */
export function merged(own: readonly KeptLine[], guest: readonly KeptLine[]): KeptLine[] {
  const all = own.map(one => {
    const other = guest.find(({ product }) => product === one.product)
    return other && other.quantity > one.quantity ? { ...one, quantity: other.quantity } : one
  })
  const more = guest.filter(one => !own.some(({ product }) => product === one.product))
  return [...all, ...more].slice(0, mostLines)
}
