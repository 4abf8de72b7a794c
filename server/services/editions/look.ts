/** One thing as staff edit it: whole, as the draft has it, with what stands in it. */
import type { Tx } from '../../db/database'
import { staffKindOf } from '../../kinds/kinds'
import type { VersionedThing } from '../../kinds/kinds'
import { Problem } from '../../problem'
import { authoriseOwned, lookable, ownersOfThing, ownersOfThings } from './thing-rights'
import { withInside } from './things'
import { contentOf, draftContents, readState } from '../versions/versions'
import type { StoredVersion } from '../versions/versions'
import type { Worker } from './worker'

export interface LookedThing {
  kind: VersionedThing
  id: string
  version: { id: number; revision: number }
  position: number
  /** Rules' and readers' part together, as staff give it. */
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
  const staff = staffKindOf(kind, found.body as Record<string, unknown>)
  await authoriseOwned(db, worker, { kind: staff, action: 'look' }, await ownersOfThing(db, kind, key))
  const inside = withInside(draft, { kind, key }).filter(one => one !== found) as Told[]
  const seen = await lookable(db, worker, inside)
  const contents = await contentOf(
    db,
    [found, ...seen].map(one => one.id),
  )
  const owners = await ownersOfThings(db, [...new Set([kind, ...seen.map(one => one.kind)])])
  const told = (one: StoredVersion): LookedThing => {
    const { id, ...body } = one.body as { id: string }
    const { madeBy = null, assignedTo = null } = owners.get(`${one.kind} ${one.key}`) ?? {}
    return {
      kind: one.kind as VersionedThing,
      id,
      version: { id: one.id, revision: one.revision },
      position: one.position,
      thing: { ...body, ...contents.get(one.id) },
      madeBy,
      assignedTo,
      changedBy: one.changedBy,
      changedAt: one.changedAt,
    }
  }
  return { ...told(found), inside: seen.sort((a, b) => a.position - b.position).map(told) }
}

type Told = StoredVersion & { kind: VersionedThing }
