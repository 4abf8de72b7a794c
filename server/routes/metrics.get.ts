import { timingSafeEqual } from 'node:crypto'
import { defineEventHandler, getHeader, setResponseHeaders } from 'h3'
import { environment } from '../environment'
import { isLoopback } from '../forwarded'
import { registry } from '../metrics'
import { Problem } from '../problem'
import { measure } from '../services/readiness'

/** Prometheus text, for loopback or whoever knows the token. */
export default defineEventHandler(async event => {
  const token = environment().BRAVIK_METRICS_TOKEN
  if (!(token && fits(getHeader(event, 'authorization') ?? '', `Bearer ${token}`)) && !isLoopback(event))
    throw new Problem('not-found')
  await measure()
  setResponseHeaders(event, { 'content-type': registry.contentType, 'cache-control': 'no-store' })
  return registry.metrics()
})

function fits(given: string, wanted: string): boolean {
  const [one, other] = [Buffer.from(given), Buffer.from(wanted)]
  return one.length === other.length && timingSafeEqual(one, other)
}
