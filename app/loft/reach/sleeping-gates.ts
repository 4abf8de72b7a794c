/**
 * Where gates stand that are switched off: they decide nothing, and are marked on the board so that nobody forgets
 * them.
 */
import { moduleOf } from '~~/core/kinds/kinds'
import type { Kind, Resource } from '~~/core/kinds/kinds'
import type { Rulebook } from '~~/core/rulebook/rulebook'
import { pathPattern } from '~~/core/site/path-pattern'
import type { SiteIndex } from '~~/core/site/site-index'

export interface SleepingGates {
  /** Names of those before the whole site; empty where there is none. */
  everywhere: string
  onKind(kind: Kind): string
  /** Of those on this thing, or on its address. */
  on(thing: Resource, index: SiteIndex): string
}

export function sleepingGates(book: Rulebook): SleepingGates {
  const off = (book.gates ?? []).filter(gate => gate.active === false)
  const byScope = new Map<string, string[]>()
  for (const gate of off) {
    const [scope, id] = Object.entries(gate.on).find(([key]) => key !== 'below')!
    const key = `${scope}:${String(id)}`
    byScope.set(key, [...(byScope.get(key) ?? []), gate.name ?? gate.id])
  }
  const named = (key: string) => byScope.get(key) ?? []
  const guards = off.flatMap(gate =>
    'path' in gate.on ? [{ name: gate.name ?? gate.id, pattern: pathPattern(gate.on.path) }] : [],
  )
  return {
    everywhere: named('everything:true').join(', '),
    onKind: kind => named(`kind:${kind}`).join(', '),
    on: ({ kind, id }, index) => {
      if (!off.length) return ''
      const module = moduleOf(kind)
      const thing = index.find({ kind, id }) as never
      if (!thing) return ''
      const path = module.path?.(thing)
      const guarding = path === undefined ? [] : guards.filter(one => one.pattern.matches(path)).map(one => one.name)
      return [...named(`${module.scope?.key ?? kind}:${module.sharedId?.(thing) ?? id}`), ...guarding].join(', ')
    },
  }
}
