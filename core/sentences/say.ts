/**
 * Conditions and gates as sentences: tokens a screen can show and edit, whose
 * texts joined by spaces are what `read` understands.
 */
import { durationParts, durationUnits, isDate } from '../calendar'
import { keyOf } from '../conditions/condition'
import type { Comparison, Condition, FactValue, LeafArgument, LeafKey } from '../conditions/condition'
import type { Gate, Otherwise, Treatment } from '../rulebook/gate'
import type { Kind, Right } from '../rulebook/kinds'
import type { Lexicon } from './lexicon'
import { pluralOf, quoted, written } from './lexicon'
import { countries, kindNames, monthNames, rightLeads, weekdayNames } from './words'

export type TokenType = 'leaf' | 'not' | 'join' | 'open' | 'close' | 'whole'
export interface Token {
  type: TokenType
  text: string
  /** Where in the condition it stands; for joins and brackets, the part they belong to. */
  path: (string | number)[]
}

/** The tokens of a condition. `whole` is an `all` or `any` with no parts or one. */
export function say(condition: Condition, lexicon: Lexicon): Token[] {
  return tokensOf(condition, lexicon, [])
}

/** Tokens with a space between, none inside brackets. */
export function textOf(tokens: readonly Token[]): string {
  return tokens
    .map((token, i) => (i === 0 || token.type === 'close' || tokens[i - 1]!.type === 'open' ? '' : ' ') + token.text)
    .join('')
}

export const sayText = (condition: Condition, lexicon: Lexicon) => textOf(say(condition, lexicon))

function tokensOf(node: Condition, lexicon: Lexicon, path: (string | number)[]): Token[] {
  const [key, argument] = keyOf(node)
  if (key === 'not')
    return [{ type: 'not', text: 'not', path }, ...bracketed(argument as Condition, lexicon, [...path, 'not'])]
  if (key !== 'all' && key !== 'any') return [{ type: 'leaf', text: leafText(key, argument, lexicon), path }]
  const parts = argument as Condition[]
  if (parts.length === 0) return [{ type: 'whole', text: `${key} of nothing`, path }]
  if (parts.length === 1)
    return [
      { type: 'whole', text: `${key} of`, path },
      ...inBrackets(tokensOf(parts[0]!, lexicon, [...path, key, 0]), path),
    ]
  return parts.flatMap((part, i) => [
    ...(i ? [{ type: 'join' as const, text: key === 'all' ? 'and' : 'or', path }] : []),
    ...bracketed(part, lexicon, [...path, key, i]),
  ])
}

const inBrackets = (tokens: Token[], path: (string | number)[]): Token[] => [
  { type: 'open', text: '(', path },
  ...tokens,
  { type: 'close', text: ')', path },
]

function bracketed(node: Condition, lexicon: Lexicon, path: (string | number)[]): Token[] {
  const [key, argument] = keyOf(node)
  const tokens = tokensOf(node, lexicon, path)
  return (key === 'all' || key === 'any') && (argument as Condition[]).length > 1 ? inBrackets(tokens, path) : tokens
}

type Words = { [K in LeafKey]: (argument: LeafArgument<K>, lexicon: Lexicon) => string }
const listed = (list: readonly string[]) => list.join(', ')
const only = (argument: object) => Object.entries(argument)[0] as [string, string]
/** A text that is no name: bare where nothing else could be meant. */
const bare = (text: string) => (/^[a-z0-9][a-z0-9_.:/-]*$/i.test(text) && !/[.,:/-]$/.test(text) ? text : quoted(text))

