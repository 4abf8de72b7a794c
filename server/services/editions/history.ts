/** What an entry or a thing was in each edition, who changed it, and bringing an earlier state back into the draft. */
import { and, desc, eq } from 'drizzle-orm'
import type { VersionedKind } from '../../../core/editions/contents'
import { isEntryKind, nameOf } from '../../../core/editions/contents'
import type { RuleEntry } from '../../../core/rulebook/rulebook'
import type { AnyDb } from '../../db/database'
import { edition, version } from '../../db/schema'
import type { VersionedThing } from '../../kinds/kinds'
import { Problem } from '../../problem'
import type { Actor } from '../../trace'
import { changeDraft } from './draft'
import type { Changed, Put, Turn } from './draft'
import { permitEntry } from './entry-rights'
import {
  authoriseAddition,
  authoriseChange,
  authoriseOwned,
  nobodys,
  ownersOfNamed,
  permitLook,
  withParts,
} from './thing-rights'
import { staffKindOf } from '../../kinds/kinds'
import { contentOf, readState } from '../versions/versions'
import { makerOf } from '../live/worker'
import type { Worker } from '../live/worker'

interface Place {
  kind: VersionedKind
  key: string
}

export interface HistoryRow {
  version: number
  /** The first edition that has it, and the first that has not any more. */
  from: number
  to: number | null
  /** Not published yet. */
  draft: boolean
  changedBy: string
  changedAt: Date
  publishedAt: Date | null
  note: string | null
  /** What it says, whole; null is removed. */
  says: Record<string, unknown> | null
}

/** Newest first, at most two hundred. */
export async function historyOf(db: AnyDb, worker: Worker, { kind, key }: Place): Promise<HistoryRow[]> {
  const { live } = await readState(db)
  const rows = await db
    .select({
      version: version.id,
      from: version.editionFrom,
      to: version.editionTo,
      body: version.body,
      content: version.content,
      changedBy: version.changedBy,
      changedAt: version.changedAt,
      publishedAt: edition.publishedAt,
      note: edition.note,
    })
    .from(version)
    .leftJoin(edition, eq(edition.number, version.editionFrom))
    .where(and(eq(version.kind, kind), eq(version.key, key)))
    .orderBy(desc(version.editionFrom))
    .limit(200)
  if (!rows.length) throw new Problem('not-found')
  const seen = await permitLook(db, worker, { kind, key, body: rows.find(row => row.body !== null)?.body ?? null })
  return rows.map(({ body, content, ...row }) => ({
    ...row,
    draft: row.from > live,
    says: body === null ? null : withParts({ ...(body as object), ...(content as object | null) }, seen),
  }))
}

/** Puts what an earlier version said into the draft. */
export async function bringBack(
  db: AnyDb,
  worker: Worker,
  { kind, key, version: id }: Place & { version: number },
  actor: Actor,
): Promise<Changed> {
  return changeDraft(db, actor, async turn => {
    const [row] = await turn.tx
      .select({ body: version.body, content: version.content, position: version.position })
      .from(version)
      .where(and(eq(version.id, id), eq(version.kind, kind), eq(version.key, key)))
    if (!row) throw new Problem('no-such-version')
    const put: Put = {
      kind,
      key,
      body: row.body as object | null,
      position: row.position,
      ...(row.content ? { content: row.content as object } : {}),
    }
    await permitPuts(turn, worker, [put])
    return { puts: [put], action: 'draft.bring-back', subject: `${kind} ${key}`, detail: { version: id } }
  })
}

/**
 * The rights putting whole versions into the draft takes: what differs from the draft is what is changed.
 * However many they are, what they were and whose they are is read at once.
 */
export async function permitPuts(turn: Turn, worker: Worker, puts: readonly Put[]): Promise<void> {
  // The master key opens every thing; entries have rules that bind it too.
  const { masterKey } = worker.rights
  const things = masterKey ? [] : puts.filter(put => !isEntryKind(put.kind))
  const owners = await ownersOfNamed(turn.tx, things)
  const contents = await contentOf(
    turn.tx,
    things.flatMap(put => turn.draft.get(put.kind, put.key)?.id ?? []),
  )
  for (const put of puts) {
    const { kind, key, body } = put
    if (isEntryKind(kind)) {
      await permitEntry(worker.rights)(turn, { kind, key, body } as RuleEntry)
      continue
    }
    if (masterKey) continue
    const thing = kind as VersionedThing
    const owned = owners.get(nameOf(put)) ?? nobodys
    const current = turn.draft.get(thing, key)
    const { id: _, ...rest } = (body ?? {}) as { id?: string }
    const after = { ...rest, ...put.content }
    if (current && body !== null) {
      const { id: _, ...was } = current.body as { id: string }
      const before = { ...was, ...contents.get(current.id) }
      await authoriseChange(turn.tx, worker, thing, { key, before, after, owned })
      continue
    }
    const staff = staffKindOf(thing, (current?.body as Record<string, unknown>) ?? after)
    if (body === null) await authoriseOwned(turn.tx, worker, { kind: staff, action: 'withdraw' }, owned)
    else
      authoriseAddition(worker, thing, after, {
        thing: owned,
        ...(await makerOf(turn.tx, worker, staff, owned.madeBy)),
      })
  }
}
