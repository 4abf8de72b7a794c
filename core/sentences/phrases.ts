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
import { blank } from './families'
import type { Taught } from './families'
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
export const phrasesOf = (key: LeafKey) => phrases[key] as unknown as LeafPhrases<unknown>
export const taughtOf = (key: LeafKey) => phrases[key] as unknown as Taught<unknown>

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

const phrases: { [K in LeafKey]: LeafPhrases<LeafArgument<K>> & Taught<LeafArgument<K>> } = {
  everyone: {
    family: 'who',
    blanks: [],
    alsoCalled: ['anybody', 'anyone', 'public', 'all', 'visitors'],
    say: () => 'everyone',
    read: reader => words(reader, 'everyone', true),
    first: () => [true],
  },
  nobody: {
    family: 'who',
    blanks: [],
    alsoCalled: ['none', 'closed', 'never'],
    say: () => 'nobody',
    read: reader => words(reader, 'nobody', true),
    more: () => [true],
  },
  signedIn: {
    family: 'who',
    blanks: [],
    meaning: {
      member: true,
      customer: true,
      user: true,
      login: true,
      'logged in': true,
      'log in': true,
      registered: true,
      account: true,
      anonymous: false,
      stranger: false,
      unregistered: false,
      'logged out': false,
      'signed out': false,
    },
    say: wanted => (wanted ? 'signed-in visitors' : 'guests'),
    read: reader =>
      words(reader, 'signed-in visitors', true) ?? words(reader, 'signed in', true) ?? words(reader, 'guests', false),
    first: () => [true, false],
  },
  level: {
    family: 'holds',
    blanks: [blank('… or above', 'or above'), blank('up to …'), blank('holds …')],
    alsoCalled: ['level', 'member', 'membership', 'plan', 'subscriber', 'subscription', 'rank', 'paying'],
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
    family: 'holds',
    blanks: [blank('role …'), blank('any role of …'), blank('all roles of …')],
    alsoCalled: ['group', 'trade', 'wholesale', 'kind'],
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
    family: 'who',
    blanks: [blank('audience …')],
    alsoCalled: ['segment', 'mix', 'group'],
    say: (id, { audiences }) => `audience ${written(audiences, id)}`,
    read: reader => (reader.word('audience') ? nameOf(reader, reader.lexicon.audiences, 'an audience') : undefined),
    first: ({ audiences }) => audiences.map(({ id }) => id),
  },
  permission: {
    family: 'holds',
    blanks: [blank('may …')],
    alsoCalled: ['permission', 'right', 'allowed', 'can'],
    say: (id, { permissions }) => `may ${written(permissions, id)}`,
    read: reader => (reader.word('may') ? nameOf(reader, reader.lexicon.permissions, 'a permission') : undefined),
    more: ({ permissions }) => permissions.map(({ id }) => id),
  },
  person: {
    family: 'who',
    blanks: [blank('person …')],
    alsoCalled: ['name', 'somebody', 'user', 'customer', 'member'],
    say: ({ in: list }, { people }) => `person ${listed(list.map(id => written(people, id)))}`,
    read: reader => (reader.word('person') ? { in: namesOf(reader, reader.lexicon.people, 'a person') } : undefined),
    more: ({ people }) => people.map(({ id }) => ({ in: [id] })),
  },
  firm: {
    family: 'who',
    blanks: [blank('firm …')],
    alsoCalled: ['company', 'business', 'organisation', 'organization', 'shop', 'school', 'team', 'employer'],
    say: ({ in: list }, { firms }) => `firm ${listed(list.map(id => written(firms, id)))}`,
    read: reader => (reader.word('firm') ? { in: namesOf(reader, reader.lexicon.firms, 'a firm') } : undefined),
    more: ({ firms }) => firms.map(({ id }) => ({ in: [id] })),
  },
  bought: {
    family: 'bought',
    blanks: [blank('bought …'), blank('bought from …')],
    alsoCalled: ['customer', 'buyer', 'purchased', 'ordered', 'owns', 'past'],
    ...goods('bought'),
  },
  orders: {
    family: 'bought',
    blanks: [blank('ordered at least … times')],
    alsoCalled: ['customer', 'purchases', 'regular', 'returning'],
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
    family: 'bought',
    blanks: [blank('spent at least …')],
    alsoCalled: ['customer', 'money', 'turnover', 'paid', 'total'],
    say: ({ atLeast }, { moneyDigits }) => `spent at least ${moneyText(atLeast, moneyDigits)}`,
    read: reader =>
      reader.word('spent at least') ? { atLeast: reader.need(reader.money(), 'an amount of money') } : undefined,
    more: () => [{ atLeast: 5000 }],
    around: typed => (startsWithDigit(typed) ? [`spent at least ${typed}`] : []),
  },
  memberFor: {
    family: 'holds',
    blanks: [blank('member for …')],
    alsoCalled: ['since', 'after', 'drip', 'waiting', 'age', 'later', 'loyal'],
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
  basket: {
    family: 'bought',
    blanks: [blank('basket holds …'), blank('basket holds from …')],
    alsoCalled: ['cart', 'trolley', 'bag'],
    ...goods('basket holds'),
  },
  opens: {
    family: 'opens',
    blanks: [blank('can open …')],
    alsoCalled: ['sees', 'reads', 'access'],
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
    family: 'when',
    blanks: [blank('from … (a day)'), blank('until … (a day)'), blank('on … (a day)')],
    alsoCalled: [
      'date',
      'starting',
      'starts',
      'begins',
      'ends',
      'before',
      'after',
      'expires',
      'season',
      'month',
      'day',
    ],
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
    family: 'when',
    blanks: [blank('between … and … (hours)')],
    alsoCalled: ['time', 'hours', 'clock', 'opening', 'night', 'morning', 'evening'],
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
    family: 'when',
    blanks: [blank('on … (a weekday)')],
    alsoCalled: ['weekday', 'day', 'week'],
    meaning: {
      weekend: { in: ['sat', 'sun'] },
      workday: { in: ['mon', 'tue', 'wed', 'thu', 'fri'] },
      weekdays: { in: ['mon', 'tue', 'wed', 'thu', 'fri'] },
    },
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
    family: 'device',
    blanks: [],
    alsoCalled: ['device', 'screen'],
    meaning: {
      mobile: { in: ['phone'] },
      smartphone: { in: ['phone'] },
      handset: { in: ['phone'] },
      ipad: { in: ['tablet'] },
      computer: { in: ['desktop'] },
      laptop: { in: ['desktop'] },
      pc: { in: ['desktop'] },
    },
    say: ({ in: list }) => `on ${listed(list)}`,
    // The last of the phrases that begin with "on", so it says what could follow.
    read: reader =>
      reader.word('on')
        ? { in: reader.list(() => either(reader, devices), 'a date, a weekday or a device') }
        : undefined,
    first: () => devices.map(one => ({ in: [one] })),
  },
  browser: {
    family: 'device',
    blanks: [blank('browser …')],
    alsoCalled: ['chrome', 'firefox', 'safari', 'app'],
    say: ({ in: list }) => `browser ${listed(list.map(bare))}`,
    read: reader =>
      reader.word('browser') ? { in: reader.list(() => reader.bare(), 'the name of a browser') } : undefined,
  },
  region: {
    family: 'from',
    blanks: [blank('in region … (such as ES-CT)')],
    alsoCalled: ['state', 'county', 'province', 'land'],
    ...patterned(
      'in region',
      reader => reader.pattern(/[a-z]{2}-[a-z0-9]{1,3}/)?.[0].toUpperCase(),
      'a region such as ES-CT',
    ),
    around: typed => [`in region ${typed}`],
  },
  // After regions: both begin with "in".
  country: {
    family: 'from',
    blanks: [blank('in … (a country)')],
    alsoCalled: ['country', 'nation', 'abroad', 'location', 'place', 'geography'],
    meaning: {
      uk: { in: ['GB'] },
      england: { in: ['GB'] },
      britain: { in: ['GB'] },
      usa: { in: ['US'] },
      america: { in: ['US'] },
      eire: { in: ['IE'] },
      holland: { in: ['NL'] },
    },
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
    family: 'from',
    blanks: [blank('reading … (a language)')],
    alsoCalled: ['language', 'speaks', 'speaking'],
    ...patterned('reading', reader => reader.pattern(/[a-z]{1,8}(?:-[a-z0-9]{1,8})*/)?.[0], 'a language such as en'),
    around: typed => (startsWithDigit(typed) ? [`reading ${typed}`] : []),
  },
  address: {
    family: 'from',
    blanks: [blank('network … (such as 192.0.2.0/24)')],
    alsoCalled: ['ip', 'office', 'vpn', 'network'],
    ...patterned('network', reader => reader.pattern(/[0-9a-f:.]+\/\d{1,3}/)?.[0], 'a network such as 192.0.2.0/24'),
    around: typed => [`network ${typed}`],
  },
  referrer: {
    family: 'from',
    blanks: [blank('coming from … (a site)')],
    alsoCalled: ['referrer', 'referer', 'link', 'search', 'newsletter', 'campaign', 'advert'],
    ...patterned(
      'coming from',
      reader => reader.pattern(/[a-z0-9](?:[a-z0-9.-]*[a-z0-9])?/)?.[0],
      'a host such as example.org',
    ),
    around: typed => (startsWithDigit(typed) || typed.includes('.') ? [`coming from ${typed}`] : []),
  },
  query: {
    family: 'address',
    blanks: [blank('address carries …')],
    alsoCalled: ['coupon', 'link', 'code', 'parameter', 'campaign', 'utm', 'query', 'url', 'token'],
    say: ({ name, in: list }) => `address carries ${bare(name)}${list ? ` as ${listed(list.map(bare))}` : ''}`,
    read: reader => {
      if (!reader.word('address carries')) return undefined
      const name = reader.need(reader.bare(), 'the name of a parameter')
      return { name, ...(reader.word('as') ? { in: reader.list(() => reader.bare(), 'a value') } : {}) }
    },
  },
  fact: {
    family: 'facts',
    blanks: [blank('fact …')],
    alsoCalled: ['profile', 'field', 'answer', 'detail', 'custom', 'attribute', 'birthday'],
    say: ({ name, ...comparison }, { facts }) =>
      [`fact ${written(facts, name)}`, ...comparisonTexts(comparison)].join(' '),
    read: reader =>
      reader.word('fact')
        ? { name: nameOf(reader, reader.lexicon.facts, 'a fact'), ...reader.comparisons() }
        : undefined,
    more: ({ facts }) => facts.map(({ id }) => ({ name: id })),
  },
  mine: {
    family: 'record',
    blanks: [],
    alsoCalled: ['owner', 'own', 'mine', 'author'],
    say: () => 'its owner',
    read: reader => words(reader, 'its owner', true),
    more: () => [true],
  },
  assigned: {
    family: 'record',
    blanks: [blank('assigned as …')],
    alsoCalled: ['responsible'],
    say: (field, { fields }) => `assigned as ${written(fields, field)}`,
    read: reader => (reader.word('assigned as') ? nameOf(reader, reader.lexicon.fields, 'a field') : undefined),
    more: ({ fields }) => fields.map(({ id }) => id),
  },
  record: {
    family: 'record',
    blanks: [blank('record …')],
    alsoCalled: ['row', 'entry', 'value'],
    say: ({ field, ...comparison }, { fields }) =>
      [`record ${written(fields, field)}`, ...comparisonTexts(comparison)].join(' '),
    read: reader =>
      reader.word('record')
        ? ({ field: nameOf(reader, reader.lexicon.fields, 'a field'), ...reader.comparisons() } as never)
        : undefined,
  },
}
