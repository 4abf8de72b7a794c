/** The record of who did what when. */
import { and, desc, eq, lt, sql } from 'drizzle-orm'
import type { TraceAction } from '../core/trace/trace-actions'
import type { AnyDb } from './db/database'
import { firm as firmTable, person as personTable, trace } from './db/schema'
import { noteTraced } from './db/turn'

export interface Actor {
  id: string | null
  name: string
}

/** Writes one line, in the transaction of what it tells about. */
export async function leaveTrace(
  tx: AnyDb,
  actor: Actor,
  action: TraceAction,
  subject: string,
  detail: Record<string, unknown> = {},
): Promise<void> {
  noteTraced()
  await tx.insert(trace).values({ personId: actor.id, who: actor.name, action, subject, detail })
}

export interface TraceLine {
  id: number
  at: Date
  /** Null where these rights do not name people. */
  who: string | null
  personId: string | null
  action: string
  subject: string
  /** Of a firm its name; of a person theirs, where these rights name people. */
  about: string | null
  detail: unknown
}

export interface TraceAsk {
  subject?: string | undefined
  person?: string | undefined
  day?: string | undefined
  before?: number | undefined
}

const page = 100

/**
 * Lines, newest first, a page at a time; `more` is what to ask for next as `before`, null at the end.
 * `told.people`: with who it was. `told.details`: with what was given, which may be anything.
 */
export async function readTrace(
  tx: AnyDb,
  { subject, person, day, before }: TraceAsk,
  { timezone, told }: { timezone: string; told: { people: boolean; details: boolean } },
): Promise<{ lines: TraceLine[]; more: number | null }> {
  const start = sql`(${day ?? null}::date)::timestamp at time zone ${timezone}`
  const end = sql`(${day ?? null}::date + 1)::timestamp at time zone ${timezone}`
  const rows = await tx
    .select({ line: trace, about: personTable.name, firm: firmTable.name })
    .from(trace)
    .leftJoin(
      personTable,
      sql`${trace.subject} like 'person %' and ${personTable.id} = substring(${trace.subject} from 8)`,
    )
    .leftJoin(firmTable, sql`${trace.subject} like 'firm %' and ${firmTable.id} = substring(${trace.subject} from 6)`)
    .where(
      and(
        subject === undefined ? undefined : eq(trace.subject, subject),
        person === undefined ? undefined : eq(trace.personId, person),
        day === undefined ? undefined : sql`${trace.at} >= ${start} and ${trace.at} < ${end}`,
        before === undefined ? undefined : lt(trace.id, before),
      ),
    )
    .orderBy(desc(trace.id))
    .limit(page + 1)
  const lines = rows
    .slice(0, page)
    .map(({ line: { id, at, who, personId, action, subject: of, detail }, about, firm }) => ({
      id,
      at,
      who: told.people ? who : null,
      personId: told.people ? personId : null,
      action,
      subject: of,
      about: firm ?? (told.people ? about : null),
      detail: told.details ? detail : null,
    }))
  return { lines, more: rows.length > page ? lines.at(-1)!.id : null }
}
