/** Reads what an edition, or the draft, holds. */
import { and, asc, eq, gt, inArray, isNotNull, isNull, lte, or, sql } from 'drizzle-orm'
import type { AnyColumn } from 'drizzle-orm'
import { LRUCache } from 'lru-cache'
import { Contents, nameOf } from '../../../core/editions/contents'
import type { SiteFrame, Version, VersionedKind } from '../../../core/editions/contents'
import { entryKinds, rulebookOf } from '../../../core/rulebook/rulebook'
import type { EntryKind, Rulebook } from '../../../core/rulebook/rulebook'
import type { AnyDb } from '../../db/database'
import { siteState, version } from '../../db/schema'
import { Problem } from '../../problem'

/** A version as it is kept. Its content, which no rule sees, is read apart. */
export interface StoredVersion extends Version {
  id: number
  revision: number
  editionFrom: number
  changedBy: string
  changedAt: Date
}

export type StoredContents = Contents<StoredVersion>

/** Where the site stands: which edition is live, what moved since, and what holds in every edition. */
export interface SiteState {
  database: string
  live: number
  draftVersion: number
  settingsVersion: number
  frame: SiteFrame
}

const stateColumns = {
  database: sql<string>`current_database()`,
  live: siteState.liveEdition,
  draftVersion: siteState.draftVersion,
  settingsVersion: siteState.settingsVersion,
  name: siteState.name,
  timezone: siteState.timezone,
  currency: siteState.currency,
  locale: siteState.locale,
}

/** `lock`: `update` for changing rules, settings or content, one at a time; `share` so that nobody publishes meanwhile. */
export async function readState(tx: AnyDb, lock?: 'update' | 'share'): Promise<SiteState> {
  const asked = tx.select(stateColumns).from(siteState)
  const [row] = await (lock ? asked.for(lock) : asked)
  if (!row) throw new Problem('not-set-up')
  const { name, timezone, currency, locale, ...state } = row
  return { ...state, frame: { name, timezone, currency, locale } }
}

const columns = {
  id: version.id,
  revision: version.revision,
  kind: version.kind,
  key: version.key,
  position: version.position,
  body: version.body,
  editionFrom: version.editionFrom,
  changedBy: version.changedBy,
  changedAt: version.changedAt,
}

/** Holds in edition `number`: also the draft, as the edition after the live one. */
export const heldAt = (number: number) =>
  and(lte(version.editionFrom, number), or(isNull(version.editionTo), gt(version.editionTo, number)))

/** Contents of editions already published, which nothing changes any more. */
const published = new LRUCache<string, StoredContents>({ max: 4 })

/** What a published edition holds. Read whole once; of a later one only what it changed. */
export async function contentsAt(tx: AnyDb, state: SiteState, number: number): Promise<StoredContents> {
  const cacheKey = (edition: number) => `${state.database} ${edition}`
  const known = published.get(cacheKey(number))
  if (known) return sameFrame(known.frame, state.frame) ? known : known.with([], state.frame)
  const before = published.peek(cacheKey(number - 1))
  const rows = (await tx
    .select(columns)
    .from(version)
    .where(before ? eq(version.editionFrom, number) : and(heldAt(number), isNotNull(version.body)))) as StoredVersion[]
  const contents = before ? before.with(rows, state.frame) : new Contents(rows, state.frame)
  if (number <= state.live) published.set(cacheKey(number), contents)
  return contents
}

const sameFrame = (a: SiteFrame, b: SiteFrame) =>
  a.name === b.name && a.timezone === b.timezone && a.currency === b.currency && a.locale === b.locale

/** The versions the draft consists of, oldest change first; removed ones too. `of`: of these alone. */
export async function draftRows(tx: AnyDb, state: SiteState, of?: readonly VersionName[]): Promise<StoredVersion[]> {
  return (await tx
    .select(columns)
    .from(version)
    .where(and(eq(version.editionFrom, state.live + 1), of && amongNames(of)))
    .orderBy(asc(version.changedAt), asc(version.id))) as StoredVersion[]
}

export interface VersionName {
  kind: VersionedKind
  key: string
}

/** Rows of a table of things or versions that are called so. */
export const amongNames = (names: readonly VersionName[], of: { kind: AnyColumn; key: AnyColumn } = version) =>
  sql`(${of.kind}, ${of.key}) in (select * from jsonb_to_recordset(${JSON.stringify(names.map(({ kind, key }) => ({ kind, key })))}::jsonb) as named(kind text, key text))`

/** What the next edition would hold. */
export async function draftContents(tx: AnyDb, state: SiteState): Promise<StoredContents> {
  return (await contentsAt(tx, state, state.live)).with(await draftRows(tx, state))
}

/** The rules of an edition alone. */
export async function bookAt(tx: AnyDb, number: number): Promise<Rulebook> {
  const rows = await tx
    .select({ kind: version.kind, key: version.key, body: version.body })
    .from(version)
    .where(and(heldAt(number), isNotNull(version.body), inArray(version.kind, Object.keys(entryKinds))))
    .orderBy(asc(version.position), asc(version.key))
  return rulebookOf(rows.map(row => ({ ...row, kind: row.kind as EntryKind })))
}

/** One change of rules, settings or content at a time: taken before anything is read for changing, and before any other lock. */
export const lockRules = (tx: AnyDb): Promise<SiteState> => readState(tx, 'update')

/**
 * The live rules, which nobody publishes over before the transaction ends: for
 * giving what they name. Many may give at once. Take it before any other lock,
 * and not together with `lockRules`.
 */
export const lockedBook = async (tx: AnyDb): Promise<Rulebook> => bookAt(tx, (await readState(tx, 'share')).live)

/** Versions by their row, of whatever edition. */
export async function versionsOf(tx: AnyDb, rows: readonly number[]): Promise<StoredVersion[]> {
  if (!rows.length) return []
  return (await tx.select(columns).from(version).where(inRows(rows))) as StoredVersion[]
}
const inRows = (rows: readonly number[]) => sql`${version.id} = any(${sql.param(`{${rows.join(',')}}`)}::bigint[])`

/** Contents of versions by their row, for whoever may see them. */
export async function contentOf(tx: AnyDb, rows: readonly number[]): Promise<Map<number, Record<string, unknown>>> {
  if (!rows.length) return new Map()
  const found = await tx.select({ id: version.id, content: version.content }).from(version).where(inRows(rows))
  return new Map(found.map(({ id, content }) => [id, (content ?? {}) as Record<string, unknown>]))
}

export type { VersionedKind }
export { nameOf }

/** Forgets what was read of published editions: for when a database was changed from under us. */
export const forgetContents = (): void => published.clear()
