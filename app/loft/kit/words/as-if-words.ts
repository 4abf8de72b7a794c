/** What somebody can be looked at as if they were, held or came with: each with the words that lead to it, how its value is given, and how it is said. */
import { weekdays } from '~~/core/calendar'
import type { Rulebook } from '~~/core/rulebook/rulebook'
import type { Lexicon, Named } from '~~/core/sentences/lexicon'
import { called } from '~~/core/sentences/names'
import { dateText, moneyText } from '~~/core/sentences/values'
import { countries, weekdayNames } from '~~/core/sentences/words'
import { asIfKeyOf, asIfKeys, asIfText, readAsIf } from '~~/core/visitor/as-if'
import type { AsIf, AsIfKey } from '~~/core/visitor/as-if'

type PartOf<K extends AsIfKey> = Extract<AsIf, Record<K, unknown>>
type ValueOf<K extends AsIfKey> = PartOf<K>[K & keyof PartOf<K>]

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
interface AsIfWords<K extends AsIfKey> extends AsIfField {
  /** “in Spain”, as one of several between commas. */
  say(value: ValueOf<K>, lexicon: Lexicon, part: PartOf<K>): string
}

const named = (list: readonly { id: string; name?: string }[] | undefined): Named[] =>
  (list ?? []).map(({ id, name }) => ({ id, name: name ?? id }))
const whole = (value: string) => (/^\d{1,9}$/.test(value) ? Number(value) : null)

/** Facts are given by what they are: apart, in the form. */
const parts: { [K in AsIfKey]: AsIfWords<K> } = {
  sign: {
    lead: 'is',
    choices: () => [
      { id: 'in', name: 'signed in' },
      { id: 'out', name: 'signed out' },
    ],
    part: value => ({ sign: value as 'in' | 'out' }),
    say: value => (value === 'in' ? 'signed in' : 'signed out'),
  },
  level: { lead: 'holds the level', choices: book => named(book.levels), say: (id, { levels }) => called(levels, id) },
  role: {
    lead: 'holds the role',
    choices: book => named(book.roles?.filter(role => !role.staff)),
    say: (id, { roles }) => called(roles, id),
  },
  firm: { lead: 'belongs to the firm', firm: true, say: (id, { firms }) => `in the firm ${called(firms, id)}` },
  product: {
    lead: 'has bought',
    offered: ({ things }) => things.product,
    say: (id, { things }) => `has bought ${called(things.product, id)}`,
  },
  category: {
    lead: 'has bought from',
    offered: ({ things }) => things.category,
    say: (id, { things }) => `has bought from ${called(things.category, id)}`,
  },
  orders: {
    lead: 'has ordered, times',
    type: 'number',
    part: value => (whole(value) === null ? null : { orders: whole(value)! }),
    say: count => `has ordered ${count} ${count === 1 ? 'time' : 'times'}`,
  },
  spent: {
    lead: 'has spent',
    type: 'number',
    part: (value, { moneyDigits }) =>
      /^\d{1,9}([.]\d+)?$/.test(value) ? { spent: Math.round(Number(value) * 10 ** moneyDigits) } : null,
    say: (minor, { moneyDigits }) => `has spent ${moneyText(minor, moneyDigits)}`,
  },
  basket: {
    lead: 'has in the basket',
    offered: ({ things }) => things.product,
    part: (basket, { quantity }) => ({ basket, quantity }),
    say: (id, { things }, { quantity }) => `with ${quantity} of ${called(things.product, id)} in the basket`,
  },
  fact: {
    lead: 'says of themselves',
    choices: book => named(book.facts),
    say: (id, { facts }, { value }) => (value === true ? called(facts, id) : `${called(facts, id)}: ${String(value)}`),
  },
  date: { lead: 'asks on the day', type: 'date', say: value => `on ${dateText(value)}` },
  weekday: {
    lead: 'asks on a',
    choices: () => weekdays.map(id => ({ id, name: weekdayNames[id] })),
    part: value => ({ weekday: value as (typeof weekdays)[number] }),
    say: value => `on a ${weekdayNames[value]}`,
  },
  time: { lead: 'asks at', type: 'time', say: value => `at ${value}` },
  at: {
    lead: 'asks at the instant',
    type: 'text',
    placeholder: '2026-12-01T09:00:00Z',
    say: value => `on ${dateText(value.slice(0, 10))}`,
  },
  device: {
    lead: 'uses',
    choices: () => named([{ id: 'phone' }, { id: 'tablet' }, { id: 'desktop' }]),
    say: value => `on a ${value}`,
  },
  browser: { lead: 'uses the browser', type: 'text', placeholder: 'firefox', say: value => `with ${value}` },
  country: {
    lead: 'is in',
    choices: () => [...countries()].sort((a, b) => a.name.localeCompare(b.name, 'en')),
    say: code => `in ${called(countries(), code)}`,
  },
  region: { lead: 'is in the region', type: 'text', placeholder: 'ES-CN', say: code => `in ${code}` },
  language: { lead: 'reads', type: 'text', placeholder: 'es', say: tag => `reading ${tag}` },
  referrer: { lead: 'comes from', type: 'text', placeholder: 'https://…', say: from => `coming from ${from}` },
  address: {
    lead: 'has the address',
    type: 'text',
    placeholder: '192.0.2.7',
    say: address => `from the address ${address}`,
  },
}
/** Of which nothing is known but that it is one of them. */
const partOf = (key: AsIfKey) =>
  parts[key] as unknown as AsIfField & {
    say(value: unknown, lexicon: Lexicon, part: AsIf): string
  }

export const asIfField = (key: AsIfKey): AsIfField => partOf(key)

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
  const made = partOf(key).part
  // What the address of a look cannot say again is none.
  const part = made ? made(text, more) : ({ [key]: text } as AsIf)
  return part && readAsIf(asIfText(part)) ? part : null
}

/** “in Spain”. */
export const asIfWord = (part: AsIf, lexicon: Lexicon): string => {
  const key = asIfKeyOf(part)
  return partOf(key).say((part as unknown as Record<string, unknown>)[key], lexicon, part)
}

/** “Maker, on 1 Dec 2026”. */
export const asIfWords = (list: readonly AsIf[], lexicon: Lexicon): string =>
  list.map(part => asIfWord(part, lexicon)).join(', ')

/** As they stand in an address: `level:maker,date:2026-12-01`. */
export const asIfTexts = (list: readonly AsIf[]): string => list.map(asIfText).join(',')

/** Back from an address; null where that is not how they are written. */
export function readAsIfs(text: string): AsIf[] | null {
  const list = text.split(',').map(readAsIf)
  return list.every(part => part !== null) ? (list as AsIf[]) : null
}
