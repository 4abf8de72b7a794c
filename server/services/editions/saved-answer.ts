/** What a change of the draft answers: what it changed, so that nothing else need be read again. */
import type { VersionedKind } from '../../../core/editions/contents'
import type { Tx } from '../../db/database'
import { draftChanges } from './changes'
import type { DraftChange } from './changes'
import { readState } from '../versions/versions'

export interface Saved {
  /** The draft is that far. */
  draftVersion: number
  /** What the draft says of each now; null where it says what is live. */
  changed: { kind: VersionedKind; key: string; change: DraftChange | null }[]
}

export async function savedAnswer(db: Tx, names: readonly { kind: VersionedKind; key: string }[]): Promise<Saved> {
  const state = await readState(db)
  const changes = new Map(
    (await draftChanges(db, state, names)).map(change => [`${change.kind} ${change.key}`, change]),
  )
  return {
    draftVersion: state.draftVersion,
    changed: names.map(({ kind, key }) => ({ kind, key, change: changes.get(`${kind} ${key}`) ?? null })),
  }
}
