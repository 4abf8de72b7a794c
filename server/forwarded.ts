/** Who calls, and by which name, where proxies stand in front: each appends what it saw, so only what the trusted ones wrote counts. */
import { getHeader } from 'h3'
import type { H3Event } from 'h3'
import ipaddr from 'ipaddr.js'
import { LRUCache } from 'lru-cache'
import { environment } from './environment'

const listOf = (event: H3Event, name: string) =>
  (getHeader(event, name) ?? '')
    .split(',')
    .map(one => one.trim())
    .filter(Boolean)

/**
 * The address that called, as text. With N trusted proxies it is the Nth from
 * the right of X-Forwarded-For: whatever stands left of it, the caller wrote.
 * A list shorter than that did not come through all of them, and then who calls is the socket's other end.
 */
export function addressOf(event: H3Event): string | undefined {
  const hops = environment().BRAVIK_TRUST_PROXY
  const list = hops ? listOf(event, 'x-forwarded-for') : []
  const named = list.length >= hops ? list[list.length - hops] : undefined
  const text = named === undefined ? event.node.req.socket.remoteAddress : withoutPort(named)
  return text === undefined ? undefined : spelled(text)
}

/** An address as it is spelled here, the few that call all the time read once; undefined for what is none. */
const knownSpellings = new LRUCache<string, { address: string | undefined }>({ max: 5000 })
const longestAddress = 60
function spelled(text: string): string | undefined {
  let known = knownSpellings.get(text)
  if (!known) {
    known = { address: ipaddr.isValid(text) ? ipaddr.process(text).toString() : undefined }
    if (text.length <= longestAddress) knownSpellings.set(text, known)
  }
  return known.address
}

/** `192.0.2.1:4711`, `[2001:db8::1]:4711` and the bare address. */
const withoutPort = (text: string) =>
  /^\[([^\]]+)\](?::\d+)?$/.exec(text)?.[1] ?? /^(\d+\.\d+\.\d+\.\d+):\d+$/.exec(text)?.[1] ?? text

/** What tries are counted by. One subscriber is given at least a /64 of IPv6 (RFC 6177), so that counts as one. */
export function networkOf(event: H3Event): string {
  const address = addressOf(event)
  if (address === undefined) return ''
  const parsed = ipaddr.parse(address)
  return parsed.kind() === 'ipv4' ? address : `${ipaddr.IPv6.networkAddressFromCIDR(`${address}/64`).toString()}/64`
}

/** What the outermost trusted proxy says the request was made to; without one, what the request itself says. */
function said(event: H3Event, name: string): string | undefined {
  const hops = environment().BRAVIK_TRUST_PROXY
  if (!hops) return undefined
  const list = listOf(event, name)
  return list[Math.max(0, list.length - hops)]
}

export const hostOf = (event: H3Event): string =>
  said(event, 'x-forwarded-host') ?? getHeader(event, 'host') ?? 'localhost'

export const isSecure = (event: H3Event): boolean =>
  said(event, 'x-forwarded-proto') === 'https' || (event.node.req.socket as { encrypted?: boolean }).encrypted === true

/** From this machine itself, not passed on by a proxy on it. */
export function isLoopback(event: H3Event): boolean {
  const passedOn = getHeader(event, 'x-forwarded-for') !== undefined || getHeader(event, 'forwarded') !== undefined
  const remote = event.node.req.socket.remoteAddress
  return !passedOn && remote !== undefined && ipaddr.isValid(remote) && ipaddr.process(remote).range() === 'loopback'
}
