/** One thing a visitor could be, hold or come with besides: what they are looked at as if they did. */
import { addDuration, localInstant, localTime, minutesOf, timeOf, weekdays } from '../calendar'
import type { LocalTime, Weekday } from '../calendar'
import { textParts } from './request-parts'
import type { TextPart } from './request-parts'
import { withBought, withRequest } from './visitor'
import type { Visitor } from './visitor'

type Said<K extends string, V = string> = { [P in K]: V }
/**
 * Each as it is written. `sign`: `in` or `out`. `date`: `YYYY-MM-DD`, `time`: `HH:MM`, on the site's clock; `at`: an
 * instant. `spent`: in minor units, and with `orders` all there were. `basket`: a product, of which so many lie in it.
 */
interface AsIfs {
  sign: Said<'sign', 'in' | 'out'>
  level: Said<'level'>
  role: Said<'role'>
  firm: Said<'firm'>
  product: Said<'product'>
  category: Said<'category'>
  orders: Said<'orders', number>
  spent: Said<'spent', number>
  basket: { basket: string; quantity: number }
  fact: { fact: string; value: string | number | boolean }
  date: Said<'date'>
  weekday: Said<'weekday', Weekday>
  time: Said<'time'>
  at: Said<'at'>
}
type Parts = AsIfs & { [K in TextPart]: Said<K> }
export type AsIfKey = keyof Parts
export type AsIf = Parts[AsIfKey]

interface Clock {
  nowMs: number
  timezone: string
}
interface Asked extends Clock {
  /** When they ask: as an instant, and on the site's clock. */
  atMs: number
  local: LocalTime
}
interface Module<P> {
  /** The visitor as if that were so of them as well. What only people hold makes a person of a guest. */
  apply(visitor: Visitor, part: P, asked: Asked): Visitor
  /** From what stands in an address; null where that is none. `more` stands behind a second colon. */
  read(value: string, more: string | undefined): P | null
}

/** Somebody in particular nobody is: whoever is signed in as if. */
const somebody = { id: 'somebody' }
const signedIn = (visitor: Visitor): Visitor => (visitor.person ? visitor : { ...visitor, person: somebody })
const at = (visitor: Visitor, ms: number) => withRequest(visitor, { at: new Date(ms).toISOString() })
const past = (visitor: Visitor, more: NonNullable<Visitor['bought']>) => withBought(signedIn(visitor), more)
const numeral = (value: string) => (/^\d{1,15}$/.test(value) ? Number(value) : null)

/** In the order in which they are offered, tried and made so. */
const modules: { [K in AsIfKey]: Module<Parts[K]> } = {
  sign: {
    apply: (visitor, { sign }) => {
      if (sign === 'in') return signedIn(visitor)
      const { request: asked } = visitor
      return asked ? { request: asked } : {}
    },
    read: value => (value === 'in' || value === 'out' ? { sign: value } : null),
  },
  level: {
    apply: (visitor, { level }, { atMs, nowMs }) => {
      const held = { level, since: new Date(Math.min(atMs, nowMs)).toISOString() }
      return { ...signedIn(visitor), levels: [...(visitor.levels ?? []), held] }
    },
    read: level => ({ level }),
  },
  role: {
    apply: (visitor, { role }) => ({ ...signedIn(visitor), roles: [...new Set([...(visitor.roles ?? []), role])] }),
    read: role => ({ role }),
  },
  firm: { apply: (visitor, { firm }) => ({ ...signedIn(visitor), firm }), read: firm => ({ firm }) },
  product: {
    apply: (visitor, { product }) => past(visitor, { products: [...(visitor.bought?.products ?? []), product] }),
    read: product => ({ product }),
  },
  category: {
    apply: (visitor, { category }) => past(visitor, { categories: [...(visitor.bought?.categories ?? []), category] }),
    read: category => ({ category }),
  },
  orders: {
    apply: (visitor, { orders }) => past(visitor, { orders }),
    read: value => (numeral(value) === null ? null : { orders: numeral(value)! }),
  },
  spent: {
    apply: (visitor, { spent }) => past(visitor, { spent }),
    read: value => (numeral(value) === null ? null : { spent: numeral(value)! }),
  },
  // Guests have baskets too.
  basket: {
    apply: (visitor, { basket: product, quantity }) => ({
      ...visitor,
      basket: [...(visitor.basket ?? []).filter(one => one.product !== product), { product, quantity }],
    }),
    read: (basket, more = '1') => (/^[1-9]\d{0,5}$/.test(more) ? { basket, quantity: Number(more) } : null),
  },
  fact: {
    apply: (visitor, { fact, value }) => ({ ...signedIn(visitor), facts: { ...visitor.facts, [fact]: value } }),
    read: (fact, more = 'true') => ({ fact, value: JSON.parse(more) as string | number | boolean }),
  },
  date: {
    apply: (visitor, { date }, { local, timezone }) => at(visitor, localInstant(date, timeOf(local.minutes), timezone)),
    read: date => (Number.isNaN(Date.parse(`${date}T00:00:00Z`)) ? null : { date }),
  },
  weekday: {
    apply: (visitor, { weekday }, { atMs, local, timezone }) => {
      const ahead = (weekdays.indexOf(weekday) - weekdays.indexOf(local.weekday) + 7) % 7
      return at(visitor, addDuration(atMs, `P${ahead}D`, timezone))
    },
    read: value => (weekdays.includes(value as Weekday) ? { weekday: value as Weekday } : null),
  },
  time: {
    // The next time the clock shows it.
    apply: (visitor, { time }, { local, timezone }) => {
      const today = localInstant(local.date, time, timezone)
      return at(visitor, minutesOf(time) >= local.minutes ? today : addDuration(today, 'P1D', timezone))
    },
    read: time => (/^\d\d:\d\d$/.test(time) ? { time } : null),
  },
  at: {
    apply: (visitor, part) => withRequest(visitor, part),
    read: value => (Number.isNaN(Date.parse(value)) ? null : { at: value }),
  },
  ...(Object.fromEntries(
    textParts.map(key => [
      key,
      {
        apply: (visitor: Visitor, part: object) => withRequest(visitor, part),
        read: (value: string) => ({ [key]: value }),
      },
    ]),
  ) as unknown as { [K in TextPart]: Module<Parts[K]> }),
  // A region lies in the country it begins with (ISO 3166-2).
  region: {
    apply: (visitor, { region }) => withRequest(visitor, { region, country: region.split('-')[0]! }),
    read: region => ({ region }),
  },
}

