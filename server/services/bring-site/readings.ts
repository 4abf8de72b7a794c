/** Reading another site: asked for, looked at while it goes on, given up. One at a time; the job reads (`read-on.ts`). */
import { and, asc, desc, eq, inArray, lt, sql } from 'drizzle-orm'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { lockFor } from '../../db/locks'
import { afterCommit } from '../../db/turn'
import { siteReading, siteReadingItem } from '../../db/schema'
import { ask } from '../../jobs/jobs'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { newId } from '../secrets/tokens'
import { readSettings } from '../settings/settings'
import { refusedOutside } from './outside'
import { afterReading } from '../../../core/outside/reading-states'
import type { ReadingOutcome, ReadingState } from '../../../core/outside/reading-states'

/** What was read is forgotten after so long, as its pictures are that nothing names; milliseconds. */
const keptMs = 86_400_000

export type Reading = typeof siteReading.$inferSelect
export const openStates: ReadingState[] = ['asked', 'reading']

/** Throws `bad-outside-address`, `not-read-from` or `reading-under-way`. */
export async function askForReading(tx: Tx, given: string, actor: Actor & { id: string }): Promise<void> {
  const url = URL.canParse(given) ? new URL(given) : undefined
  if (!url || !/^https?:$/.test(url.protocol)) throw new Problem('bad-outside-address', {}, { at: '/address' })
  const { outside } = await readSettings(tx)
  const refused = refusedOutside(url, outside.readFrom)
  if (refused) throw new Problem('not-read-from', { why: refused }, { at: '/address' })
  await lockFor(tx, 'siteReading')
  const [open] = await tx.select().from(siteReading).where(inArray(siteReading.state, openStates))
  if (open) throw new Problem('reading-under-way', { address: open.address })
  // What was read before makes room for what is read now.
  await tx.delete(siteReading)
  url.hash = ''
  url.search = ''
  const address = url.href
  await tx
    .insert(siteReading)
    .values({ id: newId('sr'), address, personId: actor.id, who: actor.name, askedAt: clockDate() })
  await leaveTrace(tx, actor, 'site.read', `site ${url.host}`, { address })
  await afterCommit(() => ask('site-reading'))
}

/** Gives up the one under way; what was read until then stays. Once it is over there is nothing to give up. */
export async function leaveReading(tx: Tx, actor: Actor): Promise<void> {
  await lockFor(tx, 'siteReading')
  const [open] = await tx.select().from(siteReading).where(inArray(siteReading.state, openStates)).for('update')
  if (!open) throw new Problem('no-reading')
  await tx
    .update(siteReading)
    .set({ state: afterReading(open.state, 'leave')!, endedAt: clockDate(), holder: null, heldUntil: null })
    .where(eq(siteReading.id, open.id))
  await leaveTrace(tx, actor, 'site.read-leave', `site ${new URL(open.address).host}`)
}

export interface ReadingTold {
  address: string
  state: ReadingState
  foundBy: 'site map' | 'links' | null
  why: string | null
  who: string
  askedAt: Date
  pages: { found: number; done: number; read: number }
  pictures: { found: number; done: number; read: number }
}

/** The last one asked for, with how far it is. */
export async function readingTold(db: AnyDb): Promise<ReadingTold | null> {
  const [one] = await db.select().from(siteReading).orderBy(desc(siteReading.askedAt)).limit(1)
  if (!one) return null
  const counts = await db
    .select({
      sort: siteReadingItem.sort,
      found: sql<number>`count(*)::int`,
      done: sql<number>`count(${siteReadingItem.outcome})::int`,
      read: sql<number>`count(*) filter (where ${siteReadingItem.outcome} ?| array['page', 'picture'])::int`,
    })
    .from(siteReadingItem)
    .where(eq(siteReadingItem.reading, one.id))
    .groupBy(siteReadingItem.sort)
  const of = (sort: 'page' | 'picture') => {
    const { found = 0, done = 0, read = 0 } = counts.find(each => each.sort === sort) ?? {}
    return { found, done, read }
  }
  const { address, state, foundBy, why, who, askedAt } = one
  return { address, state, foundBy, why, who, askedAt, pages: of('page'), pictures: of('picture') }
}

export interface ReadItem {
  sort: 'page' | 'picture'
  address: string
  outcome: ReadingOutcome | null
}
/** All that was found, in the order it was found; throws `no-reading`, or `reading-under-way` before its end. */
export async function itemsRead(db: AnyDb): Promise<{ reading: Reading; items: ReadItem[] }> {
  const [reading] = await db.select().from(siteReading).orderBy(desc(siteReading.askedAt)).limit(1)
  if (!reading) throw new Problem('no-reading')
  if (openStates.includes(reading.state)) throw new Problem('reading-under-way', { address: reading.address })
  const items = await db
    .select({ sort: siteReadingItem.sort, address: siteReadingItem.address, outcome: siteReadingItem.outcome })
    .from(siteReadingItem)
    .where(eq(siteReadingItem.reading, reading.id))
    .orderBy(asc(siteReadingItem.id))
  return { reading, items }
}

export const dropOldReadings = (db: AnyDb) =>
  db
    .delete(siteReading)
    .where(
      and(sql`${siteReading.state} not in ('asked', 'reading')`, lt(siteReading.endedAt, new Date(clockMs() - keptMs))),
    )
