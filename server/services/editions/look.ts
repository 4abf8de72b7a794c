/** One thing as staff edit it: whole, as the draft has it, with what stands in it. */
import type { Tx } from '../../db/database'
import type { VersionedThing } from '../../kinds/kinds'
import { Problem } from '../../problem'
import { lookable, ownersOfThings, permitLook, withParts } from './thing-rights'
import type { Seen } from './thing-rights'
import { withInside } from './things'
import { contentOf, draftContents, readState } from '../versions/versions'
import type { StoredVersion } from '../versions/versions'
import type { Worker } from './worker'

export interface LookedThing {
  kind: VersionedThing
  id: string
  version: { id: number; revision: number }
  position: number
  /** Rules' and readers' part together, as staff give it: those parts that may be looked at. */
  thing: Record<string, unknown>
  madeBy: string | null
  assignedTo: string | null
  changedBy: string
  changedAt: Date
}

export async function lookAtThing(
  db: Tx,
  worker: Worker,
  { kind, key }: { kind: VersionedThing; key: string },
): Promise<LookedThing & { inside: LookedThing[] }> {
  const draft = await draftContents(db, await readState(db))
  const found = draft.get(kind, key)
  if (!found) throw new Problem('not-found')
  const seen = await permitLook(db, worker, { kind, key, body: found.body })
  const inside = withInside(draft, { kind, key }).filter(one => one !== found) as Told[]
  const within = await lookable(db, worker, inside)
  const contents = await contentOf(
    db,
    [found, ...within.map(({ one }) => one)].map(one => one.id),
  )
  const owners = await ownersOfThings(db, [...new Set([kind, ...within.map(({ one }) => one.kind)])])
  const told = (one: StoredVersion, parts: Seen): LookedThing => {
    const { id, ...body } = one.body as { id: string }
    const { madeBy = null, assignedTo = null } = owners.get(`${one.kind} ${one.key}`) ?? {}
    return {
      kind: one.kind as VersionedThing,
      id,
      version: { id: one.id, revision: one.revision },
      position: one.position,
      thing: withParts({ ...body, ...contents.get(one.id) }, parts),
      madeBy,
      assignedTo,
      changedBy: one.changedBy,
      changedAt: one.changedAt,
    }
  }
  return {
    ...told(found, seen),
    inside: within.sort((a, b) => a.one.position - b.one.position).map(inner => told(inner.one, inner.seen)),
  }
}

type Told = StoredVersion & { kind: VersionedThing }
