/** Changes of the draft: rules and things by one mechanism, one change at a time, each checked with all the rest. */
import { inTransaction } from '../../db/turn'
import { and, eq, sql } from 'drizzle-orm'
import { canonical } from '../../../core/canonical'
import { isEntryKind, nameOf } from '../../../core/editions/contents'
import type { VersionedKind } from '../../../core/editions/contents'
import { entryKinds, singleKey } from '../../../core/rulebook/rulebook'
import type { EntryKind, RuleEntry } from '../../../core/rulebook/rulebook'
import { issuesOf } from '../../../core/check/validate'
import type { AnyDb, Tx } from '../../db/database'
import { rowsOf } from '../../db/rows-of'
import { version } from '../../db/schema'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { othersTurn } from '../../others-turn'
import { refuseBroken, refuseHeld } from './checks'
import { draftMoved } from '../versions/notify'
import { contentOf, contentsAt, draftRows, lockRules } from '../versions/versions'
import type { SiteState, StoredContents, StoredVersion } from '../versions/versions'

/** What somebody was looking at: a row and its revision, or null for "there was nothing". */
export type Expects = { id: number; revision: number } | null

/** One turn at the draft: nobody else changes rules, settings or content until it ends. */
export interface Turn {
  tx: Tx
  state: SiteState
  live: StoredContents
  draft: StoredContents
  /** The draft's own versions by name, removals too. */
  changed: ReadonlyMap<string, StoredVersion>
  actor: Actor
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
  action: string
  subject: string
  detail?: Record<string, unknown>
  /** Refused because something still needs it, rather than because it is wrong itself. */
  removes?: boolean
}

export async function openTurn(tx: Tx, actor: Actor): Promise<Turn> {
  const state = await lockRules(tx)
  const live = await contentsAt(tx, state, state.live)
  const rows = await draftRows(tx, state)
  return { tx, state, live, draft: live.with(rows), changed: new Map(rows.map(row => [nameOf(row), row])), actor }
}

/** What a change of the draft touched, and the draft after it. */
export interface Changed {
  draft: StoredContents
  names: { kind: VersionedKind; key: string }[]
}

/** Works at the draft; what `work` puts there is checked with all the rest, or everything stays as it was. */
export async function changeDraft(db: AnyDb, actor: Actor, work: (turn: Turn) => Promise<Work>): Promise<Changed> {
  return inTransaction(db, async tx => applyWork(await openTurn(tx, actor), work))
}

export async function applyWork(turn: Turn, work: (turn: Turn) => Promise<Work>): Promise<Changed> {
  const { tx, draft, state, actor } = turn
  const { puts, action, subject, detail, removes } = await work(turn)
  let last = draft.versions.reduce((most, one) => Math.max(most, one.position), 0)
  const placed = puts.map(put => ({
    ...put,
    position: put.position ?? draft.get(put.kind, put.key)?.position ?? (last += 1),
  }))
  const next = draft.with(placed.map(put => ({ ...(draft.get(put.kind, put.key) ?? ({} as StoredVersion)), ...put })))
  // Of a file of a hundred thousand goods each of these takes a moment.
  if (placed.length > batch) await othersTurn()
  refuseBroken(next, removes ? 'in-use' : 'rules-broken', new Set(placed.map(nameOf)))
  await writePuts(turn, placed)
  await leaveTrace(tx, actor, action, subject, detail)
  await draftMoved(tx)
  const rows = await draftRows(tx, state)
  if (placed.length > batch) await othersTurn()
  return { draft: turn.live.with(rows), names: placed.map(({ kind, key }) => ({ kind, key })) }
}

type PlacedPut = Put & { position: number }
/** With what it holds for whoever may see it, settled. */
type Settled = Omit<PlacedPut, 'content'> & { content: object | null }
/** Versions read and written in one statement. */
const batch = 1000

/** Writes the draft's versions, or drops those that would say what is live already. */
async function writePuts(turn: Turn, puts: readonly PlacedPut[]): Promise<void> {
  for (let i = 0; i < puts.length; i += batch) await writeSome(turn, puts.slice(i, i + batch))
}

