/** One change of many prices at once, exactly: by a part of a hundred, by an amount, or to an amount. */
import Big from 'big.js'

/** `percent`: written, such as `-7.5`. `amount`: minor units, more or less. `price`: minor units. */
export type PriceChange = { percent: string } | { amount: number } | { price: number }

/**
 * What a price becomes, in minor units; half a unit goes up. Never below nothing. `step`: it ends on a multiple of so many
 * minor units, the nearest one, such as 5 for amounts that end in 0 or 5; default 1.
 */
export function changedPrice(price: number, change: PriceChange, step = 1): number {
  if ('price' in change) return change.price
  const moved =
    'amount' in change
      ? new Big(price).plus(change.amount)
      : new Big(price).times(new Big(change.percent).plus(100)).div(100)
  const stepped = moved.div(step).round(0, Big.roundHalfUp).times(step)
  return Math.max(0, stepped.toNumber())
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
