/** Follows a request to its end: one line in the log, one count for the metrics. */
import type { H3Event } from 'h3'
import { log } from './log'
import { countRequest } from './metrics'
import { isAnsweredByRoute } from '../core/site/own-addresses'
import { isStaff } from './services/staff/authorise'

/** The route that answered, by its pattern: an address may hold what somebody wrote. */
function routeOf(event: H3Event): string {
  const matched = (event.context.matchedRoute as { path?: string } | undefined)?.path
  const path = event.node.req.url?.split('?')[0] ?? ''
  const action = event.context.action
  if (action) return action.slice(action.indexOf(' ') + 1)
  if (matched && matched !== '/**') return matched
  if (path.startsWith('/_nuxt/')) return '/_nuxt/**'
  if (path === '/loft' || path.startsWith('/loft/')) return '/loft/**'
  if (path.startsWith('/walk/')) return '/walk/**'
  if (isAnsweredByRoute(path)) return 'no route'
  return event.context.ownPath ?? (event.context.view ? 'page' : 'other')
}

function callerKind(event: H3Event): string {
  const caller = event.context.caller
  if (!caller) return 'unknown'
  if (!caller.signedIn) return 'guest'
  return isStaff(caller.decider) ? 'staff' : 'person'
}

export function followRequest(event: H3Event): void {
  const start = performance.now()
  event.node.res.once('close', () => {
    const { statusCode, writableFinished } = event.node.res
    const ms = performance.now() - start
    const route = routeOf(event)
    countRequest(route, event.method, statusCode, ms)
    log().info(
      {
        request: event.context.requestId!,
        method: event.method,
        route,
        status: statusCode,
        ms: Math.round(ms * 10) / 10,
        caller: callerKind(event),
        ...(writableFinished ? {} : { aborted: true }),
      },
      'request',
    )
  })
}
