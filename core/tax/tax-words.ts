/** Taxes and receipts in English, for screens and the shell. Amounts are said by whoever knows the currency. */
import type { Money } from '../shop/trail-words'
import type { Address } from '../site/place'
import type { Receipt, ReceiptTax } from './receipt'
import type { AppliedRate, LeftOutRate, TaxTrail } from './tax-trail'

/** “VAT 13.5 %”; of several summed up, “tax”. */
const taxName = ({ called, percent }: Pick<ReceiptTax, 'called' | 'percent'>): string =>
  [called || 'tax', percent === undefined ? '' : `${percent} %`].filter(Boolean).join(' ')

/** “ES-CT 08001”: a region names its country. */
export const addressWords = ({ country, region, postcode }: Address): string =>
  [region ?? country, postcode].filter(Boolean).join(' ')

/** Reads what `addressWords` says: a country or region of ISO 3166, then perhaps a postcode. Null for anything else. */
export function readAddress(text: string): Address | null {
  const [area = '', ...rest] = text.trim().split(/\s+/)
  const found = /^([A-Z]{2})(-[A-Z0-9]{1,3})?$/.exec(area.toUpperCase())
  if (!found) return null
  const postcode = rest.join(' ')
  return { country: found[1]!, ...(found[2] ? { region: found[0] } : {}), ...(postcode ? { postcode } : {}) }
}

/** What a trail's ids are called: of other terms and of rates. */
export interface TrailNames {
  term(id: string): string
  rate(id: string): string
}
const asItIs = (id: string) => id
const byId: TrailNames = { term: asItIs, rate: asItIs }

/** A rate that applies, with what it is on top of and who has it so. */
function appliedWords(
  { called, percent, contribution, onTopOf, exception, owedBy }: AppliedRate,
  others: readonly AppliedRate[],
  { rate, term }: TrailNames,
): string {
  const below = onTopOf.map(id => others.find(one => one.rate === id)?.called ?? rate(id))
  const onTop = below.length ? `, on top of ${below.join(' and ')}: ${contribution} % in all` : ''
  if (owedBy) return `${called} is owed by the buyer${exception ? ` (by ${term(exception)})` : ''}`
  return `${called} ${percent} %${onTop}${exception ? ` (by ${term(exception)})` : ''}`
}
const leftOutWords = ({ rate: id, why, exception }: LeftOutRate, { rate, term }: TrailNames): string =>
  `${why === 'dropped' ? `${rate(id)} does not apply` : `delivery is free of ${rate(id)}`}${exception ? ` (by ${term(exception)})` : ''}`

/** How the tax of a line came about, a line for each thing that bore on it. `names`: default, ids. */
export function taxTrailLines(
  { goodsTaxed, category, applied, leftOut, inside, kept, at }: TaxTrail,
  names: TrailNames = byId,
): string[] {
  const by = (entry: string | undefined) => (entry ? ` (by ${names.term(entry)})` : '')
  if (!goodsTaxed.is) return [`not taxed${by(goodsTaxed.entry)}`]
  return [
    `${category.is}${by(category.entry)}, sent to ${addressWords(at)}`,
    ...ratesWords({ applied, leftOut }, names),
    ...(inside === undefined
      ? []
      : [kept ? `typed with tax, and paid as typed` : `${inside} % of tax taken out of what was typed`]),
  ]
}

const ratesWords = ({ applied, leftOut }: Pick<TaxTrail, 'applied' | 'leftOut'>, names: TrailNames) =>
  applied.length || leftOut.length
    ? [...applied.map(one => appliedWords(one, applied, names)), ...leftOut.map(one => leftOutWords(one, names))]
    : ['no rate for it there']

/** The same of delivery; `trail` is null where nothing in the basket asks for it to be taxed. */
export const deliveryTrailLines = (
  trail: Pick<TaxTrail, 'at' | 'applied' | 'leftOut'> | null,
  names: TrailNames = byId,
): string[] =>
  trail
    ? [`delivery, sent to ${addressWords(trail.at)}`, ...ratesWords(trail, names)]
    : ['not taxed: nothing in it asks for it']

/** From the top to what is paid. `name`: of a product. */
export function receiptLines(
  receipt: Receipt,
  { name, money }: { name(product: string): string; money: Money },
): string[] {
  const { lines, discount, delivery, taxes, gross, showing } = receipt
  return [
    ...lines.map(({ product, quantity, amount }) => `${quantity} × ${name(product)}: ${money(amount)}`),
    ...(discount ? [`discount: ${money(-discount)}`] : []),
    ...(delivery ? [`delivery: ${money(delivery)}`] : []),
    ...taxes.map(one => `${showing === 'withTax' ? 'of which' : 'plus'} ${taxName(one)}: ${money(one.amount)}`),
    `= ${money(gross)}`,
  ]
}
