/** How many passed each station on the way in of late, and who waits there. */
import { sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { Condition } from '../../../core/conditions/condition'
import { clockMs } from '../../clock'
import type { AnyDb } from '../../db/database'
import { inTransaction } from '../../db/turn'
import { Problem } from '../../problem'
import { conditionSql } from '../people/filter/people-filter'
import type { FilterWorld } from '../people/filter/people-filter'
import { notStrangers } from './stranger'

const doorDays = 30

export interface DoorCounts {
  days: number
  /** Looked at the form for signing up. */ came: number
  /** Sent it and were told what is wrong, by field. */ stopped: { at: string; count: number }[]
  /** Of those who filled it in: how many confirmed their address, were let in, and came back since. */
  filled: number
  confirmed: number
  letIn: number
  /** Signed in, or came in by the link they confirmed with. */ started: number
  /** Have not followed the link of their mail, and for how many of them it still works. */
  unconfirmed: number
  /** Of those who filled it in: whom a sentence says to look at. */ lookedAt: number | null
  /** Wait to be looked at. */ waiting: number
  /** Signed in, by how often. */ signedIn: number
}

/** Null where it cannot be asked of a list of people. */
function lookedSql(lookAt: Condition, world: FilterWorld): SQL | null {
  try {
    return sql`(${conditionSql(lookAt, world)}) is not false`
  } catch (error) {
    if (error instanceof Problem && error.reason === 'not-asked-of-people') return null
    throw error
  }
}

type Counted = Omit<DoorCounts, 'days' | 'stopped'>

export async function doorCounts(database: AnyDb, world: FilterWorld, lookAt: Condition | null): Promise<DoorCounts> {
  // Whoever is known not to be such is let in unlooked at.
  const looked = lookAt && lookedSql(lookAt, world)
  const since = sql`${new Date(clockMs() - doorDays * 86_400_000).toISOString()}::timestamptz`
  const [counted, stopped] = await inTransaction<[Counted, DoorCounts['stopped']]>(
    database,
    async tx => {
      // Newcomers are few among all people: each is looked up, not everybody read.
      await tx.execute(
        sql`select set_config('enable_hashjoin', 'off', true), set_config('enable_mergejoin', 'off', true), set_config('jit', 'off', true)`,
      )
      const [row] = await tx.execute<Counted & Record<string, unknown>>(sql`
        with who as materialized (
          select a.person_id, bool_or(a.kind = 'signIn') started, coalesce(sum(a.times) filter (where a.kind = 'signIn'), 0) times, bool_or(a.kind = 'signUp') is_new
          from activity a where a.kind in ('signUp', 'signIn') and a.at > ${since} group by 1),
        newcomer as materialized (
          select person.confirmed_at, person.approved_at, who.started, ${looked ?? sql`null::boolean`} looked from who join person on person.id = who.person_id where who.is_new),
        waits as materialized (
          select confirmed_at from person where approved_at is null and declined_at is null and ${notStrangers})
        select
          (select coalesce(sum(times), 0)::int from activity where kind = 'came' and at > ${since}) came,
          (select coalesce(sum(times), 0)::int from who) "signedIn",
          (select count(*)::int from newcomer) filled,
          ${looked ? sql`(select count(*) filter (where looked)::int from newcomer)` : sql`null::int`} "lookedAt",
          (select count(confirmed_at)::int from newcomer) confirmed,
          (select count(approved_at)::int from newcomer) "letIn",
          (select count(*) filter (where approved_at is not null and started)::int from newcomer) started,
          (select count(*) filter (where confirmed_at is null)::int from waits) unconfirmed,
          (select count(confirmed_at)::int from waits) waiting`)
      const fields = await tx.execute<{ at: string; count: number }>(
        sql`select detail ->> 'at' as at, sum(times)::int count from activity where kind = 'stopped' and at > ${since} group by 1 order by 2 desc limit 8`,
      )
      return [row!, [...fields]]
    },
    { accessMode: 'read only' },
  )
  return { days: doorDays, ...counted, stopped }
}
