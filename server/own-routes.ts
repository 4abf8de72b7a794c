/** Every address the application answers itself, with the methods it knows: what is asked otherwise is told so. */
import { ownPages } from './own-pages/index'
import { routeRights } from './services/staff/route-rights'

const routes = [
  'GET /api/session',
  'POST /api/session',
  'DELETE /api/session',
  'POST /api/payments/notice',
  'GET /health',
  'GET /ready',
  'GET /metrics',
  'GET /go/:block',
  'GET /account/data',
  'GET /sign-in',
  'POST /sign-in',
  'POST /sign-out',
  'GET /first-keeper',
  'POST /first-keeper',
  'GET /loft',
  'GET /loft/**',
  'GET /walk/**',
  ...Object.keys(routeRights),
  ...ownPages.flatMap(({ path, act }) =>
    [path, `${path}/**`].flatMap(one => [`GET ${one}`, ...(act ? [`POST ${one}`] : [])]),
  ),
]

interface Route {
  parts: string[]
  methods: Set<string>
}

function tableOf(list: readonly string[]): Map<string, Route[]> {
  const byPath = new Map<string, Route>()
  for (const line of list) {
    const [method, path] = line.split(' ') as [string, string]
    const route = byPath.get(path) ?? { parts: path.split('/').slice(1), methods: new Set<string>() }
    byPath.set(path, route)
    route.methods.add(method)
    if (method === 'GET') route.methods.add('HEAD')
  }
  // By the first segment, so that a page of the site is passed at once.
  const groups = new Map<string, Route[]>()
  for (const route of byPath.values()) groups.set(route.parts[0]!, [...(groups.get(route.parts[0]!) ?? []), route])
  return groups
}

const table = tableOf(routes)

function fits(parts: readonly string[], asked: readonly string[]): boolean {
  if (parts.at(-1) === '**')
    return asked.length >= parts.length && parts.slice(0, -1).every((part, i) => part === asked[i])
  return parts.length === asked.length && parts.every((part, i) => part.startsWith(':') || part === asked[i])
}

/**
 * The methods a canonical path knows: of one of the routes above, of files and
 * pages of the site (reading only), or null below /api where nothing answers.
 */
export function methodsAt(path: string): ReadonlySet<string> | null {
  const asked = path.split('/').slice(1)
  const found = (table.get(asked[0]!) ?? []).filter(route => fits(route.parts, asked))
  if (found.length) return new Set(found.flatMap(route => [...route.methods]))
  return asked[0] === 'api' ? null : reading
}

const reading: ReadonlySet<string> = new Set(['GET', 'HEAD'])

/** Routes with a handler of their own among the addresses of pages: no page is assembled for them. */
const answered = /^\/(health|ready|metrics|go\/[^/]+|account\/data|sign-out)$/
export const isAnsweredByRoute = (path: string) => path.startsWith('/api/') || answered.test(path)
