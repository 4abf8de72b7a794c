/** One thing as staff edit it: whole, as the draft has it, with what stands in it. */
import type { AnyDb } from '../../db/database'
import type { VersionedThing } from '../../kinds/kinds'
import { Problem } from '../../problem'
import { partsOf } from '../../../core/staff/part-rights'
import { isThingKind, nameOf } from '../../../core/editions/contents'
import { lookable, ownersOfNamed, permitLook, withParts } from './thing-rights'
import type { Seen } from './thing-rights'
import { withInside } from './things'
import { contentOf, draftContents, readState, versionsOf } from '../versions/versions'
import type { StoredVersion } from '../versions/versions'
import type { Worker } from '../live/worker'

export interface LookedThing {
  kind: VersionedThing
  id: string
  version: { id: number; revision: number }
  position: number
  /** Rules' and readers' part together, as staff give it: those parts that may be looked at. */
  thing: Record<string, unknown>
  /** Parts that may not be looked at, whether they say anything or not. */
  unseen: string[]
  madeBy: string | null
  assignedTo: string | null
  changedBy: string
  changedAt: Date
}

export async function lookAtThing(
  db: AnyDb,
  worker: Worker,
  { kind, key }: { kind: VersionedThing; key: string },
): Promise<LookedThing & { inside: LookedThing[] }> {
  const draft = await draftContents(db, await readState(db))
  const found = draft.get(kind, key) as Told | undefined
  if (!found) throw new Problem('not-found')
  const seen = await permitLook(db, worker, { kind, key, body: found.body })
  const inside = withInside(draft, { kind, key }).filter(one => one !== found) as Told[]
  const within = await lookable(db, worker, inside)
  const [own, ...inner] = await toldThings(db, [
    { one: found, seen },
    ...within.sort((a, b) => a.one.position - b.one.position),
  ])
  return { ...own!, inside: inner }
}

/** Versions of things by their row, in any edition: those that may be looked at, and of each what may be. */
export async function lookAtVersions(db: AnyDb, worker: Worker, rows: readonly number[]): Promise<LookedThing[]> {
  const versions = (await versionsOf(db, rows)).filter((one): one is Told => isThingKind(one.kind) && one.body !== null)
  return toldThings(db, await lookable(db, worker, versions))
}

async function toldThings(db: AnyDb, things: readonly { one: Told; seen: Seen }[]): Promise<LookedThing[]> {
  const contents = await contentOf(
    db,
    things.map(({ one }) => one.id),
  )
  const owners = await ownersOfNamed(
    db,
    things.map(({ one }) => one),
  )
  return things.map(({ one, seen }) => {
    const { id, ...body } = one.body as { id: string }
    const { madeBy = null, assignedTo = null } = owners.get(nameOf(one)) ?? {}
    return {
      kind: one.kind,
      id,
      version: { id: one.id, revision: one.revision },
      position: one.position,
      thing: withParts({ ...body, ...contents.get(one.id) }, seen),
      unseen: partsOf(one.kind).filter(part => !seen(part)),
      madeBy,
      assignedTo,
      changedBy: one.changedBy,
      changedAt: one.changedAt,
    }
  })
}

type Told = StoredVersion & { kind: VersionedThing }
