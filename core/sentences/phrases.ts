/**
 * How each leaf is said, read back and suggested, in English. A leaf without
 * its phrases does not compile.
 */
import { weekdays } from '../calendar'
import type { LeafArgument, LeafKey } from '../conditions/leaves/leaves'
import { only } from '../conditions/leaves/shapes'
import { devices } from '../shapes'
import type { Kind } from '../kinds/kinds'
import { kinds, listedKinds } from '../kinds/kinds'
import type { Lexicon, Named } from './lexicon'
import { plural, pluralOf, written } from './lexicon'
import type { Reader } from './reader'
import { bare, comparisonTexts, dateText, durationText, listed, moneyText } from './values'
import { countries, kindNames, weekdayNames } from './words'

export interface LeafPhrases<A> {
  say(argument: A, lexicon: Lexicon): string
  /** The argument of the phrase that stands here, or nothing. Throws where the phrase begins and goes wrong. */
  read(reader: Reader): A | undefined
  /** A phrase that begins with a bare name. */
  readByName?(reader: Reader): A | undefined
  /** What an empty place offers. */
  first?(lexicon: Lexicon): A[]
  /** What is offered besides, once something is typed. */
  more?(lexicon: Lexicon): A[]
  /** Phrases somebody may mean who has typed only the value. */
  around?(typed: string): string[]
}
type AllPhrases = { [K in LeafKey]: LeafPhrases<LeafArgument<K>> }

export const phrasesOf = (key: LeafKey) => phrases[key] as unknown as LeafPhrases<unknown>

/** A phrase of fixed words and no more. */
const words = <A>(reader: Reader, text: string, argument: A): A | undefined =>
  reader.word(text) ? argument : undefined

const nameOf = (reader: Reader, list: readonly Named[], what: string) =>
  reader.need(reader.name(list), `the name of ${what}`)
const namesOf = (reader: Reader, list: readonly Named[], what: string) =>
  reader.list(() => reader.name(list), `the name of ${what}`)

const either = <T extends string>(
  reader: Reader,
  options: readonly T[],
  text: (option: T) => string = option => option,
): T | undefined => options.find(option => reader.word(text(option)))

const startsWithDigit = (typed: string) => /^\d/.test(typed)
const aDate = 'a date such as 1 Nov 2026'

/** `bought` and `basket` differ in their first words only. */
const goods = (lead: string): LeafPhrases<{ product: string } | { category: string }> => ({
  say: (argument, { things }) => {
    const [what, id] = only(argument)
    return what === 'product'
      ? `${lead} ${written(things.product, id)}`
      : `${lead} from ${written(things.category, id)}`
  },
  read: reader => {
    if (reader.word(`${lead} from`)) return { category: nameOf(reader, reader.lexicon.things.category, 'a category') }
    if (reader.word(lead)) return { product: nameOf(reader, reader.lexicon.things.product, 'a product') }
  },
  more: ({ things }) => [
    ...things.product.map(({ id }) => ({ product: id })),
    ...things.category.map(({ id }) => ({ category: id })),
  ],
})

/** Phrases with a list of what one pattern takes, such as networks. */
const patterned = (lead: string, one: (reader: Reader) => string | undefined, expected: string) => ({
  say: ({ in: list }: { in: string[] }) => `${lead} ${listed(list)}`,
  read: (reader: Reader) => (reader.word(lead) ? { in: reader.list(() => one(reader), expected) } : undefined),
})

