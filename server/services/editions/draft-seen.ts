/** The draft as somebody of the staff may look at it: of what they may not look at it holds what is live. */
import { CompiledRules } from '../../../core/gates/compiled'
import { moduleOf } from '../../../core/kinds/kinds'
import type { VersionedThing } from '../../../core/kinds/kinds'
import type { AnyDb } from '../../db/database'
import { contentOf, nameOf } from '../versions/versions'
import type { StoredVersion } from '../versions/versions'
import { draftSnapshot } from '../live/snapshot'
import type { Snapshot } from '../live/snapshot'
import { lookable } from './thing-rights'
import type { Worker } from '../live/worker'

type Told = StoredVersion & { kind: VersionedThing }

/** Compiled once for a draft and what of it is kept from them. */
const known = new WeakMap<Snapshot, Map<string, Snapshot>>()

export async function draftSeenBy(db: AnyDb, worker: Worker): Promise<Snapshot> {
  const draft = await draftSnapshot()
  if (worker.rights.masterKey) return draft
  const changed = draft.contents.thingVersions.filter((one): one is Told => one.editionFrom > worker.snapshot.edition)
  const hidden = await unseen(db, worker, changed)
  if (!hidden.size) return draft
  const byHidden = known.get(draft) ?? known.set(draft, new Map()).get(draft)!
  const name = [...hidden.keys()].sort().join()
  const before = byHidden.get(name)
  if (before) return before
  const { contents: live } = worker.snapshot
  const contents = draft.contents.with(
    [...hidden.values()].map(one => live.get(one.kind, one.key) ?? { ...one, body: null }),
  )
  const seen = { ...draft, contents, rules: new CompiledRules(contents.book, contents.index) }
  byHidden.set(name, seen)
  return seen
}

/** What of it they may not look at, or not at all of it; and what stands in what is new and hidden. */
async function unseen(db: AnyDb, worker: Worker, changed: readonly Told[]): Promise<Map<string, Told>> {
  const looked = new Map((await lookable(db, worker, changed)).map(({ one, seen }) => [nameOf(one), seen]))
  const contents = await contentOf(
    db,
    changed.map(one => one.id),
  )
  const partsOf = (one: Told) => Object.keys({ ...(one.body as object), ...contents.get(one.id) })
  const isSeen = (one: Told) => partsOf(one).every(part => looked.get(nameOf(one))?.(part))
  const hidden = new Map(changed.filter(one => !isSeen(one)).map(one => [nameOf(one), one]))
  const isNew = (name: string) => {
    const one = hidden.get(name)
    return one !== undefined && worker.snapshot.contents.get(one.kind, one.key) === undefined
  }
  for (let more = true; more;) {
    const inside = changed.filter(
      one =>
        !hidden.has(nameOf(one)) &&
        (moduleOf(one.kind).names?.(one.body as never) ?? []).some(
          ({ within, kind, id }) => within && isNew(nameOf({ kind: kind as VersionedThing, key: id })),
        ),
    )
    for (const one of inside) hidden.set(nameOf(one), one)
    more = inside.length > 0
  }
  return hidden
}
