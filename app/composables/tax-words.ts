/** Places, rates and terms of taxes as the console says them, and reads them back. */
import type { Exception } from '~~/core/tax/terms'
import type { GoodsEntry, ShownEntry } from '~~/core/tax/compiled-tax'
import type { Place } from '~~/core/site/place'
import type { ReceiptDifference, ReceiptSource } from '~~/core/audit/receipt-differences'
import { countries } from '~~/core/sentences/words'
import { andWords } from '~~/core/texts/and-words'

export const allCountries = countries()
const known = allCountries
export const countryName = (code: string): string => known.find(one => one.id === code)?.name ?? code

/** “Spain, postcodes 35, 38”; “US-OR”; “anywhere else”. */
export { placesOf as placesIn } from '~~/core/audit/tax-board'

export function placeName({ country, region, startsWith }: Place): string {
  const area = region ?? (country === undefined ? '' : countryName(country))
  const codes = startsWith?.length ? `postcodes ${startsWith.join(', ')}` : ''
  return [area, codes].filter(Boolean).join(', ') || 'anywhere else'
}

/** What was typed as a place: a country by name or code, or a region, then beginnings of postcodes. Null for anything else. */
export function readPlace(text: string): Place | null {
  const typed = text.trim().replace(/,?\s*\bpostcodes?\b\s*/i, ' | ')
  if (!typed || /^(anywhere|anywhere else|everywhere)$/i.test(typed)) return typed ? {} : null
  const [area = '', codes = ''] = typed.split('|').map(one => one.trim())
  const region = /^([A-Za-z]{2})-([A-Za-z0-9]{1,3})$/.exec(area)
  const country = region
    ? region[1]!.toUpperCase()
    : known.find(one => one.id === area.toUpperCase() || one.name.toLowerCase() === area.toLowerCase())?.id
  if (!country || !known.some(one => one.id === country)) return null
  const startsWith = codes.split(/[,\s]+/).filter(Boolean)
  return {
    country,
    ...(region ? { region: area.toUpperCase() } : {}),
    ...(startsWith.length ? { startsWith } : {}),
  }
}

/** A percentage as people type it: with point or comma, with the sign or without. Null for what is none, or finer than rules are. */
export function readPercent(text: string): string | null {
  const typed = text.trim().replace(/\s*%$/, '').replace(',', '.')
  if (!/^\d{1,5}(\.\d{1,4})?$/.test(typed) || Number(typed) > 10_000) return null
  return typed.includes('.') ? typed.replace(/0+$/, '').replace(/\.$/, '') : String(Number(typed))
}

/** Where prices show, and how that is said. */
export const showingSpots = { list: 'in lists', basket: 'in the basket', pay: 'when paying' } as const
export const showingWords = { withTax: 'with tax', withoutTax: 'without tax' } as const

/** What terms say, behind whom they are for. `rateWords`: of a rate; `scope`: of goods. */
export function termWords(
  term: { kind: 'exception'; one: Exception } | { kind: 'goods'; one: GoodsEntry } | { kind: 'shown'; one: ShownEntry },
  { rateWords, scope }: { rateWords(id: string): string; scope(of: GoodsEntry['on']): string },
): string {
  if (term.kind === 'exception') {
    const { percent, called, delivery, none, rate, onTopOf } = term.one
    if (none) return `are not taxed, instead of ${rateWords(rate)}`
    const parts = [
      percent === undefined ? `pay ${rateWords(rate)}` : `pay ${percent} % instead of ${rateWords(rate)}`,
      called ? `called ${called}` : '',
      onTopOf ? (onTopOf.length ? `on top of ${onTopOf.join(' and ')}` : 'on top of nothing') : '',
    ]
    const sent = delivery === undefined ? '' : `; delivery is ${delivery === 'free' ? 'not taxed' : 'taxed'}`
    return parts.filter(Boolean).join(', ') + sent
  }
  if (term.kind === 'goods') {
    const { on, goodsTaxed, deliveryTaxed, category } = term.one
    const parts = [
      goodsTaxed === undefined ? '' : goodsTaxed ? `pay tax for ${scope(on)}` : `are not taxed for ${scope(on)}`,
      category === undefined ? '' : `are taxed for ${scope(on)} as ${category}`,
      deliveryTaxed === undefined ? '' : `are ${deliveryTaxed ? '' : 'not '}taxed for sending ${scope(on)}`,
    ].filter(Boolean)
    return parts.join(', ') || `pay for ${scope(on)} as everybody`
  }
  const { taxLines, note } = term.one
  const { one: how } = term
  const places = (showing: string) =>
    (['list', 'basket', 'pay'] as const).flatMap(spot => (how[spot] === showing ? [showingSpots[spot]] : []))
  const seen = (['withoutTax', 'withTax'] as const).flatMap(showing =>
    places(showing).length ? [`see prices ${showingWords[showing]} ${andWords(places(showing))}`] : [],
  )
  const parts = [
    ...seen,
    note === undefined ? '' : note ? `with the words “${note}”` : 'without words behind them',
    taxLines === undefined ? '' : `with taxes ${taxLines === 'each' ? 'told each' : 'in one'}`,
  ].filter(Boolean)
  return parts.join(', ') || 'see prices as everybody'
}

/** What an exception leaves as the rate says. */
export function keptOfException({ percent, called, onTopOf, delivery, none }: Exception): string {
  if (none) return ''
  const kept = [
    percent === undefined ? 'its percentage' : '',
    called === undefined ? 'its name' : '',
    onTopOf === undefined ? 'what it is on top of' : '',
    delivery === undefined ? 'delivery' : '',
  ].filter(Boolean)
  return kept.length ? `${andWords(kept)} as the rate says` : ''
}
export function keptOfGoods({ goodsTaxed, deliveryTaxed, category }: GoodsEntry): string {
  const kept = [
    goodsTaxed === undefined ? 'whether they are taxed' : '',
    category === undefined ? 'their category' : '',
    deliveryTaxed === undefined ? 'whether sending them is' : '',
  ].filter(Boolean)
  return kept.length ? `${andWords(kept)} as the goods say` : ''
}
export function keptOfShown({ list, basket, pay, taxLines, note }: ShownEntry): string {
  const kept = [
    list === undefined ? 'in lists' : '',
    basket === undefined ? 'in the basket' : '',
    pay === undefined ? 'when paying' : '',
    taxLines === undefined ? 'taxes' : '',
    note === undefined ? 'the words behind a price' : '',
  ].filter(Boolean)
  return kept.length ? `${andWords(kept)} as for everybody` : ''
}

/** “5.21 by the school rate, 1.15 as delivery is taxed otherwise”. */
export function differenceWords(
  { about, amount, sources }: ReceiptDifference,
  { money, nameOf }: { money(minor: number): string; nameOf(source: ReceiptSource): string },
): string {
  const how = money(Math.abs(amount))
  const by = sources.map(nameOf)
  const named = by.length ? ` by ${andWords(by)}` : ''
  const more = amount > 0 ? 'more' : 'less'
  if (about === 'refused') return `${how} ${more}, since one of them may not buy ${andWords(by)}`
  if (about === 'delivery') return `${how} ${more} for delivery${named}`
  if (about === 'deliveryTax') return `${how} ${more} of tax on delivery${named}`
  return `${how} ${more}${about === 'tax' ? ' of tax' : ''}${named || (about === 'tax' ? ', by rounding' : '')}`
}
