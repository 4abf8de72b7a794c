/** Changes of the draft: rules and things by one mechanism, one change at a time, each checked with all the rest. */
import { inTransaction } from '../../db/turn'
import { and, eq, sql } from 'drizzle-orm'
import { canonical } from '../../../core/canonical'
import { nameOf } from '../../../core/editions/contents'
import type { VersionedKind } from '../../../core/editions/contents'
import type { TraceAction } from '../../../core/trace/trace-actions'
import type { AnyDb, Tx } from '../../db/database'
import { rowsOf } from '../../db/rows-of'
import { version } from '../../db/schema'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { othersTurn } from '../../others-turn'
import { refuseBroken } from './checks'
import { keepStep } from './step-journal'
import type { Said } from '../../../core/editions/step-back'
import { draftMoved } from '../versions/notify'
import { contentOf, contentsAt, draftRows, lockRules } from '../versions/versions'
import type { SiteState, StoredContents, StoredVersion, VersionName } from '../versions/versions'

/** What somebody was looking at: a row and its revision, or null for "there was nothing". */
export type Expects = { id: number; revision: number } | null

/** One turn at the draft: nobody else changes rules, settings or content until it ends. */
export interface Turn {
  readonly tx: Tx
  readonly state: SiteState
  readonly live: StoredContents
  /** The draft, with what this turn has put into it so far. */
  draft: StoredContents
  /** The draft's own versions by name as the turn found them, removals too. */
  readonly changed: ReadonlyMap<string, StoredVersion>
  readonly actor: Actor
  /** What the turn puts into it, by name: written once it is known to hold together. */
  readonly put: Map<string, PlacedPut>
}

/** A version to be put into the draft. A body of null takes it out; content left out stays as it is. */
export interface Put {
  kind: VersionedKind
  key: string
  body: object | null
  content?: object
  /** Default: where it stands; a new one comes last. */
  position?: number
}

export interface Work {
  puts: readonly Put[]
  /** For the trace: what was done, to what, and how. */
  action: TraceAction
  subject: string
  detail?: Record<string, unknown>
  /** Refused because something still needs it, rather than because it is wrong itself. */
  removes?: boolean
}

export async function openTurn(tx: Tx, actor: Actor): Promise<Turn> {
  const state = await lockRules(tx)
  const live = await contentsAt(tx, state, state.live)
  const rows = await draftRows(tx, state)
  const changed = new Map(rows.map(row => [nameOf(row), row]))
  return { tx, state, live, draft: live.with(rows), changed, actor, put: new Map() }
}

/** What a change of the draft touched, and by which number it can be taken back; null where it cannot. */
export interface Changed {
  names: VersionName[]
  step: number | null
}

/** Works at the draft; what `work` puts there is checked with all the rest, or everything stays as it was. */
export const changeDraft = (db: AnyDb, actor: Actor, work: (turn: Turn) => Promise<Work>): Promise<Changed> =>
  inTransaction(db, async tx => applyWork(await openTurn(tx, actor), work))

/** The same of a turn that was begun. */
export async function applyWork(turn: Turn, work: (turn: Turn) => Promise<Work>): Promise<Changed> {
  const { removes } = await putWork(turn, work)
  return closeTurn(turn, removes)
}

/** Does one piece of work: what it puts stands in `turn.draft` for whatever comes after. */
export async function putWork(turn: Turn, work: (turn: Turn) => Promise<Work>): Promise<Work> {
  const done = await work(turn)
  const { draft } = turn
  let last = draft.versions.reduce((most, one) => Math.max(most, one.position), 0)
  const placed = done.puts.map(put => ({
    ...put,
    position: put.position ?? draft.get(put.kind, put.key)?.position ?? (last += 1),
  }))
  for (const put of placed) {
    const { content } = turn.put.get(nameOf(put)) ?? {}
    turn.put.set(nameOf(put), content && put.body ? { content, ...put } : put)
  }
  turn.draft = draft.with(placed.map(put => ({ ...(draft.get(put.kind, put.key) ?? ({} as StoredVersion)), ...put })))
  await leaveTrace(turn.tx, turn.actor, done.action, done.subject, done.detail)
  return done
}

/** Holds all that was put against all the rest, and writes it. */
export async function closeTurn(turn: Turn, removes = false): Promise<Changed> {
  const { tx, draft, changed, actor } = turn
  const puts = [...turn.put.values()]
  // Of a file of a hundred thousand goods this takes a moment.
  if (puts.length > batch) await othersTurn()
  refuseBroken(draft, removes ? 'in-use' : 'rules-broken', new Set(turn.put.keys()))
  const found = new Map(puts.map(put => [nameOf(put), changed.get(nameOf(put)) ?? turn.live.get(put.kind, put.key)]))
  const written = await writePuts(turn, puts)
  await draftMoved(tx)
  const names = puts.map(({ kind, key }) => ({ kind, key }))
  const step = await keepStep(
    tx,
    actor,
    written.map(put => ({ put, was: wasOf(found.get(nameOf(put)), put.known) })),
  )
  turn.put.clear()
  return { names, step }
}

/** What the draft said before: a version whole, or nothing. */
const wasOf = (found: StoredVersion | undefined, content: object | undefined): Said | null =>
  found?.body ? { body: found.body as object, content: content ?? {}, position: found.position } : null

