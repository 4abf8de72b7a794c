/** Addresses that places had before, and where they lead now: what somebody kept still works. */
import type { LocationQuery } from 'vue-router'

interface Moved {
  path: string
  query: LocationQuery
}

/** Tabs that stood under People once. */
const tabsOfPeople: Record<string, { path: string; tab?: string }> = {
  levels: { path: '/loft/who' },
  roles: { path: '/loft/who' },
  audiences: { path: '/loft/who' },
  tiers: { path: '/loft' },
  staff: { path: '/loft/who', tab: 'staff' },
  'sign-up': { path: '/loft/door' },
  landings: { path: '/loft/door' },
  site: { path: '/loft/door', tab: 'site' },
  mail: { path: '/loft/door', tab: 'mail' },
}

/** Content and Walk were tabs of Site once; what was walked as is looked at as now. */
function asWalked({ tab: _, tier, ...query }: LocationQuery): LocationQuery {
  return tier === undefined ? query : { ...query, as: tier }
}

/** Where an address leads now; null where it is as it was. */
export function movedTo(path: string, query: LocationQuery): Moved | null {
  if (path === '/loft/content') return { path: '/loft/site', query }
  if (path === '/loft/walk') return { path: '/loft/site', query: asWalked(query) }
  if (path === '/loft/site' && query.tab !== undefined) return { path, query: asWalked(query) }
  // Signing up and where people land are stations of the ways in and out.
  if (path === '/loft/door' && (query.tab === 'sign-up' || query.tab === 'landings'))
    return { path, query: query.tab === 'landings' ? { at: 'back' } : {} }
  // What the refused get is said where who gets it is.
  if (path === '/loft/door' && query.tab === 'refused') return { path: '/loft', query: { row: 'everything' } }
  // Levels, roles and mixes stand on the loom; tiers at their column heads.
  if (
    path === '/loft/who' &&
    typeof query.tab === 'string' &&
    ['levels', 'roles', 'audiences', 'tiers'].includes(query.tab)
  )
    return { path: query.tab === 'tiers' ? '/loft' : path, query: {} }
  const level = /^\/loft\/groups\/level\/([^/]+)$/.exec(path)
  if (level) return { path: '/loft/who', query: { at: `level:${decodeURIComponent(level[1]!)}` } }
  const role = /^\/loft\/roles\/([^/]+)$/.exec(path)
  if (role) return { path: `/loft/groups/role/${role[1]}`, query }
  const { tab, ...rest } = query
  const now = path === '/loft/people' && typeof tab === 'string' && Object.hasOwn(tabsOfPeople, tab)
  if (!now) return null
  const { path: place, tab: at } = tabsOfPeople[tab]!
  return { path: place, query: at ? { ...rest, tab: at } : rest }
}
