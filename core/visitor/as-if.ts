/** One thing a visitor could be, hold or come with besides: what they are looked at as if they did. */
import { addDuration, localInstant, localTime, minutesOf, weekdays } from '../calendar'
import type { Weekday } from '../calendar'
import type { Visitor } from './visitor'

export const asIfKeys = [
  'sign',
  'level',
  'role',
  'firm',
  'product',
  'category',
  'orders',
  'spent',
  'basket',
  'fact',
  'date',
  'weekday',
  'time',
  'at',
  'device',
  'browser',
  'country',
  'region',
  'language',
  'referrer',
  'address',
] as const
export type AsIfKey = (typeof asIfKeys)[number]

type Other = 'sign' | 'weekday' | 'fact' | 'orders' | 'spent' | 'basket'
/**
 * `sign`: `in` or `out`. `date`: `YYYY-MM-DD`, `time`: `HH:MM`, on the site's clock; `at`: an instant. `spent`: in
 * minor units, and with `orders` all there were. `basket`: a product, of which so many lie in it.
 */
export type AsIf =
  | { [K in Exclude<AsIfKey, Other>]: { [P in K]: string } }[Exclude<AsIfKey, Other>]
  | { sign: 'in' | 'out' }
  | { weekday: Weekday }
  | { fact: string; value: string | number | boolean }
  | { orders: number }
  | { spent: number }
  | { basket: string; quantity: number }

export const asIfKeyOf = (part: AsIf): AsIfKey => asIfKeys.find(key => key in part)!

interface Clock {
  nowMs: number
  timezone: string
}

/** Somebody in particular nobody is: whoever is signed in as if. */
const somebody = { id: 'somebody' }
const signedIn = (visitor: Visitor): Visitor => (visitor.person ? visitor : { ...visitor, person: somebody })

/** The visitor as if that were so of them as well. What only people hold makes a person of a guest. */
export function asIf(visitor: Visitor, part: AsIf, clock: Clock): Visitor {
  const request = (more: NonNullable<Visitor['request']>): Visitor => ({
    ...visitor,
    request: { ...visitor.request, ...more },
  })
  const atMs = visitor.request?.at ? Date.parse(visitor.request.at) : clock.nowMs
  const at = (ms: number) => request({ at: new Date(ms).toISOString() })
  if ('sign' in part) {
    const { person: _person, ...rest } = visitor
    return part.sign === 'in' ? signedIn(visitor) : { ...(rest.request ? { request: rest.request } : {}) }
  }
  if ('level' in part) {
    const held = { level: part.level, since: new Date(Math.min(atMs, clock.nowMs)).toISOString() }
    return { ...signedIn(visitor), levels: [...(visitor.levels ?? []), held] }
  }
  if ('role' in part) return { ...signedIn(visitor), roles: [...new Set([...(visitor.roles ?? []), part.role])] }
  if ('firm' in part) return { ...signedIn(visitor), firm: part.firm }
  if ('product' in part || 'category' in part) {
    const [list, id] =
      'product' in part ? (['products', part.product] as const) : (['categories', part.category] as const)
    return { ...signedIn(visitor), bought: { ...visitor.bought, [list]: [...(visitor.bought?.[list] ?? []), id] } }
  }
  if ('orders' in part) return { ...signedIn(visitor), bought: { ...visitor.bought, orders: part.orders } }
  if ('spent' in part) return { ...signedIn(visitor), bought: { ...visitor.bought, spent: part.spent } }
  // Guests have baskets too.
  if ('basket' in part) {
    const line = { product: part.basket, quantity: part.quantity }
    return { ...visitor, basket: [...(visitor.basket ?? []).filter(one => one.product !== line.product), line] }
  }
  if ('fact' in part) return { ...signedIn(visitor), facts: { ...visitor.facts, [part.fact]: part.value } }
  const local = localTime(atMs, clock.timezone)
  const wall = (minutes: number) =>
    `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`
  if ('at' in part) return request({ at: part.at })
  if ('date' in part) return at(localInstant(part.date, wall(local.minutes), clock.timezone))
  if ('weekday' in part) {
    const ahead = (weekdays.indexOf(part.weekday) - weekdays.indexOf(local.weekday) + 7) % 7
    return at(addDuration(atMs, `P${ahead}D`, clock.timezone))
  }
  if ('time' in part) {
    // The next time the clock shows it.
    const today = localInstant(local.date, part.time, clock.timezone)
    return at(minutesOf(part.time) >= local.minutes ? today : addDuration(today, 'P1D', clock.timezone))
  }
  // A region lies in the country it begins with (ISO 3166-2).
  if ('region' in part) return request({ region: part.region, country: part.region.split('-')[0]! })
  return request(part)
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
