/** How many passed each station on the way in of late, and who waits there. */
import { sql } from 'drizzle-orm'
import { clockMs } from '../../clock'
import type { AnyDb } from '../../db/database'
import { notStrangers } from './stranger'

export const doorDays = 30

export interface DoorCounts {
  days: number
  /** Looked at the form for signing up. */ came: number
  /** Sent it and were told what is wrong, by field. */ stopped: { at: string; count: number }[]
  /** Of those who filled it in: how many confirmed their address, were let in, and came back since. */
  filled: number
  confirmed: number
  letIn: number
  started: number
  /** Have not followed the link of their mail, and for how many of them it still works. */
  unconfirmed: number
  /** Wait to be looked at. */ waiting: number
  /** Signed in, by how often. */ signedIn: number
}

export async function doorCounts(database: AnyDb): Promise<DoorCounts> {
  const since = sql`${new Date(clockMs() - doorDays * 86_400_000).toISOString()}::timestamptz`
  // Each by its own index: a month of what visitors did may be millions of rows.
  const [row] = await database.execute<{
    came: number
    signedIn: number
    filled: number
    confirmed: number
    letIn: number
    started: number
    unconfirmed: number
    waiting: number
  }>(sql`
    with newcomer as materialized (
      select p.id, p.confirmed_at, p.approved_at from person p
      where p.id in (select a.person_id from activity a where a.kind = 'signUp' and a.at > ${since}))
    select
      (select coalesce(sum(times), 0)::int from activity where kind = 'came' and at > ${since}) came,
      (select coalesce(sum(times), 0)::int from activity where kind = 'signIn' and at > ${since}) "signedIn",
      (select count(*)::int from newcomer) filled,
      (select count(confirmed_at)::int from newcomer) confirmed,
      (select count(approved_at)::int from newcomer) "letIn",
      (select count(*)::int from newcomer n where n.approved_at is not null and exists (
        select 1 from activity b where b.person_id = n.id and b.at > ${since} and b.kind in ('signIn', 'view'))) started,
      (select count(*)::int from person where approved_at is null and declined_at is null and confirmed_at is null and ${notStrangers}) unconfirmed,
      (select count(*)::int from person where approved_at is null and declined_at is null and confirmed_at is not null and ${notStrangers}) waiting`)
  const stopped = await database.execute<{ at: string; count: number }>(
    sql`select detail ->> 'at' as at, sum(times)::int count from activity where kind = 'stopped' and at > ${since} group by 1 order by 2 desc limit 8`,
  )
  return { days: doorDays, ...row!, stopped: [...stopped] }
}
