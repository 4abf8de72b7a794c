/**
 * Which addresses of the site were asked for lately, and how often: whoever writes a gate on addresses sees what it would
 * have stopped. Of what an address carried only the names are kept, never what they were given; of whoever asked, nothing.
 */
import { and, desc, eq, inArray, lt, sql } from 'drizzle-orm'
import { clockDate, clockMs } from '../../clock'
import { besideDb } from '../../db/database'
import type { AnyDb } from '../../db/database'
import { askedAddress } from '../../db/schema'
import { inTransaction } from '../../db/turn'
import { logFault } from '../../log'

const keptMs = 14 * 86_400_000
const flushMs = 5000
/** Addresses between two writings, those kept, characters of one, and names of what it carried. */
const most = { waiting: 300, kept: 2000, path: 200, names: 5, name: 40 }

let waiting = new Map<string, { path: string; carried: string; count: number }>()
let timer: ReturnType<typeof setTimeout> | undefined

/** Notes that an address was asked for; written by and by, beside the answers. */
export function noteAsked(path: string, query: Readonly<Record<string, unknown>>): void {
  if (path.length > most.path) return
  const names = Object.keys(query).filter(name => name.length <= most.name)
  const carried = names.length > most.names ? '' : names.sort().join('&')
  const key = `${path}?${carried}`
  const before = waiting.get(key)
  if (before) before.count++
  else if (waiting.size < most.waiting) waiting.set(key, { path, carried, count: 1 })
  timer ??= setTimeout(() => void flushAsked().catch(error => logFault('asked addresses', error)), flushMs)
  timer.unref()
}

/** Those known before are counted on; of others as many as there is room for. */
export async function flushAsked(database: AnyDb = besideDb()): Promise<void> {
  clearTimeout(timer)
  timer = undefined
  const rows = [...waiting.values()]
  waiting = new Map()
  if (!rows.length) return
  await inTransaction(database, async tx => {
    const known = await tx
      .select({ path: askedAddress.path, carried: askedAddress.carried })
      .from(askedAddress)
      .where(inArray(askedAddress.path, [...new Set(rows.map(one => one.path))]))
    const before = new Set(known.map(one => `${one.path}?${one.carried}`))
    let room = most.kept - (await tx.$count(askedAddress))
    const kept = rows.filter(one => before.has(`${one.path}?${one.carried}`) || room-- > 0)
    if (!kept.length) return
    // In one order, so that two servers that write at once do not wait for each other in a ring.
    kept.sort((a, b) => (a.path + a.carried < b.path + b.carried ? -1 : 1))
    await tx
      .insert(askedAddress)
      .values(kept.map(one => ({ ...one, lastAt: clockDate() })))
      .onConflictDoUpdate({
        target: [askedAddress.path, askedAddress.carried],
        set: { count: sql`${askedAddress.count} + excluded.count`, lastAt: sql`excluded.last_at` },
      })
  })
}

/** The most asked for first. */
export const askedLately = (db: AnyDb) =>
  db
    .select({ path: askedAddress.path, carried: askedAddress.carried, count: askedAddress.count })
    .from(askedAddress)
    .orderBy(desc(askedAddress.count), askedAddress.path, askedAddress.carried)
    .limit(most.kept)

/** What was asked for once and long ago makes room. */
export async function dropOldAsked(db: AnyDb): Promise<void> {
  await db.delete(askedAddress).where(lt(askedAddress.lastAt, new Date(clockMs() - keptMs)))
  const full = (await db.$count(askedAddress)) >= most.kept
  const dayAgo = new Date(clockMs() - 86_400_000)
  if (full) await db.delete(askedAddress).where(and(eq(askedAddress.count, 1), lt(askedAddress.lastAt, dayAgo)))
}
