/**
 * Which changes of a draft go only together: an entry and what it names, when that is new; what goes and
 * whatever named it; a thing and the gates on it, so that nothing is shown before what keeps it is.
 */
import { moduleOf } from '../kinds/kinds'
import { isThingKind, nameOf } from './contents'
import type { Contents, Version } from './contents'

export interface Belongings<V extends Version> {
  /** These and everything they need, and what that needs. */
  together(names: Iterable<string>): Set<string>
  /** What these need that is not among them. */
  missing(names: ReadonlySet<string>): V[]
}

export function belongings<V extends Version>(changes: readonly V[], live: Contents<V>): Belongings<V> {
  const byName = new Map(changes.map(one => [nameOf(one), one]))
  const needs = new Map<string, Set<string>>()
  const need = (from: string, to: string) => {
    if (from === to) return
    const list = needs.get(from)
    if (list) list.add(to)
    else needs.set(from, new Set([to]))
  }
  const isNew = ({ kind, key, body }: V) => body !== null && !live.get(kind, key)
  const byKey = new Map<string, V[]>()
  for (const one of changes) {
    // What is neither new nor gone can be named with and without its change.
    if (!isNew(one) && one.body !== null) continue
    const list = byKey.get(one.key)
    if (list) list.push(one)
    else byKey.set(one.key, [one])
  }
  for (const one of changes) {
    const name = nameOf(one)
    for (const text of textsOf(one.body))
      for (const named of byKey.get(text) ?? []) if (isNew(named)) need(name, nameOf(named))
    const before = live.get(one.kind, one.key)
    if (before)
      for (const text of textsOf(before.body))
        for (const gone of byKey.get(text) ?? [])
          if (gone.body === null && namesIt(before, gone)) need(nameOf(gone), name)
    if (one.body === null) continue
    const on = gateOn(one)
    if (on !== undefined && byName.has(on)) need(on, name)
    // A new thing brings along what is new in it.
    if (isNew(one) && isThingKind(one.kind))
      for (const { kind, id, within } of moduleOf(one.kind).names?.(one.body as never) ?? []) {
        const holder = byName.get(`${kind} ${id}`)
        if (within && holder && isNew(holder)) need(nameOf(holder), name)
      }
  }
  const together = (names: Iterable<string>) => {
    const found = new Set<string>()
    const open = [...names]
    while (open.length) {
      const name = open.pop()!
      if (found.has(name) || !byName.has(name)) continue
      found.add(name)
      open.push(...(needs.get(name) ?? []))
    }
    return found
  }
  return {
    together,
    missing: names => [...together(names)].flatMap(name => (names.has(name) ? [] : [byName.get(name)!])),
  }
}

/** Every text of a body, and the ids inside `register/field`. */
function textsOf(body: unknown, found = new Set<string>()): Set<string> {
  if (typeof body === 'string') {
    found.add(body)
    if (body.includes('/')) found.add(body.slice(0, body.indexOf('/')))
  } else if (typeof body === 'object' && body !== null) for (const value of Object.values(body)) textsOf(value, found)
  return found
}

/** A text that is equal to an id by chance does not tie a rule to a thing of another sort: things know what they name. */
function namesIt(before: Version, gone: Version): boolean {
  if (!isThingKind(before.kind)) return true
  return (moduleOf(before.kind).names?.(before.body as never) ?? []).some(
    ({ kind, id }) => kind === gone.kind && id === gone.key,
  )
}

/** The name of the thing a gate stands on; undefined for other entries and scopes. */
function gateOn({ kind, body }: Version): string | undefined {
  if (kind !== 'gate') return undefined
  const [scope, id] = Object.entries((body as { on: object }).on).find(([key]) => key !== 'below') ?? []
  return typeof id === 'string' ? `${scope} ${id}` : undefined
}
