/** How this server and what it needs are doing. */
import { sql } from 'drizzle-orm'
import { besideDb } from '../db/database'
import { log } from '../log'
import { gauges } from '../metrics'
import { keptSize } from './pages/kept-pages'
import { snapshot, snapshotAge } from './live/snapshot'

export interface Readiness {
  ready: boolean
  database: boolean
  /** Seconds since the live rules were known to be the newest. */ snapshotAge: number | null
  edition: number | null
  /** Of the oldest that is due, in seconds. */ queueAge: number | null
  /** Files whose bytes are not what they were: they are sent to nobody. */ damagedFiles: number | null
  /** Seconds this server's clock is before the database's; below nothing it is behind. */ clockAhead: number | null
}

interface Queues extends Record<string, unknown> {
  mails: number
  mailAge: number | null
  notices: number | null
  damagedFiles: number
  /** Milliseconds since 1970, by the database. */ now: number
  purchases: number
}

/** Milliseconds clocks may be apart before it is told: longer than any answer takes on its way. */
const apartMs = 3000
/** Milliseconds: whoever asks whether we are ready does not wait long. */
const patienceMs = 2000

async function queues(): Promise<Queues | null> {
  const asked = besideDb()
    .execute<Queues>(
      sql`select
    (select count(*)::int from mail_out where state = 'queued') mails,
    (select extract(epoch from now() - min(next_try_at))::float8 from mail_out where state = 'queued' and next_try_at <= now()) "mailAge",
    (select extract(epoch from now() - min(next_try_at))::float8 from notice_due where next_try_at <= now()) notices,
    (select count(*)::int from file where damage is not null) "damagedFiles",
    extract(epoch from clock_timestamp())::float8 * 1000 now,
    (select count(*)::int from purchase where state = 'pending') purchases`,
    )
    .then(
      rows => rows[0] ?? null,
      () => null,
    )
  return Promise.race([asked, new Promise<null>(resolve => setTimeout(resolve, patienceMs, null))])
}

const rounded = (seconds: number | null) =>
  seconds === null || !Number.isFinite(seconds) ? null : Math.round(seconds * 10) / 10

export async function readiness(): Promise<Readiness> {
  const [live, waiting] = await Promise.all([snapshot().catch(() => null), queues()])
  const aheadMs = waiting && Date.now() - waiting.now
  if (aheadMs !== null && Math.abs(aheadMs) > apartMs)
    log().warn({ aheadMs: Math.round(aheadMs) }, 'the clocks of this server and of the database are apart')
  return {
    ready: live !== null && waiting !== null,
    database: waiting !== null,
    snapshotAge: rounded(snapshotAge()),
    edition: live?.edition ?? null,
    clockAhead: rounded(aheadMs === null ? null : aheadMs / 1000),
    damagedFiles: waiting && waiting.damagedFiles,
    queueAge: waiting && rounded(Math.max(waiting.mailAge ?? 0, waiting.notices ?? 0)),
  }
}

/** Reads what the gauges show. What cannot be read now keeps its last value out of the answer. */
export async function measure(): Promise<void> {
  const waiting = await queues()
  gauges.snapshotAge.set(Number.isFinite(snapshotAge()) ? snapshotAge() : -1)
  gauges.edition.set((await snapshot().catch(() => null))?.edition ?? 0)
  const { pages, bytes } = keptSize()
  gauges.keptPages.set(pages)
  gauges.keptBytes.set(bytes)
  gauges.pool.reset()
  if (!waiting) return
  gauges.mailWaiting.set(waiting.mails)
  gauges.mailAge.set(waiting.mailAge ?? 0)
  gauges.purchases.set(waiting.purchases)
  gauges.damagedFiles.set(waiting.damagedFiles)
  const lines = await besideDb()
    .execute<{ application: string; state: string; count: number }>(
      sql`
    select application_name application, coalesce(state, 'unknown') state, count(*)::int count from pg_stat_activity where datname = current_database() and application_name like 'bravik%' group by 1, 2`,
    )
    .catch(() => [])
  for (const { application, state, count } of lines) gauges.pool.set({ application, state }, count)
}