async function writeSome({ tx, state, live, changed, actor }: Turn, puts: readonly PlacedPut[]): Promise<void> {
  const draft = state.live + 1
  const known = puts.map(put => ({ put, before: live.get(put.kind, put.key), own: changed.get(nameOf(put)) }))
  const ids = known.flatMap(({ before, own }) => [before?.id, own?.id].filter(id => id !== undefined))
  const contents = await contentOf(tx, ids)
  const settled = known.map(({ put, before, own }) => {
    const liveContent = before && contents.get(before.id)
    const content = put.body === null ? null : (put.content ?? (own && contents.get(own.id)) ?? liveContent ?? null)
    const same =
      put.body === null
        ? !before
        : before?.position === put.position &&
          canonical(before.body) === canonical(put.body) &&
          canonical(liveContent ?? {}) === canonical(content ?? {})
    return { ...put, content, same, own }
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

/** The draft says nothing of it any more; what is live holds on. Returns whether there was a change. */
async function dropDraft(tx: Tx, draft: number, { kind, key }: { kind: string; key: string }): Promise<void> {
  const named = and(eq(version.kind, kind), eq(version.key, key))
  await tx.delete(version).where(and(named, eq(version.editionFrom, draft)))
  await tx
    .update(version)
    .set({ editionTo: null })
    .where(and(named, eq(version.editionTo, draft)))
}

/** Asked with the draft as it is, once nobody else can change it: throws where the person may not put this entry there. */
export type Permit = (turn: Turn, entry: RuleEntry) => void | Promise<void>

export interface SaveEntry {
  kind: EntryKind
  key: string
  body: unknown
  expects: Expects
  actor: Actor
  permit?: Permit
}

/** Puts one entry of the rules into the draft, and returns the draft after it. Refuses what would leave the draft broken; the draft then stays as it was. */
export async function saveEntry(db: AnyDb, { kind, key, body, expects, actor, permit }: SaveEntry): Promise<Changed> {
  return changeDraft(db, actor, async turn => {
    await permit?.(turn, { kind, key, body })
    checkBody(kind, key, body)
    checkExpected(turn, { kind, key }, expects)
    return {
      puts: [{ kind, key, body: body as object }],
      action: 'rules.change',
      subject: `${kind} ${key}`,
      detail: { body },
    }
  })
}

/** Takes one entry out in the draft; refuses, naming what uses it, when something does. */
export async function removeEntry(
  db: AnyDb,
  { kind, key, expects, actor, permit }: Omit<SaveEntry, 'body'>,
): Promise<Changed> {
  return changeDraft(db, actor, async turn => {
    await permit?.(turn, { kind, key, body: null })
    if (!turn.draft.get(kind, key)) throw new Problem('no-such-entry', { kind, key })
    checkExpected(turn, { kind, key }, expects)
    await refuseHeld(turn.tx, kind, key)
    return { puts: [{ kind, key, body: null }], action: 'rules.remove', subject: `${kind} ${key}`, removes: true }
  })
}

/** Where something comes to stand among others, given in order: before one of them, or last. Null where that one is not there. */
export function positionBefore(others: readonly StoredVersion[], before: string | null): number | null {
  const at = before === null ? others.length : others.findIndex(one => one.key === before)
  if (at < 0) return null
  const [above, below] = [others[at - 1]?.position, others[at]?.position]
  return below === undefined ? (above ?? 0) + 1 : above === undefined ? below - 1 : (above + below) / 2
}

/** Puts an entry of an ordered list before another, or last; in the draft. */
export async function moveEntry(
  db: AnyDb,
  { kind, key, before, actor }: { kind: EntryKind; key: string; before: string | null; actor: Actor },
): Promise<Changed> {
  return changeDraft(db, actor, async ({ draft }) => {
    const moved = draft.get(kind, key)
    const position = positionBefore(
      draft.of(kind).filter(one => one.key !== key),
      before,
    )
    if (!moved || position === null) throw new Problem('no-such-place', { kind })
    return {
      puts: [{ kind, key, body: moved.body as object, position }],
      action: 'rules.move',
      subject: `${kind} ${key}`,
      detail: { before },
    }
  })
}

/** Undoes one change of the draft: it is again as it is live. */
export async function undoChange(
  db: AnyDb,
  {
    kind,
    key,
    actor,
    permit,
  }: { kind: VersionedKind; key: string; actor: Actor; permit?: (turn: Turn) => void | Promise<void> },
): Promise<void> {
  await inTransaction(db, async tx => {
    const turn = await openTurn(tx, actor)
    await permit?.(turn)
    const own = turn.changed.get(`${kind} ${key}`)
    if (!own) throw new Problem('no-such-change')
    const before = turn.live.get(kind, key)
    const without = turn.draft.with([before ?? { ...own, body: null }])
    refuseBroken(without, 'in-use', new Set([nameOf(own)]))
    await dropDraft(tx, turn.state.live + 1, own)
    await leaveTrace(tx, actor, isEntryKind(kind) ? 'rules.undo' : `${kind}.undo`, `${kind} ${key}`)
    await draftMoved(tx)
  })
}

function checkBody(kind: EntryKind, key: string, body: unknown): void {
  const parsed = entryKinds[kind].schema.safeParse(body, { reportInput: true })
  if (!parsed.success) throw new Problem('bad-input', undefined, { issues: issuesOf(parsed.error.issues) })
  const id = 'single' in entryKinds[kind] ? singleKey : (body as { id?: string }).id
  if (id !== key) throw new Problem('other-id')
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
