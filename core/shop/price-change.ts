/** One change of many prices at once, exactly: by a part of a hundred, by an amount, or to an amount. */
import { decimal, Fraction, rounded } from '../exact'

/** `percent`: written, such as `-7.5`. `amount`: minor units, more or less. `price`: minor units. */
export type PriceChange = { percent: string } | { amount: number } | { price: number }

/**
 * What a price becomes, in minor units; half a unit goes up. Never below nothing. `step`: it ends on a multiple of so many
 * minor units, the nearest one, such as 5 for amounts that end in 0 or 5; default 1.
 */
export function changedPrice(price: number, change: PriceChange, step = 1): number {
  if ('price' in change) return change.price
  const moved =
    'amount' in change ? new Fraction(price).add(change.amount) : decimal(change.percent).add(100).div(100).mul(price)
  return Math.max(0, rounded(moved.div(step)) * step)
}

/** What was typed as a change, such as `+5 %`, `-0.50` or `12.90`; null where it is none. `readAmount` reads an amount without a sign. */
export function readPriceChange(typed: string, readAmount: (text: string) => number | null): PriceChange | null {
  const text = typed.trim().replace('−', '-').replace(',', '.')
  const percent = /^([+-]?)\s*(\d{1,4}(?:\.\d{1,4})?)\s*%$/.exec(text)
  if (percent) return { percent: `${percent[1] === '-' ? '-' : ''}${percent[2]}` }
  const sign = /^[+-]/.exec(text)?.[0]
  const amount = readAmount((sign ? text.slice(1) : text).trim())
  if (amount === null) return null
  if (!sign) return { price: amount }
  return { amount: sign === '-' ? -amount : amount }
}
