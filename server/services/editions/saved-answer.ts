/** What a change of the draft answers: what it changed, so that nothing else need be read again. */
import type { VersionedKind } from '../../../core/editions/contents'
import type { AnyDb } from '../../db/database'
import type { Worker } from '../live/worker'
import { draftChanges } from './changes'
import type { DraftChange } from './changes'
import type { Changed } from './draft'
import { nameOf } from '../../../core/editions/contents'
import { visible } from './visible'
import { readState } from '../versions/versions'

export interface Saved {
  /** The draft is that far. */
  draftVersion: number
  /** What the draft says of each now; null where it says what is live. */
  changed: { kind: VersionedKind; key: string; change: DraftChange | null }[]
  /** By which it can be taken back; null where it cannot. */
  step: number | null
}

/** Whoever changed something is told what they may look at of it; of what they may not look at, nothing. */
export async function savedAnswer({ db, ...worker }: Worker & { db: AnyDb }, { names, step }: Changed): Promise<Saved> {
  const state = await readState(db)
  const all = await draftChanges(db, state, names)
  const shown = await visible(
    db,
    worker,
    all.map(change => ({ ...change, body: change.after ?? change.before })),
  )
  const changes = new Map(shown.map(({ body: _body, ...change }) => [nameOf(change), change]))
  return {
    draftVersion: state.draftVersion,
    step,
    changed: names.map(({ kind, key }) => ({ kind, key, change: changes.get(`${kind} ${key}`) ?? null })),
  }
}
