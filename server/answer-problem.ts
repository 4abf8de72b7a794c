/** Says on the wire what went wrong: problem+json to programs, a page to readers; never the insides of an error. */
import { setResponseHeader, setResponseStatus } from 'h3'
import type { H3Event } from 'h3'
import { plainPage } from './plain-page'
import type { Problem } from './problem'

export interface Told {
  status: number
  title: string
  body: Record<string, unknown>
}

export const toldProblem = (problem: Problem): Told => ({
  status: problem.statusCode,
  title: problem.title,
  body: problem.body(),
})

/** Seconds after which asking again is worth it. */
const retryAfterSeconds = 2

/** Addresses programs ask; whoever says nothing about what they take gets JSON there, and a page everywhere else. */
const forPrograms = /^\/(api|walk|go|account\/data|health|ready|metrics)(\/|$)/

export function wantsPage(path: string, accept = '*/*'): boolean {
  if (accept.includes('text/html')) return !path.startsWith('/api/')
  return accept.includes('*/*') && !forPrograms.test(path)
}

export function answerProblem(event: H3Event, { status, title, body }: Told): string {
  setResponseStatus(event, status)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  if (status === 503) setResponseHeader(event, 'retry-after', retryAfterSeconds)
  if (wantsPage(event.node.req.url?.split('?')[0] ?? '', event.node.req.headers.accept)) {
    setResponseHeader(event, 'content-type', 'text/html;charset=utf-8')
    return plainPage(title, typeof body.detail === 'string' ? body.detail : '')
  }
  setResponseHeader(event, 'content-type', 'application/problem+json')
  return JSON.stringify(body)
}
