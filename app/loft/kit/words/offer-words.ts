import type { Off, Offer } from '~~/core/rulebook/shop-rules'
import { plainMoney } from '~~/core/sentences/say-offer'

/** Of what sort of reduction it is, and which of them stays right when prices move. */
export const offSort = (off: Off): 'percent' | 'amount' | 'price' =>
  'percent' in off ? 'percent' : 'amount' in off ? 'amount' : 'price'

export const offAdvice: Record<ReturnType<typeof offSort>, string> = {
  percent: 'A percentage follows every change of the price, and every sale.',
  amount: 'An amount off follows a change of the price; it stays the same however dear the goods are.',
  price:
    'A set price stays where it is: look at it again whenever the price or a sale changes. Whichever is lower is paid.',
}

export const baseChoices = [
  { value: 'current', label: 'off the sale price too', short: 'sale price too' },
  { value: 'regular', label: 'off the regular price', short: 'regular price' },
  { value: 'unlessOnSale', label: 'not on goods on sale', short: 'leave them out' },
] as const
export const baseAdvice: Record<NonNullable<Offer['base']>, string> = {
  current: 'Whatever a sale takes off, this comes off besides.',
  regular: 'Sale or this, whichever is lower: nothing is taken off twice.',
  unlessOnSale: 'Goods on sale stay at their sale price, and do not count.',
}

export const countChoices = [
  { value: 'each', label: 'nothing: every piece' },
  { value: 'variant', label: 'this colour' },
  { value: 'product', label: 'all its colours' },
  { value: 'category', label: 'all it is on' },
  { value: 'spend', label: 'the whole basket' },
] as const

/** What stands under a price on the board: what made it. */
export function causeWords(
  { won, onSale, regular, unit }: { won: readonly string[]; onSale: boolean; regular: number; unit: number | null },
  { offers, quantity, moneyDigits }: { offers: ReadonlyMap<string, Offer>; quantity: number; moneyDigits: number },
): string {
  if (won.length > 1) return `${won.length} offers`
  const offer = offers.get(won[0] ?? '')
  if (!offer) return onSale ? `was ${plainMoney(regular, { moneyDigits })}` : ''
  const band = offer.bands.find(({ from = 1, to = Infinity }) => from <= quantity && quantity <= to) ?? offer.bands[0]
  const off = band && 'percent' in band.off ? `−${Number(band.off.percent)} %` : ''
  if (off) return onSale && (offer.base ?? 'current') === 'current' ? `${off} of sale` : off
  return unit !== null && regular > 0 ? `−${Math.round((1 - unit / regular) * 1000) / 10} %` : ''
}

/** Of a name so much makes its id. */
export const longestId = 60
