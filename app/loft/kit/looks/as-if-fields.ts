/** What somebody can be looked at as if, each with the words that lead to it and how its value is given. */
import { weekdays } from '~~/core/calendar'
import type { Rulebook } from '~~/core/rulebook/rulebook'
import type { Lexicon, Named } from '~~/core/sentences/lexicon'
import { countries, weekdayNames } from '~~/core/sentences/words'
import { asIfKeys } from '~~/core/visitor/as-if'
import type { AsIf, AsIfKey } from '~~/core/visitor/as-if'
import { asIfText, readAsIf } from './as-if-words'

/** `text` is typed into a field of that HTML type; `offered`, while typing, what fits of very many. */
interface AsIfField {
  lead: string
  type?: 'text' | 'number' | 'date' | 'time'
  placeholder?: string
  choices?(book: Rulebook): readonly Named[]
  offered?(lexicon: Lexicon): readonly Named[]
  firm?: true
  /** What was given, as it is kept; null where that is nothing. Default: under its key. */
  part?(value: string, more: { moneyDigits: number; quantity: number }): AsIf | null
}

const named = (list: readonly { id: string; name?: string }[] | undefined): Named[] =>
  (list ?? []).map(({ id, name }) => ({ id, name: name ?? id }))
const whole = (value: string) => (/^\d{1,9}$/.test(value) ? Number(value) : null)

/** Facts are given by what they are: apart, in the form. */
export const asIfFields: Record<AsIfKey, AsIfField> = {
  sign: {
    lead: 'is',
    choices: () => [
      { id: 'in', name: 'signed in' },
      { id: 'out', name: 'signed out' },
    ],
    part: value => ({ sign: value as 'in' | 'out' }),
  },
  level: { lead: 'holds the level', choices: book => named(book.levels) },
  role: { lead: 'holds the role', choices: book => named(book.roles?.filter(role => !role.staff)) },
  firm: { lead: 'belongs to the firm', firm: true },
  product: { lead: 'has bought', offered: ({ things }) => things.product },
  category: { lead: 'has bought from', offered: ({ things }) => things.category },
  orders: {
    lead: 'has ordered, times',
    type: 'number',
    part: value => (whole(value) === null ? null : { orders: whole(value)! }),
  },
  spent: {
    lead: 'has spent',
    type: 'number',
    part: (value, { moneyDigits }) =>
      /^\d{1,9}([.]\d+)?$/.test(value) ? { spent: Math.round(Number(value) * 10 ** moneyDigits) } : null,
  },
  basket: {
    lead: 'has in the basket',
    offered: ({ things }) => things.product,
    part: (basket, { quantity }) => ({ basket, quantity }),
  },
  fact: { lead: 'says of themselves', choices: book => named(book.facts) },
  date: { lead: 'asks on the day', type: 'date' },
  weekday: {
    lead: 'asks on a',
    choices: () => weekdays.map(id => ({ id, name: weekdayNames[id] })),
    part: value => ({ weekday: value as (typeof weekdays)[number] }),
  },
  time: { lead: 'asks at', type: 'time' },
  at: { lead: 'asks at the instant', type: 'text', placeholder: '2026-12-01T09:00:00Z' },
  device: { lead: 'uses', choices: () => named([{ id: 'phone' }, { id: 'tablet' }, { id: 'desktop' }]) },
  browser: { lead: 'uses the browser', type: 'text', placeholder: 'firefox' },
  country: { lead: 'is in', choices: () => [...countries()].sort((a, b) => a.name.localeCompare(b.name, 'en')) },
  region: { lead: 'is in the region', type: 'text', placeholder: 'ES-CN' },
  language: { lead: 'reads', type: 'text', placeholder: 'es' },
  referrer: { lead: 'comes from', type: 'text', placeholder: 'https://…' },
  address: { lead: 'has the address', type: 'text', placeholder: '192.0.2.7' },
}

/** In the order in which they are offered; an instant is given by day and time. */
export const offeredAsIf: readonly AsIfKey[] = asIfKeys.filter(key => key !== 'at')

/** A part as it was given in the form; null where it is not whole yet. */
export function asIfPart(
  key: AsIfKey,
  value: string,
  more: { moneyDigits: number; quantity: number; fact: string | number | boolean },
): AsIf | null {
  const text = value.trim()
  if (!text) return null
  if (key === 'fact') return { fact: text, value: more.fact }
  const made = asIfFields[key].part
  // What the address of a look cannot say again is none.
  const part = made ? made(text, more) : ({ [key]: text } as AsIf)
  return part && readAsIf(asIfText([part])) ? part : null
}
