/** What somebody is led to who finds words: the thing itself, or what the part they stand in stands in. */
import type { CompiledRules } from '../gates/compiled'
import { moduleOf } from '../kinds/kinds'
import type { Kind, Resource } from '../kinds/kinds'
import { sharersOf } from '../pages/made-from/standing-open'

/** A part of the shelf is found wherever it is shared; one of the frame, which is on every page, nowhere. */
export function foundAt(thing: Resource, rules: CompiledRules, seen = new Set<string>()): Resource[] {
  const { index } = rules
  const { around } = moduleOf(thing.kind)
  const own = index.find(thing)
  if (!own) return []
  if (!around) return [thing]
  if (seen.has(thing.id)) return []
  seen.add(thing.id)
  const standing = [...around(own as never, index), thing.id]
  const outermost = index.get(thing.kind, standing[0]!) as { in?: Record<string, string> } | undefined
  const [kind, id] = Object.entries(outermost?.in ?? {})[0] ?? []
  if (kind === undefined) return []
  if (kind !== 'frame') return [{ kind: kind as Kind, id: id! }]
  if (id !== 'shelf') return []
  return standing.flatMap(one =>
    sharersOf(one, rules).flatMap(sharer => foundAt({ kind: thing.kind, id: sharer }, rules, seen)),
  )
}
