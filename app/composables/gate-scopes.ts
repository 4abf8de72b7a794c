/** Where a gate that is wanted at one thing can stand: on it alone, or on what it lies in, is one of, or is addressed like. */
import { belowScopes, moduleOf, scopes } from '~~/core/kinds/kinds'
import type { Kind, Resource } from '~~/core/kinds/kinds'
import type { Scope } from '~~/core/rulebook/gate'
import { kindNames, kindPlurals } from '~~/core/sentences/words'
import type { SiteIndex } from '~~/core/site/site-index'

export interface OfferedScope {
  key: string
  label: string
  on: Scope
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
    .filter(place => place.on in scopes && place.on !== kind)
    .map(place =>
      offered(`all in the ${kindNames[place.on as Kind] ?? place.on} ${titleOf(place.on, place.id)}`, {
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