const phrases: AllPhrases = {
  everyone: { say: () => 'everyone', read: reader => words(reader, 'everyone', true), first: () => [true] },
  nobody: { say: () => 'nobody', read: reader => words(reader, 'nobody', true), more: () => [true] },
  signedIn: {
    say: wanted => (wanted ? 'signed-in visitors' : 'guests'),
    read: reader =>
      words(reader, 'signed-in visitors', true) ?? words(reader, 'signed in', true) ?? words(reader, 'guests', false),
    first: () => [true, false],
  },
  level: {
    say: (argument, { levels }) => {
      if ('in' in argument) return `holds ${listed(argument.in.map(id => written(levels, id)))}`
      const [bound, id] = only(argument)
      const name = written(levels, id)
      if (bound === 'atMost') return `up to ${name}`
      return /^["#]/.test(name) ? `level ${name} or above` : `${name} or above`
    },
    read: reader => {
      if (reader.word('up to')) return { atMost: nameOf(reader, reader.lexicon.levels, 'a level') }
      if (reader.word('holds')) return { in: namesOf(reader, reader.lexicon.levels, 'a level') }
    },
    readByName: reader => {
      reader.word('level')
      const level = reader.name(reader.lexicon.levels)
      return level !== undefined && reader.word('or above') ? { atLeast: level } : undefined
    },
    first: ({ levels }) => levels.map(({ id }) => ({ atLeast: id })),
    more: ({ levels }) => levels.flatMap(({ id }) => [{ atMost: id }, { in: [id] }]),
  },
  role: {
    say: (argument, { roles }) => {
      const [which, list] = Object.entries(argument)[0] as ['anyOf' | 'allOf', string[]]
      if (which === 'allOf') return `all roles of ${listed(list.map(id => written(roles, id)))}`
      if (list.length > 1) return `any role of ${listed(list.map(id => written(roles, id)))}`
      return pluralOf(roles, list[0]!) ?? `role ${written(roles, list[0]!)}`
    },
    read: reader => {
      if (reader.word('any role of')) return { anyOf: namesOf(reader, reader.lexicon.roles, 'a role') }
      if (reader.word('all roles of')) return { allOf: namesOf(reader, reader.lexicon.roles, 'a role') }
      if (reader.word('role')) return { anyOf: [nameOf(reader, reader.lexicon.roles, 'a role')] }
    },
    readByName: reader => {
      const role = reader.name(reader.lexicon.roles, name => [plural(name), name])
      return role === undefined ? undefined : { anyOf: [role] }
    },
    first: ({ roles }) => roles.map(({ id }) => ({ anyOf: [id] })),
  },
  audience: {
    say: (id, { audiences }) => `audience ${written(audiences, id)}`,
    read: reader => (reader.word('audience') ? nameOf(reader, reader.lexicon.audiences, 'an audience') : undefined),
    first: ({ audiences }) => audiences.map(({ id }) => id),
  },
  permission: {
    say: (id, { permissions }) => `may ${written(permissions, id)}`,
    read: reader => (reader.word('may') ? nameOf(reader, reader.lexicon.permissions, 'a permission') : undefined),
    more: ({ permissions }) => permissions.map(({ id }) => id),
  },
  person: {
    say: ({ in: list }, { people }) => `person ${listed(list.map(id => written(people, id)))}`,
    read: reader => (reader.word('person') ? { in: namesOf(reader, reader.lexicon.people, 'a person') } : undefined),
    more: ({ people }) => people.map(({ id }) => ({ in: [id] })),
  },
  firm: {
    say: ({ in: list }, { firms }) => `firm ${listed(list.map(id => written(firms, id)))}`,
    read: reader => (reader.word('firm') ? { in: namesOf(reader, reader.lexicon.firms, 'a firm') } : undefined),
    more: ({ firms }) => firms.map(({ id }) => ({ in: [id] })),
  },
  bought: goods('bought'),
  orders: {
    say: ({ atLeast }) => `ordered at least ${atLeast} times`,
    read: reader => {
      if (!reader.word('ordered at least')) return undefined
      const times = Number(reader.need(reader.pattern(/\d+/), 'a number')[0])
      if (!reader.word('times') && !reader.word('time')) reader.fail('“times”')
      return { atLeast: times }
    },
    more: () => [{ atLeast: 1 }],
    around: typed => (startsWithDigit(typed) ? [`ordered at least ${typed} times`] : []),
  },
  spent: {
    say: ({ atLeast }, { moneyDigits }) => `spent at least ${moneyText(atLeast, moneyDigits)}`,
    read: reader =>
      reader.word('spent at least') ? { atLeast: reader.need(reader.money(), 'an amount of money') } : undefined,
    more: () => [{ atLeast: 5000 }],
    around: typed => (startsWithDigit(typed) ? [`spent at least ${typed}`] : []),
  },
  memberFor: {
    say: ({ atLeast, level }, { levels }) =>
      `member for ${durationText(atLeast)}${level === undefined ? '' : ` as ${written(levels, level)}`}`,
    read: reader => {
      if (!reader.word('member for')) return undefined
      const atLeast = reader.need(reader.duration(), 'a time such as 30 days')
      return { atLeast, ...(reader.word('as') ? { level: nameOf(reader, reader.lexicon.levels, 'a level') } : {}) }
    },
    more: ({ levels }) => [{ atLeast: 'P30D' }, ...levels.map(({ id }) => ({ atLeast: 'P30D', level: id }))],
    around: typed => [`member for ${typed}`],
  },
  basket: goods('basket holds'),
  opens: {
    say: (argument, { things }) => {
      const [kind, id] = only(argument) as [Kind, string]
      return `can open ${kindNames[kind]} ${written(things[kind], id)}`
    },
    read: reader => {
      if (!reader.word('can open')) return undefined
      const kind = reader.need(
        either(
          reader,
          kinds.filter(kind => listedKinds.has(kind)),
          one => kindNames[one],
        ),
        'a kind of thing, such as page',
      )
      return { [kind]: nameOf(reader, reader.lexicon.things[kind], `a ${kindNames[kind]}`) }
    },
    more: ({ things }) =>
      kinds.filter(kind => listedKinds.has(kind)).flatMap(kind => things[kind].map(({ id }) => ({ [kind]: id }))),
  },
  date: {
    say: ({ from, until }) =>
      from && from === until
        ? `on ${dateText(from)}`
        : [from && `from ${dateText(from)}`, until && `until ${dateText(until)}`].filter(Boolean).join(' '),
    read: reader => {
      const day = () => reader.need(reader.date(), aDate)
      if (reader.word('from')) return { from: day(), ...(reader.word('until') ? { until: day() } : {}) }
      if (reader.word('until')) return { until: day() }
      const that = reader.word('on') ? reader.date() : undefined
      return that === undefined ? undefined : { from: that, until: that }
    },
    around: typed => [`from ${typed}`, `until ${typed}`, `on ${typed}`],
  },
  time: {
    say: ({ from, until }) => `between ${from} and ${until}`,
    read: reader => {
      if (!reader.word('between')) return undefined
      const from = reader.need(reader.time(), 'a time such as 09:00')
      if (!reader.word('and')) reader.fail('“and”')
      return { from, until: reader.need(reader.time(), 'a time such as 17:00') }
    },
    more: () => [{ from: '09:00', until: '17:00' }],
    around: typed => [`between ${typed.replace(/\s*(?:to|–|-)\s*/, ' and ')}`],
  },
  weekday: {
    say: ({ in: list }) => `on ${listed(list.map(day => weekdayNames[day]))}`,
    read: reader => {
      const one = () =>
        either(reader, weekdays, day => weekdayNames[day]) ?? either(reader, weekdays, day => `${weekdayNames[day]}s`)
      const first = reader.word('on') ? one() : undefined
      return first && { in: [first, ...(reader.sign(',') ? reader.list(one, 'a weekday') : [])] }
    },
    more: () => weekdays.map(day => ({ in: [day] })),
  },
  device: {
    say: ({ in: list }) => `on ${listed(list)}`,
    // The last of the phrases that begin with "on", so it says what could follow.
    read: reader =>
      reader.word('on')
        ? { in: reader.list(() => either(reader, devices), 'a date, a weekday or a device') }
        : undefined,
    more: () => devices.map(one => ({ in: [one] })),
  },
  browser: {
    say: ({ in: list }) => `browser ${listed(list.map(bare))}`,
    read: reader =>
      reader.word('browser') ? { in: reader.list(() => reader.bare(), 'the name of a browser') } : undefined,
  },
  region: {
    ...patterned(
      'in region',
      reader => reader.pattern(/[a-z]{2}-[a-z0-9]{1,3}/)?.[0].toUpperCase(),
      'a region such as ES-CT',
    ),
    around: typed => [`in region ${typed}`],
  },
  // After regions: both begin with "in".
  country: {
    say: ({ in: list }) =>
      `in ${listed(list.map(code => (countries().some(one => one.id === code) ? written(countries(), code) : `country ${code}`)))}`,
    read: reader => {
      const one = () =>
        reader.word('country') ? reader.pattern(/[a-z]{2}/)?.[0].toUpperCase() : reader.name(countries())
      return reader.word('in') ? { in: reader.list(one, 'the name of a country') } : undefined
    },
    more: () => countries().map(({ id }) => ({ in: [id] })),
  },
  language: {
    ...patterned('reading', reader => reader.pattern(/[a-z]{1,8}(?:-[a-z0-9]{1,8})*/)?.[0], 'a language such as en'),
    around: typed => (startsWithDigit(typed) ? [`reading ${typed}`] : []),
  },
  address: {
    ...patterned('network', reader => reader.pattern(/[0-9a-f:.]+\/\d{1,3}/)?.[0], 'a network such as 192.0.2.0/24'),
    around: typed => [`network ${typed}`],
  },
  referrer: {
    ...patterned(
      'coming from',
      reader => reader.pattern(/[a-z0-9](?:[a-z0-9.-]*[a-z0-9])?/)?.[0],
      'a host such as example.org',
    ),
    around: typed => (startsWithDigit(typed) || typed.includes('.') ? [`coming from ${typed}`] : []),
  },
  query: {
    say: ({ name, in: list }) => `address carries ${bare(name)}${list ? ` as ${listed(list.map(bare))}` : ''}`,
    read: reader => {
      if (!reader.word('address carries')) return undefined
      const name = reader.need(reader.bare(), 'the name of a parameter')
      return { name, ...(reader.word('as') ? { in: reader.list(() => reader.bare(), 'a value') } : {}) }
    },
  },
  fact: {
    say: ({ name, ...comparison }, { facts }) =>
      [`fact ${written(facts, name)}`, ...comparisonTexts(comparison)].join(' '),
    read: reader =>
      reader.word('fact')
        ? { name: nameOf(reader, reader.lexicon.facts, 'a fact'), ...reader.comparisons() }
        : undefined,
    more: ({ facts }) => facts.map(({ id }) => ({ name: id })),
  },
  mine: { say: () => 'its owner', read: reader => words(reader, 'its owner', true), more: () => [true] },
  assigned: {
    say: (field, { fields }) => `assigned as ${written(fields, field)}`,
    read: reader => (reader.word('assigned as') ? nameOf(reader, reader.lexicon.fields, 'a field') : undefined),
    more: ({ fields }) => fields.map(({ id }) => id),
  },
  record: {
    say: ({ field, ...comparison }, { fields }) =>
      [`record ${written(fields, field)}`, ...comparisonTexts(comparison)].join(' '),
    read: reader =>
      reader.word('record')
        ? ({ field: nameOf(reader, reader.lexicon.fields, 'a field'), ...reader.comparisons() } as never)
        : undefined,
  },
}
