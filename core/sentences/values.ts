/** Values as English writes them: dates, money, lengths of time, comparisons. */
import { durationParts, durationUnits, isDate } from '../calendar'
import type { Comparison, FactValue } from '../conditions/leaves/comparison'
import { quoted } from './lexicon'
import { monthNames } from './words'

export const listed = (list: readonly string[]) => list.join(', ')

/** A text that is no name: bare where nothing else could be meant. */
export const bare = (text: string) =>
  /^[a-z0-9][a-z0-9_.:/-]*$/i.test(text) && !/[.,:/-]$/.test(text) ? text : quoted(text)

export function comparisonTexts({ is, in: list, atLeast, atMost }: Comparison): string[] {
  return [
    ...(is === undefined ? [] : [`is ${valueText(is)}`]),
    ...(list === undefined ? [] : [`is one of ${listed(list.map(valueText))}`]),
    ...(atLeast === undefined ? [] : [`at least ${valueText(atLeast)}`]),
    ...(atMost === undefined ? [] : [`at most ${valueText(atMost)}`]),
  ]
}

function valueText(value: FactValue): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'number') return String(value)
  return isDate(value) ? dateText(value) : quoted(value)
}

/** `2026-11-01` as `1 Nov 2026`. */
export function dateText(date: string): string {
  const [year, month, day] = date.split('-') as [string, string, string]
  return `${Number(day)} ${monthNames[Number(month) - 1]} ${year}`
}

/** A sum in minor units with the currency's digits. */
export function moneyText(minor: number, digits: number): string {
  if (digits === 0) return String(minor)
  const padded = String(minor).padStart(digits + 1, '0')
  return `${padded.slice(0, -digits)}.${padded.slice(-digits)}`
}

export function durationText(iso: string): string {
  const parts = durationParts(iso) ?? []
  return parts
    .flatMap((digits, i) =>
      digits === undefined ? [] : [`${digits} ${durationUnits[i]}${Number(digits) === 1 ? '' : 's'}`],
    )
    .join(' ')
}
