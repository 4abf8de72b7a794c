/** Places, rates and terms of taxes as the console says them, and reads them back. */
import type { ReceiptDifference, ReceiptSource } from '~~/core/audit/receipt-differences'
import { andWords } from '~~/core/sentences/and-words'
import { countries } from '~~/core/sentences/words'
import type { Place } from '~~/core/site/place'

export const allCountries = countries()

/** What was typed as a place: a country by name or code, or a region, then beginnings of postcodes. Null for anything else. */
export function readPlace(text: string): Place | null {
  const typed = text.trim().replace(/,?\s*\bpostcodes?\b\s*/i, ' | ')
  if (!typed || /^(anywhere|anywhere else|everywhere)$/i.test(typed)) return typed ? {} : null
  const [area = '', codes = ''] = typed.split('|').map(one => one.trim())
  const region = /^([A-Za-z]{2})-([A-Za-z0-9]{1,3})$/.exec(area)
  const country = region
    ? region[1]!.toUpperCase()
    : allCountries.find(one => one.id === area.toUpperCase() || one.name.toLowerCase() === area.toLowerCase())?.id
  if (!country || !allCountries.some(one => one.id === country)) return null
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
