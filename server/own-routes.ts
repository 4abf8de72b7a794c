/** Every address the application answers itself, with the methods it knows: what is asked otherwise is told so. */
import { fitsAddress, ownAddresses } from '../core/site/own-addresses'
import { actionRights } from './actions/actions'
import { ownPages } from './own-pages/index'

const declared: [path: string, methods: readonly string[]][] = [
  ...ownAddresses.map(({ path, methods }): [string, readonly string[]] => [path, methods]),
  ...Object.keys(actionRights).map((name): [string, string[]] => {
    const [method, path] = name.split(' ') as [string, string]
    return [path, [method]]
  }),
  ...ownPages.flatMap(({ path, act }) =>
    [path, `${path}/**`].map((one): [string, string[]] => [one, act ? ['GET', 'POST'] : ['GET']]),
  ),
]

interface Route {
  parts: string[]
  methods: Set<string>
}

function tableOf(list: typeof declared): Map<string, Route[]> {
  const byPath = new Map<string, Route>()
  for (const [path, methods] of list) {
    if (!methods.length) continue
    const route = byPath.get(path) ?? { parts: path.split('/').slice(1), methods: new Set<string>() }
    byPath.set(path, route)
    for (const method of methods) route.methods.add(method)
    if (route.methods.has('GET')) route.methods.add('HEAD')
  }
  // By the first segment, so that a page of the site is passed at once.
  const groups = new Map<string, Route[]>()
  for (const route of byPath.values()) groups.set(route.parts[0]!, [...(groups.get(route.parts[0]!) ?? []), route])
  return groups
}

const table = tableOf(declared)

/**
 * The methods a canonical path knows: of one of the routes above, of files and
 * pages of the site (reading only), or null below /api where nothing answers.
 */
export function methodsAt(path: string): ReadonlySet<string> | null {
  const asked = path.split('/').slice(1)
  const found = (table.get(asked[0]!) ?? []).filter(route => fitsAddress(route.parts, asked))
  if (found.length) return new Set(found.flatMap(route => [...route.methods]))
  return asked[0] === 'api' ? null : reading
}

const reading: ReadonlySet<string> = new Set(['GET', 'HEAD'])
