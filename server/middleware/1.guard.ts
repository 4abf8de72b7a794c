/** Refuses changes asked for by another site, and sets the headers every answer carries. */
import { defineEventHandler, getHeader, getRequestHost, setResponseHeaders } from 'h3'
import { Problem } from '../problem'

const safeMethods = new Set(['GET', 'HEAD', 'OPTIONS'])

export default defineEventHandler((event) => {
  const path = event.path.split('?')[0]!
  const inConsole = path === '/loft' || path.startsWith('/loft/')
  const inWalk = path.startsWith('/walk/')
  setResponseHeaders(event, {
    'x-content-type-options': 'nosniff',
    'referrer-policy': inWalk ? 'no-referrer' : 'same-origin',
    'content-security-policy': policy(inConsole ? '\'self\' \'unsafe-inline\'' : '\'none\'', inWalk ? '\'self\'' : '\'none\''),
    'cross-origin-opener-policy': 'same-origin',
  })
  if (safeMethods.has(event.method)) return
  // Browsers name the origin of every change they send (Fetch Standard, §3.2); tools that are no browser send neither header.
  const site = getHeader(event, 'sec-fetch-site')
  if (site && site !== 'same-origin' && site !== 'none') throw new Problem('other-origin')
  const origin = getHeader(event, 'origin')
  if (origin && hostOf(origin) !== getRequestHost(event, { xForwardedHost: process.env.BRAVIK_TRUST_PROXY === '1' })) throw new Problem('other-origin')
})

function policy(scripts: string, ancestors: string): string {
  return `default-src 'self'; script-src ${scripts}; worker-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: https:; font-src 'self' data:; frame-src 'self'; frame-ancestors ${ancestors}; base-uri 'none'; form-action 'self'; object-src 'none'`
}

function hostOf(origin: string): string | null {
  try {
    return new URL(origin).host
  }
  catch {
    return null
  }
}
