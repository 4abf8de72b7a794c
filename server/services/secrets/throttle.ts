/** Counts tries per key within a window, in the database: a restart forgets none, and all servers count together. */
import { createHash } from 'node:crypto'
import { eq, inArray, lt, sql } from 'drizzle-orm'
import type { AnyDb } from '../../db/database'
import { throttle } from '../../db/schema'
import { Problem } from '../../problem'
import type { Often } from '../../problems/problems'
import { clockDate, clockMs } from '../../clock'

export interface Limit {
  /** What is counted, such as `signIn`. */ what: string
  of: string
  most: number
  windowMs: number
}

/** Addresses and networks are personal: only their hash is kept. */
const keyOf = ({ what, of }: Pick<Limit, 'what' | 'of'>) =>
  `${what}:${createHash('sha256').update(`${what} ${of.trim().toLowerCase()}`).digest('base64url').slice(0, 32)}`

/** Counts one try against every limit; throws `too-many-tries` when one is passed. */
export async function countTry(db: AnyDb, limits: readonly Limit[], what: Often | 'sign-in'): Promise<void> {
  let overMs = 0
  for (const limit of limits) {
    const until = new Date(clockMs() + limit.windowMs).toISOString()
    const now = clockDate().toISOString()
    const [row] = await db
      .insert(throttle)
      .values({ key: keyOf(limit), tries: 1, until: new Date(until) })
      .onConflictDoUpdate({
        target: throttle.key,
        set: {
          tries: sql`case when ${throttle.until} <= ${now}::timestamptz then 1 else ${throttle.tries} + 1 end`,
          until: sql`case when ${throttle.until} <= ${now}::timestamptz then ${until}::timestamptz else ${throttle.until} end`,
        },
      })
      .returning({ tries: throttle.tries })
    if ((row?.tries ?? 0) > limit.most) overMs = Math.max(overMs, limit.windowMs)
  }
  if (!overMs) return
  const minutes = Math.round(overMs / 60_000)
  throw what === 'sign-in'
    ? new Problem('signed-in-too-often', { minutes })
    : new Problem('too-often', { what, minutes })
}

export async function forgetTries(db: AnyDb, limits: readonly Limit[]): Promise<void> {
  await db
    .delete(throttle)
    .where(limits.length === 1 ? eq(throttle.key, keyOf(limits[0]!)) : inArray(throttle.key, limits.map(keyOf)))
}

export async function dropOldTries(db: AnyDb): Promise<void> {
  await db.delete(throttle).where(lt(throttle.until, clockDate()))
}
