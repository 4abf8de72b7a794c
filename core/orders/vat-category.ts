/**
 * Under which category of value added tax a line of an invoice stands (UNTDID 5305, as EN 16931 uses it), and why nothing
 * is taken where nothing is.
 */
import type { AppliedRate, LeftOutRate } from '../tax/tax-trail'

/** S standard, Z zero rated, E exempt, AE owed by the buyer, G export, O outside the tax. */
export type VatCategory = 'S' | 'Z' | 'E' | 'AE' | 'G' | 'O'

export interface CategoryOfLine {
  category: VatCategory
  /** The operator's own words of why; else whoever prints it says the usual ones. */ reason?: string
}

/** Members of the European Union, by ISO 3166-1. */
const union = new Set('AT BE BG CY CZ DE DK EE ES FI FR GR HR HU IE IT LT LU LV MT NL PL PT RO SE SI SK'.split(' '))

interface Taxed {
  applied: readonly AppliedRate[]
  leftOut: readonly LeftOutRate[]
}
interface Between {
  /** Countries of ISO 3166-1. */ from: string
  to: string
}

/** Undefined where more than one tax stands on it: that is more than EN 16931 can say of a line. */
export function vatCategoryOf({ applied, leftOut }: Taxed, { from, to }: Between): CategoryOfLine | undefined {
  if (applied.length > 1) return undefined
  const [rate] = applied
  if (rate && Number(rate.percent) > 0) return { category: 'S' }
  if (rate?.owedBy) return { category: 'AE', ...reasonOf(rate) }
  if (union.has(from) && to !== '' && !union.has(to)) return { category: 'G' }
  if (rate) return { category: 'Z' }
  return { category: 'E', ...reasonOf(leftOut[0]) }
}

const reasonOf = (one: { reason?: string } | undefined) => (one?.reason ? { reason: one.reason } : {})

/** A seller who is known to no tax office takes no tax: none of the lines stands under any, where none is taken of one. */
export const outsideTax = (lines: readonly (CategoryOfLine | undefined)[]): boolean =>
  lines.every(one => one !== undefined && one.category !== 'S' && one.category !== 'AE')
