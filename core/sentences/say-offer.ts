/** Offers as sentences, which `readOffer` of `read-offer.ts` understands again. */
import type { Condition } from '../conditions/condition'
import type { Off, Offer, ShopScope } from '../rulebook/shop-rules'
import { everyone } from '../shop/offer'
import type { Lexicon } from './lexicon'
import { quoted, written } from './lexicon'
import { sayText } from './say'

export interface SaidOffer {
  who: string
  on: string
  /** Each with where it begins and ends, where it is not for every piece. */ bands: { off: string; when: string }[]
  bonus?: string
  /** What is counted, where something is. */ counted?: string
  /** What it is taken off, where that is not the price as it is at the moment. */ base?: string
  code?: string
}

/** Amounts are written with a point and as many digits as the currency has. */
export const plainMoney = (minor: number, { moneyDigits }: Pick<Lexicon, 'moneyDigits'>): string =>
  (minor / 10 ** moneyDigits).toFixed(moneyDigits)

export function sayOff(off: Off, lexicon: Pick<Lexicon, 'moneyDigits'>): string {
  if ('percent' in off) return `${String(Number(off.percent))} % off`
  return 'amount' in off ? `-${plainMoney(off.amount, lexicon)}` : `= ${plainMoney(off.price, lexicon)}`
}

export function sayShopScope(scope: ShopScope, lexicon: Lexicon): string {
  if ('shop' in scope) return 'the whole shop'
  return 'categories' in scope
    ? scope.categories.map(id => written(lexicon.things.category, id)).join(', ')
    : scope.products.map(id => `only ${written(lexicon.things.product, id)}`).join(', ')
}

function sayBand({ from = 1, to }: Offer['bands'][number], by: Offer['by'], lexicon: Lexicon): string {
  const said = (n: number) => (by === 'spend' ? plainMoney(n, lexicon) : String(n))
  return to === undefined ? `from ${said(from)}` : `from ${said(from)} to ${said(to)}`
}

function sayCounted({ by = 'each', on, counts = on }: Offer, lexicon: Lexicon): string | undefined {
  if (by === 'product') return 'counted over all colours'
  if (by === 'variant') return 'counted over each colour'
  if (by === 'category') return `counted over ${sayShopScope(counts, lexicon)}`
  if (by !== 'spend') return undefined
  const same = JSON.stringify(counts) === JSON.stringify(on)
  return same ? 'by the basket' : `by the basket counted over ${sayShopScope(counts, lexicon)}`
}

const baseWords = {
  current: undefined,
  regular: 'off the regular price',
  unlessOnSale: 'not on goods on sale',
} as const

export function sayOfferParts(offer: Omit<Offer, 'id'>, lexicon: Lexicon): SaidOffer {
  const { for: who = everyone, on, by = 'each', base = 'current', bonus, code } = offer
  const counted = sayCounted(offer as Offer, lexicon)
  return {
    who: sayText(who as Condition, lexicon),
    on: sayShopScope(on, lexicon),
    bands: offer.bands.map(band => ({
      off: sayOff(band.off, lexicon),
      when: by === 'each' ? '' : sayBand(band, by, lexicon),
    })),
    ...(bonus ? { bonus: `buy ${bonus.buy} get ${bonus.get}` } : {}),
    ...(counted ? { counted } : {}),
    ...(baseWords[base] ? { base: baseWords[base] } : {}),
    ...(code === undefined ? {} : { code: `with code ${quoted(code)}` }),
  }
}

/** The whole of it, to be read or typed back: “Stockists; Yarn: 15 % off from 10 to 49, 20 % off from 50; counted over all colours”. */
export function sayOffer(offer: Omit<Offer, 'id'>, lexicon: Lexicon): string {
  const { who, on, bands, bonus, counted, base, code } = sayOfferParts(offer, lexicon)
  const steps = bands.map(({ off, when }) => (when ? `${off} ${when}` : off)).join(', ')
  const stack = offer.combine === 'stack' ? 'on top of others' : undefined
  return [`${who}; ${on}: ${[bonus, steps].filter(Boolean).join(', ')}`, counted, base, stack, code]
    .filter(Boolean)
    .join('; ')
}
