/** What a request tells of whoever sent it, as rules see it. */
import type { H3Event } from 'h3'
import { getCookie, getHeader, getQuery } from 'h3'
import { LRUCache } from 'lru-cache'
import Negotiator from 'negotiator'
import type { Rulebook } from '../../core/rulebook/rulebook'
import type { FactGroup } from '../../core/visitor/fact-group'
import { factsOfRequest, ownFacts } from '../../core/visitor/fact-source'
import type { TextPart } from '../../core/visitor/request-parts'
import type { RequestFacts } from '../../core/visitor/request-print'
import type { Visitor } from '../../core/visitor/visitor'
import { agentOf } from '../agent'
import { environment } from '../environment'
import { addressOf } from '../forwarded'
import { knownCookie, sessionCookie } from '../services/entrance/sessions'
import { whenNetworksChange, whereaboutsOf } from '../services/facts/network-country'
import { basketCookie } from '../services/orders/guest-basket'
import { guestCookie } from '../services/shop/guest-codes'

/** The request header each fact is read from, for `Vary`. Without an operator's proxy country and region stay unknown, and unknown refuses. */
export function headerOfFact(): Partial<Record<FactGroup, string>> {
  const { BRAVIK_COUNTRY_HEADER: country, BRAVIK_TRUST_PROXY: hops } = environment()
  return {
    person: 'Cookie',
    basket: 'Cookie',
    device: 'User-Agent',
    language: 'Accept-Language',
    referrer: 'Referer',
    ...(country ? { country } : {}),
    ...(hops ? { address: 'X-Forwarded-For' } : {}),
  }
}

/** The language liked best (RFC 9110, 12.5.4); who takes any names none. */
const likedLanguage = (accepted: string): string | undefined =>
  new Negotiator({ headers: { 'accept-language': accepted || '*' } }).languages().find(one => one !== '*')

/** What a browser says of itself at one address is the same with each of its requests: read once. Characters read of, kept of each. */
const readBefore = new LRUCache<string, RequestFacts>({ max: 5000 })
const longestRead = 1000
whenNetworksChange(() => readBefore.clear())

/** All a request says but where it came from and what stands behind its path. */
function browserFacts(event: H3Event): RequestFacts {
  const { BRAVIK_COUNTRY_HEADER: country, BRAVIK_REGION_HEADER: region } = environment()
  const address = addressOf(event)
  const agent = getHeader(event, 'user-agent') ?? ''
  const languages = getHeader(event, 'accept-language') ?? ''
  const told = [country && getHeader(event, country), region && getHeader(event, region)]
  const key = [address, told[0], told[1], languages, agent].join('\n')
  const known = readBefore.get(key)
  if (known) return known
  // What a proxy was told to say goes before what a file says.
  const there = whereaboutsOf(address)
  const { device, browser } = agentOf(agent)
  const facts: Record<Exclude<TextPart, 'referrer'>, string | undefined> = {
    device,
    browser,
    language: likedLanguage(languages),
    country: told[0] || there.country,
    region: told[1] || (country ? undefined : there.region),
    address,
  }
  const read: RequestFacts = Object.fromEntries(Object.entries(facts).filter(([, value]) => value))
  if (key.length <= longestRead) readBefore.set(key, read)
  return read
}

function requestFacts(event: H3Event): RequestFacts {
  const request: RequestFacts = { ...browserFacts(event), query: {} }
  const referrer = getHeader(event, 'referer')
  if (referrer) request.referrer = referrer
  if (event.path.includes('?'))
    request.query = Object.fromEntries(
      Object.entries(getQuery(event)).map(([name, value]) => [
        name,
        String(Array.isArray(value) ? value[0] : (value ?? '')),
      ]),
    )
  return request
}

/** A visitor with all that their request says: facts that come from it too. It is asked when it comes. */
export function visitorOver(event: H3Event, book: Rulebook, visitor: Visitor): Visitor {
  const request = requestFacts(event)
  const all = book.facts
  if (!all?.length) return { ...visitor, request }
  const facts = {
    ...ownFacts(all, visitor.facts),
    ...factsOfRequest(all, {
      query: request.query ?? {},
      cookie: name => (ownCookies.has(name) ? undefined : getCookie(event, name)),
    }),
  }
  return { ...visitor, facts, request }
}
/** No fact is read from what lets somebody in. */
const ownCookies: ReadonlySet<string> = new Set([sessionCookie, knownCookie, guestCookie, basketCookie])
