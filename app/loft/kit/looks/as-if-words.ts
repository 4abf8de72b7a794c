/** What somebody is looked at as if they were, held or came with: in words, and in the address of the board. */
import { weekdays } from '~~/core/calendar'
import type { Weekday } from '~~/core/calendar'
import type { Lexicon, Named } from '~~/core/sentences/lexicon'
import { dateText, moneyText } from '~~/core/sentences/values'
import { countries, weekdayNames } from '~~/core/sentences/words'
import { asIfKeyOf, asIfKeys } from '~~/core/visitor/as-if'
import type { AsIf, AsIfKey } from '~~/core/visitor/as-if'

const called = (list: readonly Named[], id: string) => list.find(one => one.id === id)?.name ?? id

const words: { [K in AsIfKey]: (value: never, lexicon: Lexicon, part: AsIf) => string } = {
  sign: (value: 'in' | 'out') => (value === 'in' ? 'signed in' : 'signed out'),
  level: (id: string, { levels }) => called(levels, id),
  role: (id: string, { roles }) => called(roles, id),
  firm: (id: string, { firms }) => `in the firm ${called(firms, id)}`,
  product: (id: string, { things }) => `has bought ${called(things.product, id)}`,
  category: (id: string, { things }) => `has bought from ${called(things.category, id)}`,
  orders: (count: number) => `has ordered ${count} ${count === 1 ? 'time' : 'times'}`,
  spent: (minor: number, { moneyDigits }) => `has spent ${moneyText(minor, moneyDigits)}`,
  basket: (id: string, { things }, part) => {
    const { quantity } = part as { quantity: number }
    return `with ${quantity} of ${called(things.product, id)} in the basket`
  },
  fact: (id: string, { facts }, part) => {
    const { value } = part as { value: string | number | boolean }
    return value === true ? called(facts, id) : `${called(facts, id)}: ${String(value)}`
  },
  date: (value: string) => `on ${dateText(value)}`,
  weekday: (value: Weekday) => `on a ${weekdayNames[value]}`,
  time: (value: string) => `at ${value}`,
  at: (value: string) => `on ${dateText(value.slice(0, 10))}`,
  device: (value: string) => `on a ${value}`,
  browser: (value: string) => `with ${value}`,
  country: (code: string) => `in ${called(countries(), code)}`,
  region: (code: string) => `in ${code}`,
  language: (tag: string) => `reading ${tag}`,
  referrer: (from: string) => `coming from ${from}`,
  address: (address: string) => `from the address ${address}`,
}

/** “Maker, on 1 Dec 2026”. */
export const asIfWords = (parts: readonly AsIf[], lexicon: Lexicon): string =>
  parts
    .map(part => {
      const key = asIfKeyOf(part)
      return words[key]((part as unknown as Record<string, never>)[key]!, lexicon, part)
    })
    .join(', ')

/** As it stands in an address: `level:maker,date:2026-12-01`. */
export const asIfText = (parts: readonly AsIf[]): string =>
  parts
    .map(part => {
      const key = asIfKeyOf(part)
      const value = (part as unknown as Record<string, unknown>)[key]
      const more = 'value' in part ? [JSON.stringify(part.value)] : 'quantity' in part ? [String(part.quantity)] : []
      return [key, ...[String(value), ...more].map(encodeURIComponent)].join(':')
    })
    .join(',')

/** Back from an address; null where that is not how one is written. */
export function readAsIf(text: string): AsIf[] | null {
  const parts = text.split(',').map(readPart)
  return parts.every(part => part !== null) ? (parts as AsIf[]) : null
}

function readPart(text: string): AsIf | null {
  const [key, ...rest] = text.split(':')
  // Written by hand, a time has a colon of its own.
  const values = key === 'fact' || key === 'basket' ? rest : rest.length ? [rest.join(':')] : []
  if (!asIfKeys.includes(key as AsIfKey)) return null
  try {
    const [value, more] = values.map(decodeURIComponent)
    if (!value) return null
    if (key === 'sign' && value !== 'in' && value !== 'out') return null
    if (key === 'weekday' && !weekdays.includes(value as Weekday)) return null
    if (key === 'date' && Number.isNaN(Date.parse(`${value}T00:00:00Z`))) return null
    if (key === 'time' && !/^\d\d:\d\d$/.test(value)) return null
    if (key === 'at' && Number.isNaN(Date.parse(value))) return null
    if (key === 'orders' || key === 'spent') return /^\d{1,15}$/.test(value) ? ({ [key]: Number(value) } as AsIf) : null
    if (key === 'basket')
      return /^[1-9]\d{0,5}$/.test(more ?? '1') ? { basket: value, quantity: Number(more ?? '1') } : null
    if (key !== 'fact') return { [key!]: value } as AsIf
    return { fact: value, value: JSON.parse(more ?? 'true') as string | number | boolean }
  } catch {
    return null
  }
}
