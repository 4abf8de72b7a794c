/** Refuses changes asked for by another site. */
import { defineEventHandler, getHeader } from 'h3'
import { hostOf } from '../forwarded'
import { Problem } from '../problem'

const safeMethods = new Set(['GET', 'HEAD', 'OPTIONS'])

export default defineEventHandler(event => {
  if (safeMethods.has(event.method)) return
  // Browsers name the origin of every change they send (Fetch Standard, §3.2); tools that are no browser send neither header.
  const site = getHeader(event, 'sec-fetch-site')
  if (site && site !== 'same-origin' && site !== 'none') throw new Problem('other-origin')
  const origin = getHeader(event, 'origin')
  if (origin && hostIn(origin) !== hostOf(event)) throw new Problem('other-origin')
})

function hostIn(origin: string): string | null {
  try {
    return new URL(origin).host
  } catch {
    return null
  }
}
