/** Taxes, other terms of tax and ways of delivery as sentences. */
import { called } from './names'
import type { Rulebook } from '../rulebook/rulebook'
import type { GoodsEntry, ShownEntry } from '../tax/compiled-tax'
import type { TaxSettings } from '../tax/tax-settings'
import type { Exception } from '../tax/terms'
import { andWords } from './and-words'
import { rateName } from './lexicon'
import type { Lexicon } from './lexicon'
import { placeName } from './place-name'
import { sayText } from './say'
import { sayShopScope } from './say-offer'

/** Other terms for some, of one of the three sorts. */
export type Term =
  { kind: 'exception'; one: Exception } | { kind: 'goods'; one: GoodsEntry } | { kind: 'shown'; one: ShownEntry }
type Rate = NonNullable<NonNullable<Rulebook['tax']>['rates']>[number]
type Tax = NonNullable<NonNullable<Rulebook['tax']>['taxes']>[number]

/** Where prices show, and how that is said. */
export const showingSpots = { list: 'in lists', basket: 'in the basket', pay: 'when paying' } as const
export const showingWords = { withTax: 'with tax', withoutTax: 'without tax' } as const
const spots = Object.keys(showingSpots) as (keyof typeof showingSpots)[]

const onTop = (taxes: readonly string[], lexicon: Lexicon) =>
  `on top of ${taxes.length ? andWords(taxes.map(id => called(lexicon.taxes, id))) : 'nothing'}`
const taxedOrNot = { taxed: 'taxed', free: 'not taxed' } as const

function sayException(
  { percent, called: as, delivery, none, rate, onTopOf, owedBy }: Exception,
  lexicon: Lexicon,
): string {
  const usual = called(lexicon.rates, rate)
  if (none) return `are not taxed, instead of ${usual}`
  if (owedBy) return `owe ${usual} themselves, and pay it to the state${as ? `, called ${as}` : ''}`
  const parts = [
    percent === undefined ? `pay ${usual}` : `pay ${percent} % instead of ${usual}`,
    as ? `called ${as}` : '',
    onTopOf ? onTop(onTopOf, lexicon) : '',
  ]
  const sent = delivery === undefined ? '' : `; delivery is ${taxedOrNot[delivery]}`
  return parts.filter(Boolean).join(', ') + sent
}

function sayGoods({ on, goodsTaxed, deliveryTaxed, category }: GoodsEntry, lexicon: Lexicon): string {
  const goods = sayShopScope(on, lexicon)
  const parts = [
    goodsTaxed === undefined ? '' : goodsTaxed ? `pay tax for ${goods}` : `are not taxed for ${goods}`,
    category === undefined ? '' : `are taxed for ${goods} as ${category}`,
    deliveryTaxed === undefined ? '' : `are ${deliveryTaxed ? '' : 'not '}taxed for sending ${goods}`,
  ].filter(Boolean)
  return parts.join(', ') || `pay for ${goods} as everybody`
}

type How = Pick<ShownEntry, 'list' | 'basket' | 'pay' | 'taxLines' | 'note'>
function sayShowing(how: How): string[] {
  const { taxLines, note } = how
  const seen = (['withoutTax', 'withTax'] as const).flatMap(showing => {
    const where = spots.filter(spot => how[spot] === showing).map(spot => showingSpots[spot])
    return where.length ? [`see prices ${showingWords[showing]} ${andWords(where)}`] : []
  })
  return [
    ...seen,
    note === undefined ? '' : note ? `with the words “${note}”` : 'without words behind them',
    taxLines === undefined ? '' : `with taxes ${taxLines === 'each' ? 'told each' : 'in one'}`,
  ].filter(Boolean)
}

/** What terms say, behind whom they are for: “pay 9 % instead of 23 % on standard in Ireland”. */
export function sayTerm({ kind, one }: Term, lexicon: Lexicon): string {
  if (kind === 'exception') return sayException(one, lexicon)
  if (kind === 'goods') return sayGoods(one, lexicon)
  return sayShowing(one).join(', ') || 'see prices as everybody'
}

/** What terms are called: by the operator, else by whom they are for. */
export const termName = (one: Term['one'], lexicon: Lexicon): string =>
  one.name ?? `terms for ${sayText(one.for, lexicon)}`

/** The same by id, of any of the three sorts. */
export function termCalled(tax: Rulebook['tax'], id: string, lexicon: Lexicon): string {
  const { exceptions = [], goods = [], shown = [] } = tax ?? {}
  const found = [...exceptions, ...goods, ...shown].find(one => one.id === id)
  return found ? termName(found, lexicon) : id
}

const kept = (parts: Record<string, boolean>, as: string): string => {
  const left = Object.entries(parts).flatMap(([words, isLeft]) => (isLeft ? [words] : []))
  return left.length ? `${andWords(left)} ${as}` : ''
}
/** What terms leave as it was; nothing where they leave nothing. */
export function keptOfTerm({ kind, one }: Term, lexicon: Lexicon): string {
  if (kind === 'exception') {
    const parts = {
      'its percentage': one.percent === undefined,
      'its name': one.called === undefined,
      delivery: one.delivery === undefined,
      'what it is reckoned on': one.onTopOf === undefined && lexicon.taxes.length > 1,
    }
    return one.none || one.owedBy ? '' : kept(parts, 'as the rate says')
  }
  if (kind === 'goods')
    return kept(
      {
        'whether they are taxed': one.goodsTaxed === undefined,
        'their category': one.category === undefined,
        'whether sending them is': one.deliveryTaxed === undefined,
      },
      'as the goods say',
    )
  return kept(
    {
      'in lists': one.list === undefined,
      'in the basket': one.basket === undefined,
      'when paying': one.pay === undefined,
      taxes: one.taxLines === undefined,
      'the words behind a price': one.note === undefined,
    },
    'as for everybody',
  )
}

/** “VAT 7 % on standard in Spain, postcodes 35, 38; delivery is not taxed”. */
export const sayRate = (rate: Rate, { taxes }: Lexicon): string =>
  `${called(taxes, rate.tax)} ${rateName(rate)}${rate.delivery ? `; delivery is ${taxedOrNot[rate.delivery]}` : ''}`

export const sayTax = ({ id, name = id, onTopOf = [] }: Tax, lexicon: Lexicon): string =>
  onTopOf.length ? `${name}, ${onTop(onTopOf, lexicon)}` : name

export function sayTaxSettings({ typed, origin, place, keepGross, deliveryCategory, shown }: TaxSettings): string {
  return [
    `Prices typed ${showingWords[typed]}, at home in ${placeName(origin)}`,
    `taxed ${place === 'origin' ? 'all at home' : 'where they are sent'}`,
    keepGross ? 'with tax the same everywhere' : '',
    deliveryCategory ? `delivery as ${deliveryCategory}` : '',
    shown ? ['all', ...sayShowing(shown)].join(' ') : '',
  ]
    .filter(Boolean)
    .join('; ')
}
