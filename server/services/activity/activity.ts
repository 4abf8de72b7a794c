/** What people do, written down beside the response, never before it; kept by month, read as counts and lists. */
import { inTransaction } from '../../db/turn'
import { sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import { z } from 'zod'
import type { Asker } from '../../../core/visitor/asker'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { clockDate, clockMs } from '../../clock'
import { besideDb } from '../../db/database'
import type { AnyDb, Tx } from '../../db/database'
import { lockFor } from '../../db/locks'
import { rowsOf } from '../../db/rows-of'
import { logFault } from '../../log'
import { within } from '../../within'
import { activity } from '../../db/activity-table'
import { activityKinds } from '../../../core/activity-kinds'
import type { ActivityKind } from '../../../core/activity-kinds'
import { staffRolesOf } from '../staff/authorise'

export type ActivityRow = typeof activity.$inferInsert

/** What is known of the gate of a refusal may be found out later, off the way of whoever was refused. */
type Noted = Omit<ActivityRow, 'gate'> & { gate?: string | null | (() => string | null) }

let waiting: Noted[] = []
let timer: ReturnType<typeof setTimeout> | undefined
let writing: Promise<void> | undefined
let afterwards: Promise<void> | undefined
const flushMs = 500
/** More than this waits for nobody: the database is away, and a server must not fill its memory. */
const mostWaiting = 20_000

/** Notes what happened; it is written shortly after. */
export function record(row: Omit<Noted, 'at'>): void {
  if (waiting.length < mostWaiting) waiting.push({ at: clockDate(), ...row })
  timer ??= setTimeout(() => void flushActivity().catch(error => logFault('activity', error)), flushMs)
}

/** Writes what waits; one at a time, so that a lock held elsewhere takes one line and not all. */
export function flushActivity(database: AnyDb = besideDb()): Promise<void> {
  clearTimeout(timer)
  timer = undefined
  if (writing)
    return (afterwards ??= writing
      .catch(() => {})
      .then(() => {
        afterwards = undefined
        return flushActivity(database)
      }))
  const rows = together(
    waiting.map(({ gate, ...row }): ActivityRow => ({
      ...row,
      ...(gate === undefined ? {} : { gate: typeof gate === 'function' ? gate() : gate }),
    })),
  )
  waiting = []
  writing = writeRows(database, rows).finally(() => {
    writing = undefined
  })
  return writing
}

/** What is the same of one flush, half a second as a rule, is one row that says how often. */
function together(rows: readonly ActivityRow[]): ActivityRow[] {
  const alike = new Map<string, ActivityRow>()
  for (const row of rows) {
    const { kind, personId, tier, subjectKind, subjectId, gate, detail, times = 1 } = row
    const key = JSON.stringify([kind, personId, tier, subjectKind, subjectId, gate, detail])
    const first = alike.get(key)
    if (first) first.times = (first.times ?? 1) + times
    else alike.set(key, { ...row, times })
  }
  return [...alike.values()]
}

const shape =
  'at timestamptz, kind text, "personId" text, tier text, "subjectKind" text, "subjectId" text, gate text, times integer, detail jsonb'

async function writeRows(database: AnyDb, rows: ActivityRow[]): Promise<void> {
  for (let i = 0; i < rows.length; i += 1000) {
    const part = rows.slice(i, i + 1000)
    try {
      // One value for all of them: a busy server would spend a tenth of its time on naming each of eight thousand.
      const given = part.map(row => ({ detail: {}, times: 1, ...row, at: row.at.toISOString() }))
      const columns = sql`at, kind, person_id, tier, subject_kind, subject_id, gate, times, detail`
      await database.execute(
        sql`insert into ${activity} (${columns}) select at, kind, "personId", tier, "subjectKind", "subjectId", gate, times, detail from ${rowsOf(given, shape)}`,
      )
    } catch (error) {
      // They wait for the next time.
      waiting = [...rows.slice(i), ...waiting].slice(0, mostWaiting)
      throw error
    }
  }
}

/** Milliseconds that a reader waits for what was noted last. */
const readerWaitsMs = 1000

/** For reading right after: writes what waits, but waits for no lock. */
export async function settleActivity(): Promise<void> {
  await within(readerWaitsMs, flushActivity())
}

/** The tier that says most about somebody: staff, the highest level, the first visitor role, signed in, guest. */
export function tierOf(asker: Asker, book: Rulebook): string {
  if (!asker.signedIn) return 'guest'
  const staff = staffRolesOf(book)
  if ([...asker.roles].some(role => staff.has(role))) return 'staff'
  const levels = [...asker.levels.keys()].sort(
    (a, b) => (asker.holdings.ranks.get(b) ?? 0) - (asker.holdings.ranks.get(a) ?? 0),
  )
  if (levels[0]) return levels[0]
  const roles = new Set((book.roles ?? []).map(role => role.id))
  return [...asker.roles].find(role => roles.has(role)) ?? 'signed-in'
}

const month = (at: Date, ahead = 0) => new Date(Date.UTC(at.getUTCFullYear(), at.getUTCMonth() + ahead, 1))
const nameOf = (at: Date) => `activity_${at.getUTCFullYear()}_${String(at.getUTCMonth() + 1).padStart(2, '0')}`

/** Whoever waits for the whole table, such as for the end of a dump, holds up everybody behind: soon given up, tried again at the next upkeep. */
const boundLocks = (tx: Tx) => tx.execute(sql`set local lock_timeout = '800ms'`)

/** Makes the partitions of this month and the next two. Rows of a month without one lie in `activity_other`. */
export async function makeMonths(database: AnyDb, now = clockDate()): Promise<void> {
  for (const ahead of [0, 1, 2]) {
    const from = month(now, ahead)
    const name = sql.identifier(nameOf(from))
    await inTransaction(database, async tx => {
      await boundLocks(tx)
      // Several servers may start at once; one of them makes the month.
      await lockFor(tx, 'months')
      const exists = await tx.execute(sql`select 1 from pg_class where relname = ${nameOf(from)}`)
      if (exists.length) return
      await tx.execute(sql`lock table activity in share row exclusive mode`)
      await tx.execute(sql`create table ${name} (like activity including defaults including indexes)`)
      await tx.execute(
        sql`with moved as (delete from activity_other where at >= ${from.toISOString()}::timestamptz and at < ${month(now, ahead + 1).toISOString()}::timestamptz returning *) insert into ${name} select * from moved`,
      )
      await tx.execute(
        sql`alter table activity attach partition ${name} for values from (${sql.raw(`'${from.toISOString()}'`)}) to (${sql.raw(`'${month(now, ahead + 1).toISOString()}'`)})`,
      )
    })
  }
}

/** Drops whole months older than `keepMonths`; answers their names. */
export async function dropOldMonths(database: AnyDb, keepMonths: number, now = clockDate()): Promise<string[]> {
  const first = nameOf(month(now, -keepMonths))
  const rows = await database.execute<{ name: string }>(
    sql`select c.relname name from pg_inherits i join pg_class c on c.oid = i.inhrelid join pg_class p on p.oid = i.inhparent where p.relname = 'activity' and c.relname ~ '^activity_\\d{4}_\\d{2}$' and c.relname < ${first}`,
  )
  for (const { name } of rows) {
    await inTransaction(database, async tx => {
      await boundLocks(tx)
      await tx.execute(sql`drop table ${sql.identifier(name)}`)
    })
  }
  await database.execute(
    sql`delete from activity_other where at < ${month(now, -keepMonths).toISOString()}::timestamptz`,
  )
  return rows.map(row => row.name)
}

export const activityQuery = z.strictObject({
  kind: z.enum(activityKinds).optional(),
  tier: z.string().max(100).optional(),
  person: z.string().max(100).optional(),
  subjectKind: z.string().max(40).optional(),
  subject: z.string().max(200).optional(),
  gate: z.string().max(200).optional(),
  day: z.iso.date().optional(),
  /** Of those who hold it: `level guild`, `role stockist`, `firm gullhaven`. */
  holding: z
    .string()
    .regex(/^(level|role|firm) \S+$/, 'A group such as “level guild” is expected.')
    .max(200)
    .optional(),
  /** Days back from now; default 30. */
  days: z.coerce.number().int().min(1).max(800).default(30),
})
export type ActivityQuery = z.infer<typeof activityQuery>

/** What is asked, and of whom alone: ids of people as a query. */
export type AskedActivity = Omit<ActivityQuery, 'holding'> & { among?: SQL | undefined }

function where(query: AskedActivity, timezone: string) {
  const parts = [
    query.day
      ? sql`(a.at at time zone ${timezone})::date = ${query.day}::date`
      : sql`a.at > ${new Date(clockMs() - query.days * 86_400_000).toISOString()}::timestamptz`,
    ...(query.kind ? [sql`a.kind = ${query.kind}`] : []),
    ...(query.tier ? [sql`a.tier = ${query.tier}`] : []),
    ...(query.person ? [sql`a.person_id = ${query.person}`] : []),
    ...(query.subjectKind ? [sql`a.subject_kind = ${query.subjectKind}`] : []),
    ...(query.subject ? [sql`a.subject_id = ${query.subject}`] : []),
    ...(query.among ? [sql`a.person_id in (${query.among})`] : []),
    ...(query.gate ? [sql`a.gate = ${query.gate}`] : []),
  ]
  return sql.join(parts, sql` and `)
}

export interface ListedActivity {
  at: string
  kind: ActivityKind
  tier: string
  personId: string | null
  name: string | null
  subjectKind: string | null
  subjectId: string | null
  gate: string | null
  /** So often within that moment. */ times: number
  detail: Record<string, unknown>
}

/** The list behind a number, newest first, at most 300. `withPeople`: with who it was. */
export async function listActivity(
  database: AnyDb,
  query: AskedActivity,
  timezone: string,
  withPeople: boolean,
): Promise<{ rows: ListedActivity[]; count: number }> {
  const rows = await database.execute<ListedActivity & Record<string, unknown>>(sql`
    select to_json(a.at) #>> '{}' as at, a.kind, a.tier, a.person_id "personId", p.name, a.subject_kind "subjectKind", a.subject_id "subjectId", a.gate, a.times, a.detail
    from activity a left join person p on p.id = a.person_id where ${where(query, timezone)} order by a.at desc limit 300`)
  const [total] = await database.execute<{ count: number }>(
    sql`select coalesce(sum(a.times), 0)::int count from activity a where ${where(query, timezone)}`,
  )
  // Who it was is told to who may look at people; that somebody was here, to who may look at activity.
  return {
    rows: withPeople ? [...rows] : rows.map(row => ({ ...row, personId: null, name: null })),
    count: total!.count,
  }
}

export interface ActivitySummary {
  perDay: { day: string; tier: string; count: number }[]
  perKind: { kind: ActivityKind; count: number }[]
  walls: { subjectKind: string; subjectId: string; gate: string | null; count: number; people: number }[]
  funnel: { signUps: number; confirmed: number; approved: number; members: number }
}

/** How many were refused of late, and where most. */
export async function mostRefused(database: AnyDb, days: number) {
  const since = sql`${new Date(clockMs() - days * 86_400_000).toISOString()}::timestamptz`
  const rows = await database.execute<{ kind: string; id: string; count: number; all: number }>(
    sql`select subject_kind kind, subject_id id, sum(times)::int count, (sum(sum(times)) over ())::int "all" from activity where kind = 'refused' and at > ${since} group by 1, 2 order by 3 desc, 2 limit 3`,
  )
  return { count: rows[0]?.all ?? 0, most: rows.map(({ all: _, ...row }) => row) }
}

/** Counts for the charts. Days are the site's own. */
export async function summarise(database: AnyDb, query: AskedActivity, timezone: string): Promise<ActivitySummary> {
  const chosen = where(query, timezone)
  const perDay = await database.execute<{ day: string; tier: string; count: number }>(
    sql`select to_char((a.at at time zone ${timezone})::date, 'YYYY-MM-DD') "day", a.tier, sum(a.times)::int count from activity a where ${chosen} group by 1, 2 order by 1`,
  )
  const perKind = await database.execute<{ kind: ActivityKind; count: number }>(
    sql`select a.kind, sum(a.times)::int count from activity a where ${where({ ...query, kind: undefined }, timezone)} group by 1 order by 2 desc`,
  )
  const walls = await database.execute<ActivitySummary['walls'][number]>(
    sql`select a.subject_kind "subjectKind", a.subject_id "subjectId", a.gate, sum(a.times)::int count, count(distinct a.person_id)::int people from activity a where ${where({ ...query, kind: 'refused' }, timezone)} group by 1, 2, 3 order by 4 desc, 2 limit 12`,
  )
  const since = sql`${new Date(clockMs() - query.days * 86_400_000).toISOString()}::timestamptz`
  const [funnel] = await database.execute<ActivitySummary['funnel']>(sql`
    select count(*)::int "signUps", count(confirmed_at)::int confirmed, count(approved_at)::int approved,
      (count(*) filter (where exists (select 1 from membership m where m.person_id = person.id and m.source = 'bought')))::int members
    from person where created_at > ${since}`)
  return { perDay: [...perDay], perKind: [...perKind], walls: [...walls], funnel: funnel! }
}
