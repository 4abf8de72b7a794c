import { Readable } from 'node:stream'
import {
  defineEventHandler,
  getHeader,
  getRequestURL,
  parseCookies,
  sendRedirect,
  sendStream,
  setResponseHeader,
  setResponseStatus,
} from 'h3'
import type { H3Event } from 'h3'
import { strangerPost, strangersPath, withBase } from '../../core/site/stranger-walk'
import { environment, localAddress } from '../environment'
import { addressOf } from '../forwarded'
import { Problem } from '../problem'
import { callerOf } from '../request/caller'
import { readText } from '../request/body'
import { readStranger, strangerHeader } from '../services/entrance/stranger'
import { authorise } from '../services/staff/authorise'

/**
 * The site's own pages for a made-up stranger, asked over HTTP like anybody's and with their cookies alone: nothing of
 * whoever tries it goes along, and nothing of the stranger comes back to them.
 */
export const strangerPage = defineEventHandler(async event => {
  const caller = await callerOf(event)
  const { pathname, search } = getRequestURL(event)
  const [, , , token = '', ...rest] = pathname.split('/')
  readStranger(token, caller.signedIn?.sessionId, caller.nowMs)
  authorise(caller.rights, { kind: 'people', action: 'add', fields: ['name', 'address'] })
  const path = `/${rest.join('/')}`
  if (!strangersPath(path)) throw new Problem('not-found')
  const posts = event.method === 'POST'
  if (posts && !strangerPost(path)) throw new Problem('stranger-stops-here')
  const base = `/walk/stranger/${token}`
  setResponseHeader(event, 'cache-control', 'private, no-store')
  const answer = await fetch(localAddress(environment()) + path + search, {
    method: posts ? 'POST' : 'GET',
    redirect: 'manual',
    headers: headersFor(event, token),
    ...(posts ? { body: await readText(event) } : {}),
  })
  for (const cookie of answer.headers.getSetCookie()) event.node.res.appendHeader('set-cookie', kept(cookie, base))
  const location = answer.headers.get('location')
  if (location !== null) {
    if (!location.startsWith('/') || location.startsWith('//')) throw new Problem('stranger-led-away', { to: location })
    return sendRedirect(event, base + location, 303)
  }
  setResponseStatus(event, answer.status)
  const type = answer.headers.get('content-type')
  if (type) setResponseHeader(event, 'content-type', type)
  if (!type?.startsWith('text/html'))
    return answer.body ? sendStream(event, Readable.fromWeb(answer.body as never)) : null
  return withBase(await answer.text(), base)
})

const prefix = 'stranger_'
function headersFor(event: H3Event, token: string): Record<string, string> {
  const cookies = Object.entries(parseCookies(event))
    .filter(([name]) => name.startsWith(prefix))
    .map(([name, value]) => `${name.slice(prefix.length)}=${encodeURIComponent(value)}`)
  const passed = ['user-agent', 'accept-language', 'accept', 'content-type'].flatMap(name => {
    const value = getHeader(event, name)
    return value === undefined ? [] : [[name, value] as const]
  })
  return {
    ...Object.fromEntries(passed),
    // Passed on, so that what is for this machine alone is not for strangers.
    'x-forwarded-for': getHeader(event, 'x-forwarded-for') ?? addressOf(event) ?? '',
    [strangerHeader]: token,
    ...(cookies.length ? { cookie: cookies.join('; ') } : {}),
  }
}

/** Below the stranger's pages only, under another name. */
const kept = (cookie: string, base: string) => `${prefix}${cookie.replace(/;\s*path=[^;]*/i, '')}; Path=${base}`