/** What a thing holds for whoever may see it, by the draft as the turn has it. */
export async function contentIn(turn: Pick<Turn, 'tx' | 'put'>, stored: StoredVersion): Promise<object> {
  const put = turn.put.get(nameOf(stored))?.content
  return put ?? (await contentOf(turn.tx, [stored.id])).get(stored.id) ?? {}
}

export type PlacedPut = Put & { position: number }
/** With what it holds for whoever may see it, settled, and what it held. */
type Settled = Omit<PlacedPut, 'content'> & { content: object | null; known: object | undefined }
/** Versions read and written in one statement. */
const batch = 1000

/** Writes the draft's versions, or drops those that would say what is live already. Answers each as it was written. */
async function writePuts(turn: Turn, puts: readonly PlacedPut[]): Promise<Settled[]> {
  const written: Settled[] = []
  for (let i = 0; i < puts.length; i += batch) written.push(...(await writeSome(turn, puts.slice(i, i + batch))))
  return written
}

async function writeSome({ tx, state, live, changed, actor }: Turn, puts: readonly PlacedPut[]): Promise<Settled[]> {
  const draft = state.live + 1
  const known = puts.map(put => ({ put, before: live.get(put.kind, put.key), own: changed.get(nameOf(put)) }))
  const ids = known.flatMap(({ before, own }) => [before?.id, own?.id].filter(id => id !== undefined))
  const contents = await contentOf(tx, ids)
  const settled = known.map(({ put, before, own }) => {
    const liveContent = before && contents.get(before.id)
    const known = (own && contents.get(own.id)) ?? liveContent
    const content = put.body === null ? null : (put.content ?? known ?? null)
    const same =
      put.body === null
        ? !before
        : before?.position === put.position &&
          canonical(before.body) === canonical(put.body) &&
          canonical(liveContent ?? {}) === canonical(content ?? {})
    return { ...put, content, known, same, own }
  })
  for (const put of settled) if (put.same) await dropDraft(tx, draft, put)
  const written = settled.filter(put => !put.same)
  const fresh = written.filter(put => !put.own)
  if (fresh.length) {
    const named = rowsOf(
      fresh.map(({ kind, key }) => ({ kind, key })),
      'kind text, key text',
    )
    // What is live, or was taken out of it, holds until here.
    await tx.execute(sql`
      update ${version} held set edition_to = ${draft} from ${named}
      where held.kind = given.kind and held.key = given.key and held.edition_from < ${draft} and held.edition_to is null`)
  }
  if (written.length) await insertVersions(tx, draft, written, actor)
  return settled
}

async function insertVersions(tx: Tx, draft: number, written: readonly Settled[], actor: Actor): Promise<void> {
  const given = rowsOf(
    written.map(({ kind, key, body, content, position }) => ({ kind, key, body, content, position })),
    'kind text, key text, body jsonb, content jsonb, position float8',
  )
  await tx.execute(sql`
    insert into ${version} (kind, key, body, content, position, edition_from, changed_by, changed_by_id)
    select kind, key, body, content, position, ${draft}::int, ${actor.name}, ${actor.id} from ${given}
    on conflict (kind, key, edition_from) do update set
      body = excluded.body, content = excluded.content, position = excluded.position,
      changed_by = excluded.changed_by, changed_by_id = excluded.changed_by_id, changed_at = now(),
      revision = ${version}.revision + 1`)
}

/** The draft says nothing of it any more; what is live holds on. */
async function dropDraft(tx: Tx, draft: number, { kind, key }: { kind: string; key: string }): Promise<void> {
  const named = and(eq(version.kind, kind), eq(version.key, key))
  await tx.delete(version).where(and(named, eq(version.editionFrom, draft)))
  await tx
    .update(version)
    .set({ editionTo: null })
    .where(and(named, eq(version.editionTo, draft)))
}

/** Where something comes to stand among others, given in order: before one of them, or last. Null where that one is not there. */
export function positionBefore(others: readonly StoredVersion[], before: string | null): number | null {
  const at = before === null ? others.length : others.findIndex(one => one.key === before)
  if (at < 0) return null
  const [above, below] = [others[at - 1]?.position, others[at]?.position]
  return below === undefined ? (above ?? 0) + 1 : above === undefined ? below - 1 : (above + below) / 2
}

/** Refuses to write over what somebody else changed meanwhile, and hands out what they wrote. */
export function checkExpected(
  { draft, changed }: Turn,
  { kind, key }: { kind: VersionedKind; key: string },
  expects: Expects,
): void {
  const current = draft.get(kind, key)
  const removed = current ? undefined : changed.get(`${kind} ${key}`)
  const fits = (one: StoredVersion | undefined) =>
    one !== undefined && expects !== null && expects.id === one.id && expects.revision === one.revision
  if (current ? fits(current) : expects === null || fits(removed)) return
  throw new Problem(
    'changed-by',
    { by: current?.changedBy ?? null },
    {
      current: current
        ? {
            id: current.id,
            revision: current.revision,
            body: current.body,
            changedBy: current.changedBy,
            changedAt: current.changedAt,
          }
        : null,
    },
  )
}