const words: Words = {
  everyone: () => 'everyone',
  nobody: () => 'nobody',
  audience: (id, { audiences }) => `audience ${written(audiences, id)}`,
  signedIn: wanted => (wanted ? 'signed-in visitors' : 'guests'),
  level: (argument, lexicon) => {
    if ('in' in argument) return `holds ${listed(argument.in.map(id => written(lexicon.levels, id)))}`
    const [bound, id] = only(argument)
    const name = written(lexicon.levels, id)
    if (bound === 'atMost') return `up to ${name}`
    return /^["#]/.test(name) ? `level ${name} or above` : `${name} or above`
  },
  role: (argument, { roles }) => {
    const [which, list] = Object.entries(argument)[0] as ['anyOf' | 'allOf', string[]]
    if (which === 'allOf') return `all roles of ${listed(list.map(id => written(roles, id)))}`
    if (list.length > 1) return `any role of ${listed(list.map(id => written(roles, id)))}`
    return pluralOf(roles, list[0]!) ?? `role ${written(roles, list[0]!)}`
  },
  permission: (id, { permissions }) => `may ${written(permissions, id)}`,
  person: ({ in: list }, { people }) => `person ${listed(list.map(id => written(people, id)))}`,
  firm: ({ in: list }, { firms }) => `firm ${listed(list.map(id => written(firms, id)))}`,
  bought: (argument, { things }) => {
    const [what, id] = only(argument)
    return what === 'product' ? `bought ${written(things.product, id)}` : `bought from ${written(things.category, id)}`
  },
  orders: ({ atLeast }) => `ordered at least ${atLeast} times`,
  spent: ({ atLeast }, { moneyDigits }) => `spent at least ${moneyText(atLeast, moneyDigits)}`,
  memberFor: ({ atLeast, level }, { levels }) =>
    `member for ${durationText(atLeast)}${level === undefined ? '' : ` as ${written(levels, level)}`}`,
  basket: (argument, { things }) => {
    const [what, id] = only(argument)
    return what === 'product'
      ? `basket holds ${written(things.product, id)}`
      : `basket holds from ${written(things.category, id)}`
  },
  opens: (argument, { things }) => {
    const [kind, id] = only(argument) as [Kind, string]
    return `can open ${kindNames[kind]} ${written(things[kind], id)}`
  },
  date: ({ from, until }) =>
    from && from === until
      ? `on ${dateText(from)}`
      : [from && `from ${dateText(from)}`, until && `until ${dateText(until)}`].filter(Boolean).join(' '),
  time: ({ from, until }) => `between ${from} and ${until}`,
  weekday: ({ in: list }) => `on ${listed(list.map(day => weekdayNames[day]))}`,
  device: ({ in: list }) => `on ${listed(list)}`,
  browser: ({ in: list }) => `browser ${listed(list.map(bare))}`,
  country: ({ in: list }) =>
    `in ${listed(list.map(code => (countries().some(one => one.id === code) ? written(countries(), code) : `country ${code}`)))}`,
  region: ({ in: list }) => `in region ${listed(list)}`,
  language: ({ in: list }) => `reading ${listed(list)}`,
  address: ({ in: list }) => `network ${listed(list)}`,
  referrer: ({ in: list }) => `coming from ${listed(list)}`,
  query: ({ name, in: list }) => `address carries ${bare(name)}${list ? ` as ${listed(list.map(bare))}` : ''}`,
  fact: ({ name, ...comparison }, { facts }) =>
    [`fact ${written(facts, name)}`, ...comparisonTexts(comparison)].join(' '),
  mine: () => 'its owner',
  assigned: (field, { fields }) => `assigned as ${written(fields, field)}`,
  record: ({ field, ...comparison }, { fields }) =>
    [`record ${written(fields, field)}`, ...comparisonTexts(comparison)].join(' '),
}

function leafText(key: string, argument: unknown, lexicon: Lexicon): string {
  return (words[key as LeafKey] as (argument: unknown, lexicon: Lexicon) => string)(argument, lexicon)
}

function comparisonTexts({ is, in: list, atLeast, atMost }: Comparison): string[] {
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

export interface SaidRight {
  right: Right
  lead: string
  tokens: Token[]
}
export interface SaidGate {
  rights: SaidRight[]
  /** `otherwise` of guests and of people signed in; equal when the gate does not tell them apart. */ otherwise?: {
    guest?: string
    signedIn?: string
  }
}

const order: Right[] = ['open', 'find', 'search', 'price', 'take']

/** A gate as a sentence for each right it states, and its otherwise. */
export function sayGate(gate: Gate, lexicon: Lexicon): SaidGate {
  const said = order.flatMap(right =>
    gate[right] ? [{ right, lead: rightLeads[right], tokens: say(gate[right], lexicon) }] : [],
  )
  return { rights: said, ...(gate.otherwise ? { otherwise: sayOtherwise(gate.otherwise, lexicon) } : {}) }
}

function sayOtherwise(otherwise: Otherwise, lexicon: Lexicon): { guest?: string; signedIn?: string } {
  if (!('guest' in otherwise) && !('signedIn' in otherwise)) {
    const text = sayTreatment(otherwise as Treatment, lexicon)
    return { guest: text, signedIn: text }
  }
  const { guest, signedIn } = otherwise as { guest?: Treatment; signedIn?: Treatment }
  return {
    ...(guest ? { guest: sayTreatment(guest, lexicon) } : {}),
    ...(signedIn ? { signedIn: sayTreatment(signedIn, lexicon) } : {}),
  }
}

export function sayTreatment(treatment: Treatment, lexicon: Lexicon): string {
  if ('notice' in treatment) return `notice “${treatment.notice.text}”`
  if ('swap' in treatment) return `the block ${written(lexicon.things.block, treatment.swap.block)} instead`
  if ('redirect' in treatment) return `redirect to ${treatment.redirect.to}`
  return Object.keys(treatment)[0]!
}
