/** A change whole, for comparing its words: what is live, and what the draft has. */
import type { VersionedKind } from '../../../core/editions/contents'
import type { AnyDb } from '../../db/database'
import { Problem } from '../../problem'
import { wholeVersion } from './changes'
import { permitLook, withParts } from './thing-rights'
import { contentsAt, draftRows, readState } from '../versions/versions'
import type { Worker } from '../live/worker'

export interface Compared {
  before: Record<string, unknown> | null
  after: Record<string, unknown> | null
}

export async function compareChange(
  db: AnyDb,
  worker: Worker,
  { kind, key }: { kind: VersionedKind; key: string },
): Promise<Compared> {
  const state = await readState(db)
  const live = (await contentsAt(db, state, state.live)).get(kind, key)
  const row = (await draftRows(db, state)).find(one => one.kind === kind && one.key === key)
  if (!row) throw new Problem('no-such-change')
  const seen = await permitLook(db, worker, { kind, key, body: row.body ?? live?.body ?? null })
  const said = async (one: typeof live) => {
    const whole = await wholeVersion(db, one)
    return whole && withParts(whole, seen)
  }
  return { before: await said(live), after: await said(row) }
}
