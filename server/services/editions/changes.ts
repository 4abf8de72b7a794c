/** The draft as its changes: what was, what is to be, by whom. */
import { sql } from 'drizzle-orm'
import type { VersionedKind } from '../../../core/editions/contents'
import type { AnyDb } from '../../db/database'
import { version } from '../../db/schema'
import { contentOf, contentsAt, draftRows, readState } from '../versions/versions'
import type { SiteState, StoredVersion, VersionName } from '../versions/versions'

export interface DraftChange {
  kind: VersionedKind
  key: string
  id: number
  revision: number
  position: number
  /** What rules see of it, before and after; null is nothing. */
  before: unknown
  after: unknown
  /** Its words differ, which no rule sees. */
  content?: true
  changedBy: string
  changedAt: Date
}

/** Changes of the draft, oldest first; with `of`, of these alone. */
export async function draftChanges(tx: AnyDb, known?: SiteState, of?: readonly VersionName[]): Promise<DraftChange[]> {
  const state = known ?? (await readState(tx))
  const live = await contentsAt(tx, state, state.live)
  const rows = await draftRows(tx, state, of)
  const reworded = await rewordedRows(tx, state, of && rows.map(row => row.id))
  return rows.map(row => changeOf(row, live.get(row.kind, row.key), reworded.has(row.id)))
}

function changeOf(row: StoredVersion, before: StoredVersion | undefined, reworded: boolean): DraftChange {
  const { kind, key, id, revision, position, body, changedBy, changedAt } = row
  return {
    kind,
    key,
    id,
    revision,
    position,
    before: before?.body ?? null,
    after: body,
    ...(reworded ? { content: true as const } : {}),
    changedBy,
    changedAt,
  }
}

/** Draft rows whose content is not what is live. */
async function rewordedRows(tx: AnyDb, { live }: SiteState, ids?: readonly number[]): Promise<Set<number>> {
  const rows = await tx.execute<{ id: string }>(sql`
    select fresh.id from ${version} fresh join ${version} old on old.kind = fresh.kind and old.key = fresh.key and old.edition_to = ${live + 1}
    where fresh.edition_from = ${live + 1} ${ids ? sql`and fresh.id = any(${`{${ids.join(',')}}`}::bigint[])` : sql``} and coalesce(fresh.content, '{}') <> coalesce(old.content, '{}') and fresh.body is not null and old.body is not null`)
  return new Set(rows.map(row => Number(row.id)))
}

/** What something said and says, whole: with the words only those who open it are sent. */
export async function wholeVersion(tx: AnyDb, row: StoredVersion | undefined): Promise<Record<string, unknown> | null> {
  if (!row || row.body === null) return null
  return { ...(row.body as object), ...(await contentOf(tx, [row.id])).get(row.id) }
}
