/** What a request for a page of the site asks, besides its path. */
import { getQuery } from 'h3'
import type { H3Event } from 'h3'
import Negotiator from 'negotiator'
import { isAnsweredByRoute } from '../../core/site/own-addresses'

/** The path of a page asked for; null for everything else the server answers. The door lets only canonical paths in. */
export function sitePathOf(event: H3Event): string | null {
  const raw = event.path.split('?')[0]!
  if (/^\/(_nuxt|__nuxt[^/]*|_fonts)(\/|$)/.test(raw) || isAnsweredByRoute(raw)) return null
  return decodeURIComponent(raw)
}

export const spokenIn = (event: H3Event) => (offered: readonly string[]) =>
  new Negotiator(event.node.req).language([...offered])
/** A page that says what was just done, once. */
export const doneIn = (event: H3Event, path: string | null): string | undefined => {
  const { done } = getQuery(event)
  return path === '/account' && typeof done === 'string' ? done : undefined
}

export const askedIn = (event: H3Event): string | undefined => {
  const { q } = getQuery(event)
  return typeof q === 'string' ? q.replaceAll(/[\0\p{Surrogate}]/gu, ' ') : undefined
}
