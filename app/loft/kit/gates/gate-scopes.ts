/** Where a gate that is wanted at one thing can stand: on it alone, or on what it lies in, is one of, or is addressed like. */
import { belowScopes, moduleOf, rights, scopes } from '~~/core/kinds/kinds'
import type { Kind, Resource, Right, ScopeKey } from '~~/core/kinds/kinds'
import type { Scope } from '~~/core/rulebook/gate'
import { kindNames, kindPlurals } from '~~/core/sentences/words'
import type { SiteIndex } from '~~/core/site/site-index'
import { capital } from '~/loft/kit/words/text-words'

export interface OfferedScope {
  key: string
  label: string
  on: Scope
}

/** Where a gate could stand that holds for all of these, the narrowest first, and for how many things it holds, of their kinds where it is not the whole site. */
export function scopesOfAll(chosen: readonly Resource[], all: readonly Resource[], index: SiteIndex) {
  const [first, ...others] = chosen.map(thing => scopesAt(thing, index))
  const shared = (first ?? []).filter(one => others.every(list => list.some(other => other.key === one.key)))
  const kinds = new Set(chosen.map(one => one.kind))
  const counts = new Map(shared.map(one => [one.key, 0]))
  for (const thing of all)
    if (kinds.has(thing.kind))
      for (const { key } of scopesAt(thing, index)) {
        const count = counts.get(key)
        if (count !== undefined) counts.set(key, count + 1)
      }
  return shared.map(one => ({ ...one, holdsFor: 'everything' in one.on ? all.length : counts.get(one.key)! }))
}

/** What a gate there can state: the rights of all kinds it is before. */
export function rightsAt(on: Scope): readonly Right[] {
  const [key, id] = Object.entries(on).find(([name]) => name !== 'below') as [string, unknown]
  if (key === 'everything' || key === 'path') return rights
  const kind = key === 'kind' ? String(id) : (scopes[key as ScopeKey] ?? key)
  const { rights: own = [], holds = [] } = moduleOf(kind)
  return [...new Set([...own, ...holds.flatMap(one => moduleOf(one).rights)])]
}

/** The narrowest first; the whole site comes last. */
export function scopesAt({ kind, id }: Resource, index: SiteIndex): OfferedScope[] {
  const module = moduleOf(kind)
  const thing = index.get(kind as string, id)
  if (!thing) return []
  const offered = (label: string, on: Scope): OfferedScope => ({ key: JSON.stringify(on), label, on })
  const titleOf = (of: string, one: string) => (index.get(of, one) as { title?: string } | undefined)?.title ?? one
  const path = module.path?.(thing as never)
  const around = (module.ways?.(thing as never, index) ?? [])
    .flat()
    .filter(place => place.on in scopes)
    .toReversed()
    .map(place =>
      belowScopes.has(place.on as Kind)
        ? offered(`${titleOf(place.on, place.id)} and all below it`, { [place.on]: place.id, below: true } as Scope)
        : offered(`all in the ${kindNames[place.on as Kind] ?? place.on} ${titleOf(place.on, place.id)}`, {
            [place.on]: place.id,
          } as Scope),
    )
  const folder = path && path !== '/' ? path.slice(0, path.lastIndexOf('/')) : undefined
  return [
    ...(kind in scopes ? [offered(`only this ${kindNames[kind]}`, { [kind]: id } as Scope)] : []),
    ...(belowScopes.has(kind) ? [offered('this and all below it', { [kind]: id, below: true } as Scope)] : []),
    ...around,
    ...(path && path !== '/' ? [offered(`addresses like ${path}/**`, { path: `${path}/**` })] : []),
    ...(folder ? [offered(`addresses like ${folder}/**`, { path: `${folder}/**` })] : []),
    offered(`all ${kindPlurals[kind].toLowerCase()}`, { kind }),
    ...(module.standsIn ? [] : [offered('the whole site', { everything: true })]),
  ]
}

/** Where a gate stands: “Page Techniques and below”. */
export function scopeWords(on: Scope, index: SiteIndex): string {
  if ('everything' in on) return 'Whole site'
  if ('kind' in on) return `All ${kindPlurals[on.kind].toLowerCase()}`
  if ('path' in on) return `Addresses like ${on.path}`
  const [[kind, id], ...rest] = Object.entries(on) as [[string, string], ...[string, unknown][]]
  const title = (index.get(kind, id) as { title?: string } | undefined)?.title ?? id
  const below = rest.some(([key]) => key === 'below') ? ' and below' : ''
  return `${capital(kindNames[kind as Kind] ?? kind)} ${title}${below}`
}