export const asIfKeys = Object.keys(modules) as AsIfKey[]
export const asIfKeyOf = (part: AsIf): AsIfKey => asIfKeys.find(key => key in part)!
/** Of which nothing is known but that it is one of them. */
const moduleOf = (key: AsIfKey) => modules[key] as unknown as Module<AsIf>

/** The visitor as if that were so of them as well. */
function asIf(visitor: Visitor, part: AsIf, { nowMs, timezone }: Clock): Visitor {
  const atMs = visitor.request?.at ? Date.parse(visitor.request.at) : nowMs
  const asked: Asked = {
    nowMs,
    timezone,
    atMs,
    get local() {
      return localTime(atMs, timezone)
    },
  }
  return moduleOf(asIfKeyOf(part)).apply(visitor, part, asked)
}

/** As it stands in an address: `level:maker`, `basket:bobbin:3`. */
export function asIfText(part: AsIf): string {
  const key = asIfKeyOf(part)
  const more = 'value' in part ? [JSON.stringify(part.value)] : 'quantity' in part ? [String(part.quantity)] : []
  const value = String((part as unknown as Record<string, unknown>)[key])
  return [key, ...[value, ...more].map(encodeURIComponent)].join(':')
}

/** Back from an address; null where that is not how one is written. */
export function readAsIf(text: string): AsIf | null {
  const [key, ...rest] = text.split(':')
  if (!asIfKeys.includes(key as AsIfKey)) return null
  // Written by hand, a time has a colon of its own.
  const values = key === 'fact' || key === 'basket' ? rest : rest.length ? [rest.join(':')] : []
  try {
    const [value, more] = values.map(decodeURIComponent)
    return value ? moduleOf(key as AsIfKey).read(value, more) : null
  } catch {
    return null
  }
}

/** The same of several. A time of day is on the day that is named, if one is; of a weekday the next it comes. */
export function asIfAll(visitor: Visitor, parts: readonly AsIf[], clock: Clock): Visitor {
  const as = [...parts].sort(inOrder).reduce((one, part) => asIf(one, part, clock), visitor)
  const time = parts.find(part => 'time' in part)
  const day = parts.find(part => 'date' in part || 'weekday' in part)
  if (!time || !day || parts.some(part => 'at' in part)) return as
  const { timezone } = clock
  const on = asIf(visitor, day, clock).request!.at!
  const then = localInstant(localTime(Date.parse(on), timezone).date, time.time, timezone)
  const isOver = 'weekday' in day && then < clock.nowMs
  return asIf(as, { at: new Date(isOver ? addDuration(then, 'P7D', timezone) : then).toISOString() }, clock)
}
const inOrder = (a: AsIf, b: AsIf) => asIfKeys.indexOf(asIfKeyOf(a)) - asIfKeys.indexOf(asIfKeyOf(b))
