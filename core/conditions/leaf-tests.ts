/** What each leaf means: one function per key, from its argument and who asks to a three-valued answer. */
import { addDuration, minutesOf } from '../calendar'
import type { Kind } from '../rulebook/kinds'
import type { SiteRecord } from '../site/site'
import { FALSE, TRUE, triOf, UNKNOWN } from '../tri'
import type { Tri } from '../tri'
import type { Asker } from './asker'
import { parseNetwork } from './asker'
import type { Comparison, FactValue, LeafArgument, LeafKey } from './condition'

/** Everything a leaf may look at. */
export interface Asking {
  readonly asker: Asker
  /** The record in question, for gates on records and fields. */
  readonly record: SiteRecord | undefined
  audience(id: string): Tri
  opens(kind: Kind, id: string): boolean
}

type Tests = { [K in LeafKey]: (argument: LeafArgument<K>, asking: Asking) => Tri }

const among = (value: string | undefined, list: readonly string[]): Tri =>
  value === undefined ? UNKNOWN : triOf(list.includes(value))
const only = (argument: object) => Object.entries(argument)[0] as [string, string]

export const leafTests: Tests = {
  everyone: () => TRUE,
  nobody: () => FALSE,
  audience: (id, asking) => asking.audience(id),
  signedIn: (wanted, { asker }) => triOf(asker.signedIn === wanted),
  level: (argument, { asker }) => {
    if ('in' in argument) return triOf(argument.in.some(id => asker.levels.has(id)))
    if ('atLeast' in argument)
      return triOf(asker.signedIn && asker.rank >= rankOf(argument.atLeast, asker, Number.POSITIVE_INFINITY))
    return triOf(asker.rank >= 1 && asker.rank <= rankOf(argument.atMost, asker, 0))
  },
  role: (argument, { asker }) =>
    triOf(
      'anyOf' in argument
        ? argument.anyOf.some(id => asker.roles.has(id))
        : asker.signedIn && argument.allOf.every(id => asker.roles.has(id)),
    ),
  permission: (id, { asker }) => triOf(asker.permissions.has(id)),
  person: ({ in: list }, { asker }) => triOf(asker.personId !== undefined && list.includes(asker.personId)),
  firm: ({ in: list }, { asker }) => triOf(asker.firm !== undefined && list.includes(asker.firm)),
  bought: (argument, { asker }) => {
    const [what, id] = only(argument)
    return triOf(asker.hasBought(what as 'product', id))
  },
  orders: ({ atLeast }, { asker }) => triOf(asker.signedIn && asker.orders >= atLeast),
  spent: ({ atLeast }, { asker }) => triOf(asker.signedIn && asker.spent >= atLeast),
  memberFor: ({ atLeast, level }, { asker }) => {
    const starts =
      level === undefined ? [...asker.levels.values()] : asker.levels.has(level) ? [asker.levels.get(level)!] : []
    return triOf(starts.length > 0 && addDuration(Math.min(...starts), atLeast, asker.holdings.timezone) <= asker.at)
  },
  basket: (argument, { asker }) => {
    const [what, id] = only(argument)
    return triOf(asker.basketHolds(what as 'product', id))
  },
  opens: (argument, asking) => {
    const [kind, id] = only(argument)
    return triOf(asking.opens(kind as Kind, id))
  },
  date: ({ from, until }, { asker }) => {
    const today = asker.clock.date
    return triOf((from === undefined || from <= today) && (until === undefined || today <= until))
  },
  time: ({ from, until }, { asker }) => {
    const [start, end, now] = [minutesOf(from), minutesOf(until), asker.clock.minutes]
    return triOf(start < end ? start <= now && now < end : start <= now || now < end)
  },
  weekday: ({ in: list }, { asker }) => triOf(list.includes(asker.clock.weekday)),
  device: ({ in: list }, { asker }) => among(asker.request.device, list),
  browser: ({ in: list }, { asker }) => among(asker.request.browser, list),
  country: ({ in: list }, { asker }) => among(asker.request.country, list),
  region: ({ in: list }, { asker }) => among(asker.request.region, list),
  language: ({ in: list }, { asker }) => {
    const spoken = asker.request.language?.toLowerCase()
    return spoken === undefined
      ? UNKNOWN
      : triOf(list.some(tag => spoken === tag.toLowerCase() || spoken.startsWith(`${tag.toLowerCase()}-`)))
  },
  address: ({ in: list }, { asker }) => {
    const address = asker.address
    return address === null ? UNKNOWN : triOf(list.some(cidr => insideNetwork(address, cidr)))
  },
  referrer: ({ in: list }, { asker }) => {
    const host = hostOf(asker.request.referrer)
    return triOf(
      host !== undefined &&
        list.some(wanted => host === wanted.toLowerCase() || host.endsWith(`.${wanted.toLowerCase()}`)),
    )
  },
  query: ({ name, in: list }, { asker }) =>
    triOf(Object.hasOwn(asker.query, name) && (!list || list.includes(asker.query[name]!))),
  fact: ({ name, ...comparison }, { asker }) => compare(asker.facts.get(name), comparison),
  mine: (_, { asker, record }) => triOf(asker.personId !== undefined && record?.owner === asker.personId),
  assigned: (field, { asker, record }) => {
    const held = record?.values?.[field]
    return triOf(
      asker.personId !== undefined && (Array.isArray(held) ? held.includes(asker.personId) : held === asker.personId),
    )
  },
  record: ({ field, ...comparison }, { record }) => {
    const value = record?.values?.[field]
    return compare(isEmpty(value) ? undefined : (value as FactValue), comparison)
  },
}

/** A level the rulebook does not know is held by nobody: `unknown` is the rank that refuses. */
const rankOf = (level: string, asker: Asker, unknown: number) => asker.holdings.ranks.get(level) ?? unknown

const isEmpty = (value: unknown) =>
  value === undefined || value === null || value === '' || (Array.isArray(value) && value.length === 0)

/** Compares a value with all that is asked of it; unknown when there is no value. A value of another type fails a comparison. */
function compare(value: FactValue | undefined, { is, in: list, atLeast, atMost }: Comparison): Tri {
  if (value === undefined) return UNKNOWN
  const ordered = (bound: FactValue) =>
    typeof bound === typeof value && (typeof value === 'number' || typeof value === 'string')
  return triOf(
    (is === undefined || value === is) &&
      (list === undefined || list.includes(value)) &&
      (atLeast === undefined || (ordered(atLeast) && value >= atLeast)) &&
      (atMost === undefined || (ordered(atMost) && value <= atMost)),
  )
}

function insideNetwork(address: NonNullable<Asker['address']>, cidr: string): boolean {
  const network = parseNetwork(cidr)
  return address.kind() === network[0].kind() && address.match(network as never)
}

/** The host of a referrer, which may be a whole URL or a bare host; undefined when it cannot be read. */
function hostOf(referrer: string | undefined): string | undefined {
  if (!referrer) return undefined
  try {
    return new URL(referrer.includes('://') ? referrer : `http://${referrer}`).hostname.toLowerCase()
  } catch {
    return undefined
  }
}
