/**
 * What a picker teaches: everything a rule can look at, in families, each with the phrases it can begin with and
 * the everyday words people look for it by. One language, English.
 */
import type { LeafArgument, LeafKey } from '../conditions/leaves/leaves'

/** In the order in which an empty picker shows them. */
export const families = {
  who: 'who they are',
  holds: 'what they hold',
  bought: 'what they bought',
  when: 'when',
  from: 'where they come from',
  device: 'on what device',
  address: 'what the address says',
  facts: 'facts of your own',
  opens: 'what else opens to them',
  record: 'whose record it is',
} as const
export type Family = keyof typeof families

/** A phrase with a blank: what it shows, and what stands in the field once it is taken, ready to be gone on with. */
export interface Blank {
  text: string
  fill: string
}

export interface Taught<A> {
  family: Family
  blanks: Blank[]
  /** Single everyday words that find it; each may find others too. */
  alsoCalled?: string[]
  /** Everyday words for one thing it can say. */
  meaning?: Record<string, A>
}

const blank = (text: string, fill = text.replace(/…+.*$/, '')): Blank => ({ text, fill })

const taught: { [K in LeafKey]: Taught<LeafArgument<K>> } = {
  everyone: {
    family: 'who',
    blanks: [],
    alsoCalled: ['anybody', 'anyone', 'public', 'all', 'visitors'],
  },
  nobody: { family: 'who', blanks: [], alsoCalled: ['none', 'closed', 'never'] },
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
  },
  level: {
    family: 'holds',
    blanks: [blank('… or above', 'or above'), blank('up to …'), blank('holds …')],
    alsoCalled: ['level', 'member', 'membership', 'plan', 'subscriber', 'subscription', 'rank', 'paying'],
  },
  role: {
    family: 'holds',
    blanks: [blank('role …'), blank('any role of …'), blank('all roles of …')],
    alsoCalled: ['group', 'trade', 'wholesale', 'kind'],
  },
  audience: { family: 'who', blanks: [blank('audience …')], alsoCalled: ['segment', 'mix', 'group'] },
  permission: { family: 'holds', blanks: [blank('may …')], alsoCalled: ['permission', 'right', 'allowed', 'can'] },
  person: {
    family: 'who',
    blanks: [blank('person …')],
    alsoCalled: ['name', 'somebody', 'user', 'customer', 'member'],
  },
  firm: {
    family: 'who',
    blanks: [blank('firm …')],
    alsoCalled: ['company', 'business', 'organisation', 'organization', 'shop', 'school', 'team', 'employer'],
  },
  bought: {
    family: 'bought',
    blanks: [blank('bought …'), blank('bought from …')],
    alsoCalled: ['customer', 'buyer', 'purchased', 'ordered', 'owns', 'past'],
  },
  orders: {
    family: 'bought',
    blanks: [blank('ordered at least … times')],
    alsoCalled: ['customer', 'purchases', 'regular', 'returning'],
  },
  spent: {
    family: 'bought',
    blanks: [blank('spent at least …')],
    alsoCalled: ['customer', 'money', 'turnover', 'paid', 'total'],
  },
  memberFor: {
    family: 'holds',
    blanks: [blank('member for …')],
    alsoCalled: ['since', 'after', 'drip', 'waiting', 'age', 'later', 'loyal'],
  },
  basket: {
    family: 'bought',
    blanks: [blank('basket holds …'), blank('basket holds from …')],
    alsoCalled: ['cart', 'trolley', 'bag'],
  },
  opens: { family: 'opens', blanks: [blank('can open …')], alsoCalled: ['sees', 'reads', 'access'] },
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
  },
  time: {
    family: 'when',
    blanks: [blank('between … and … (hours)')],
    alsoCalled: ['time', 'hours', 'clock', 'opening', 'night', 'morning', 'evening'],
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
  },
  browser: { family: 'device', blanks: [blank('browser …')], alsoCalled: ['chrome', 'firefox', 'safari', 'app'] },
  region: {
    family: 'from',
    blanks: [blank('in region … (such as ES-CT)')],
    alsoCalled: ['state', 'county', 'province', 'land'],
  },
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
  },
  language: {
    family: 'from',
    blanks: [blank('reading … (a language)')],
    alsoCalled: ['language', 'speaks', 'speaking'],
  },
  address: {
    family: 'from',
    blanks: [blank('network … (such as 192.0.2.0/24)')],
    alsoCalled: ['ip', 'office', 'vpn', 'network'],
  },
  referrer: {
    family: 'from',
    blanks: [blank('coming from … (a site)')],
    alsoCalled: ['referrer', 'referer', 'link', 'search', 'newsletter', 'campaign', 'advert'],
  },
  query: {
    family: 'address',
    blanks: [blank('address carries …')],
    alsoCalled: ['coupon', 'link', 'code', 'parameter', 'campaign', 'utm', 'query', 'url', 'token'],
  },
  fact: {
    family: 'facts',
    blanks: [blank('fact …')],
    alsoCalled: ['profile', 'field', 'answer', 'detail', 'custom', 'attribute', 'birthday'],
  },
  mine: { family: 'record', blanks: [], alsoCalled: ['owner', 'own', 'mine', 'author'] },
  assigned: { family: 'record', blanks: [blank('assigned as …')], alsoCalled: ['responsible'] },
  record: { family: 'record', blanks: [blank('record …')], alsoCalled: ['row', 'entry', 'value'] },
}

export const taughtOf = (key: LeafKey) => taught[key] as unknown as Taught<unknown>
