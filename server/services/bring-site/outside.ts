/**
 * Addresses outside, asked for on behalf of a keeper: this machine, and hosts the settings name. A name is looked up
 * once for each connection and must then lead to an address of the open network (RFC 6890), so that no host of the list
 * can point the server at what only the server reaches; a host that is named as an address leads there.
 */
import { lookup } from 'node:dns'
import type { LookupAddress } from 'node:dns'
import ipaddr from 'ipaddr.js'
import { Agent, fetch } from 'undici'
import { textOfPage } from '../../../core/outside/page-text'
import { readBounded } from '../../read-bounded'

/** Milliseconds one answer may take, and how often it may lead on. */
const withinMs = 10_000
const mostLeads = 5
const agentName = 'Bravik'

const loopback = new Set(['localhost', '127.0.0.1', '[::1]'])
const isThisMachine = ({ hostname }: URL) => loopback.has(hostname)

/** Why an address is not asked: a sentence, or null where it may be. */
export function refusedOutside(url: URL, hosts: readonly string[]): string | null {
  if (url.protocol !== 'http:' && url.protocol !== 'https:') return 'Pages are read over http and https.'
  if (url.username || url.password) return 'An address with a password in it is not read.'
  if (isThisMachine(url)) return null
  const named = hosts.some(host => [url.host, url.hostname].includes(host.toLowerCase()))
  return named ? null : `${url.host} is not among the hosts pages may be read from.`
}

/** Whether somebody on the open network could have that address. */
const isOpen = (address: string) => ipaddr.process(address).range() === 'unicast'

const agent = new Agent({
  connect: {
    timeout: withinMs,
    lookup: (host, options, done) => {
      lookup(host, { ...options, all: true }, (error, found: LookupAddress[]) => {
        const mayLead = (one: LookupAddress) =>
          loopback.has(host) ? ipaddr.process(one.address).range() === 'loopback' : isOpen(one.address)
        const addresses = (found ?? []).filter(mayLead)
        if (error) return done(error, [])
        if (!addresses.length) return done(new Error('leads inside'), [])
        return options.all ? done(null, addresses) : done(null, addresses[0]!.address, addresses[0]!.family)
      })
    },
  },
})

export type OutsideAnswer =
  | { bytes: Buffer; type: string; /** Where it came from in the end. */ url: URL }
  | { /** Why not: a sentence. */ failed: string; status?: number }

/** `most`: bytes that are read. Asks for nothing that may not be asked for, wherever it is led. */
export async function fetchOutside(
  address: URL,
  { hosts, most, accept }: { hosts: readonly string[]; most: number; accept: string },
): Promise<OutsideAnswer> {
  const signal = AbortSignal.timeout(withinMs)
  let url = address
  try {
    for (let leads = 0; leads <= mostLeads; leads++) {
      const refused = refusedOutside(url, hosts)
      if (refused) return { failed: url === address ? refused : `It leads on to another host: ${refused}` }
      const answer = await fetch(url, {
        dispatcher: agent,
        redirect: 'manual',
        signal,
        headers: { 'user-agent': agentName, accept },
      })
      const next = answer.headers.get('location')
      if (answer.status >= 300 && answer.status < 400 && next !== null) {
        await answer.body?.cancel()
        if (!URL.canParse(next, url)) return { failed: 'It leads on to nowhere.' }
        url = new URL(next, url)
        continue
      }
      if (answer.status !== 200) {
        await answer.body?.cancel()
        return { failed: statusWords(answer.status), status: answer.status }
      }
      const bytes = await readBounded(answer.body, most, signal)
      if (!bytes) return { failed: `It is larger than ${Math.round(most / 1_000_000)} MB.` }
      return { bytes, type: (answer.headers.get('content-type') ?? '').toLowerCase(), url }
    }
    return { failed: 'It leads on in a circle.' }
  } catch {
    return { failed: signal.aborted ? 'No answer within ten seconds.' : 'The host does not answer there.' }
  }
}

function statusWords(status: number): string {
  if (status === 404 || status === 410) return `There is nothing there (${status}).`
  if (status === 401 || status === 403) return `It is not for everybody there (${status}).`
  return `The host answers ${status}.`
}

/** A text as its type says it is written. */
export const textOfAnswer = (bytes: Buffer, type: string): string =>
  textOfPage(bytes, /charset\s*=\s*"?([\w-]+)/.exec(type)?.[1])
