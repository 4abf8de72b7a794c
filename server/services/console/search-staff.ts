/** A search for whoever works in the console: every word of the live edition that their rights let them look at. */
import type { AnyDb } from '../../db/database'
import { CompiledDecider } from '../../../core/gates/compiled-decider'
import { lookable } from '../editions/thing-rights'
import type { Worker } from '../live/worker'
import type { Snapshot } from '../live/snapshot'
import type { VersionedThing } from '../../kinds/kinds'
import { searchAll } from '../search/search'
import type { Said } from '../search/search'

export interface FoundByStaff {
  kind: VersionedThing
  key: string
  title: string
  quote: Said[]
}

const most = 8

/** Of what is found that, and those words of it, which they may look at: gates are for visitors, staff have rights of their own. */
export async function searchAsStaff(
  tx: AnyDb,
  worker: Worker,
  { snapshot, text }: { snapshot: Snapshot; text: string },
): Promise<FoundByStaff[]> {
  const decider = new CompiledDecider(snapshot.rules, { person: null }, 0)
  const found = await searchAll(tx, { snapshot, decider, text, most: 60 })
  const things = found.flatMap(one => {
    const row = snapshot.contents.get(one.resource.kind as VersionedThing, one.resource.id)
    return row ? [{ ...one, kind: row.kind as VersionedThing, key: row.key, body: row.body }] : []
  })
  return (await lookable(tx, worker, things))
    .filter(({ one, seen }) => one.parts.every(seen))
    .slice(0, most)
    .map(({ one: { kind, key, title, quote } }) => ({ kind, key, title, quote }))
}
