/**
 * What happens to every request before anything else answers it, files
 * included: its path is canonical or the request ends here, its method is
 * known there or it ends here, and the headers that protect every answer are set.
 */
import { randomUUID } from 'node:crypto'
import { defineNitroPlugin } from 'nitropack/runtime'
import type { H3Event } from 'h3'
import { canonicalPath } from '../../core/site/canonical-path'
import { answerProblem, toldProblem } from '../answer-problem'
import { contentPolicy } from '../content-policy'
import { followRequest } from '../follow-request'
import { isAnsweredByRoute } from '../../core/site/own-addresses'
import { methodsAt } from '../own-routes'
import { forgetSessions } from '../services/standing/known-sessions'
import { Problem } from '../problem'
import { boundBody } from '../slow-request'

export default defineNitroPlugin(nitro => {
  nitro.hooks.hook('request', event => {
    event.context.requestId = randomUUID()
    const { req } = event.node
    // The renderer would leave pages empty for whoever sends this, and the empty page would be kept for all.
    delete req.headers['x-nuxt-no-ssr']
    const [path, query] = split(req.url ?? '')
    protect(event, path)
    followRequest(event)
    boundBody(event)
    if (!looks.has(event.method)) forgetBefore(event)
    // The development server asks for its own modules by addresses no site has.
    if (import.meta.dev && path.startsWith('/_nuxt/')) return
    const canonical = canonicalPath(path)
    if (canonical === null || /%00/.test(query) || query.includes('#')) return refuse(event, new Problem('bad-path'))
    if (canonical !== path)
      return canonical.length + query.length > mostOfLocation
        ? refuse(event, new Problem('bad-path'))
        : leadTo(event, canonical + query)
    const methods = methodsAt(canonical)
    if (!methods) return refuse(event, new Problem('not-found'))
    if (!methods.has(event.method)) {
      event.node.res.setHeader('allow', [...methods].sort().join(', '))
      return refuse(
        event,
        new Problem('unknown-method', { method: event.method.slice(0, 20), known: [...methods].sort() }),
      )
    }
    // Routes are written for GET; Node leaves the body out of what a HEAD is answered.
    if (event.method === 'HEAD' && isAnsweredByRoute(canonical)) {
      event.context.headOnly = true
      req.method = event._method = 'GET'
    }
  })
})

/** Bytes of a `Location`: proxies take some kilobytes of headers, and then answer 502 for us. */
const mostOfLocation = 2000
const looks: ReadonlySet<string> = new Set(['GET', 'HEAD'])
/** Whoever is answered that something changed meets nothing that was remembered from before. */
function forgetBefore({ node: { res } }: H3Event): void {
  const end = res.end.bind(res) as (...given: unknown[]) => typeof res
  res.end = (...given: unknown[]) => {
    forgetSessions()
    return end(...given)
  }
}

function split(url: string): [path: string, query: string] {
  const mark = url.indexOf('?')
  return mark < 0 ? [url, ''] : [url.slice(0, mark), url.slice(mark)]
}

function leadTo(event: H3Event, to: string): void {
  event.node.res.writeHead(308, { location: to, 'cache-control': 'private, no-store' })
  event.node.res.end()
}

function refuse(event: H3Event, problem: Problem): void {
  const body = answerProblem(event, toldProblem(problem))
  event.node.res.end(event.method === 'HEAD' ? undefined : body)
}

function protect({ node: { res } }: H3Event, path: string): void {
  const inWalk = path.startsWith('/walk/')
  res.setHeader('x-content-type-options', 'nosniff')
  // A form that is sent without a referrer is sent without its origin: whoever tries the way in sends forms.
  const isQuiet = inWalk && !path.startsWith('/walk/stranger/')
  res.setHeader('referrer-policy', isQuiet ? 'no-referrer' : 'same-origin')
  res.setHeader(
    'content-security-policy',
    contentPolicy({ styles: "'unsafe-inline'", ancestors: inWalk ? "'self'" : "'none'" }),
  )
  res.setHeader('cross-origin-opener-policy', 'same-origin')
}
