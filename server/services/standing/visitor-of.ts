/** Everything rules may look at about one person: what they and their firm hold. */
import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { Visitor } from '../../../core/visitor/visitor'
import type { Tx } from '../../db/database'
import { person } from '../../db/schema'

type Held = { level: string; since: string; until: string | null }

const heldRows = (from: SQL) =>
  sql<
    Held[]
  >`coalesce((select json_agg(json_build_object('level', h.level, 'since', to_json(h.since), 'until', to_json(h.until))) from (${from}) h), '[]'::json)`

/** Columns that make a visitor, for a query over `person`. A firm's levels and roles are its people's. */
export const visitorColumns = {
  id: person.id,
  name: person.name,
  email: person.email,
  facts: person.facts,
  firm: sql<string | null>`(select fm.firm_id from firm_member fm where fm.person_id = person.id)`,
  levels: heldRows(sql`
    select m.level, m.since, m.until from membership m where m.person_id = person.id
    union all select fl.level, fl.since, fl.until from firm_member fm join firm_level fl on fl.firm_id = fm.firm_id where fm.person_id = person.id`),
  roles: sql<string[]>`coalesce((select json_agg(r.role) from (
    select g.role from role_grant g where g.person_id = person.id
    union select fr.role from firm_member fm join firm_role fr on fr.firm_id = fm.firm_id where fm.person_id = person.id) r), '[]'::json)`,
  /** Uses of codes that are kept for them, and until when each. */
  codes: sql<
    NonNullable<Visitor['codes']>
  >`coalesce((select json_agg(json_build_object('offer', u.offer, 'code', u.word, 'until', to_json(u.until))) from code_use u where u.person_id = person.id and u.used_at is null), '[]'::json)`,
}

/** Of people those who may come in now: confirmed, approved, and neither declined nor suspended. */
export const mayComeIn = and(
  isNull(person.suspendedAt),
  isNull(person.declinedAt),
  isNotNull(person.confirmedAt),
  isNotNull(person.approvedAt),
)

interface VisitorRow {
  id: string
  name: string
  email: string
  facts: Record<string, unknown>
  firm: string | null
  levels: Held[]
  roles: string[]
  codes: NonNullable<Visitor['codes']>
}

export function visitorFrom({ id, name, email, facts, firm, levels, roles, codes }: VisitorRow): Visitor {
  return {
    person: { id, name, email },
    ...(firm ? { firm } : {}),
    levels,
    roles,
    facts,
    ...(codes.length ? { codes } : {}),
  }
}

export async function visitorOf(db: Tx, personId: string): Promise<Visitor | null> {
  const [row] = await db.select(visitorColumns).from(person).where(eq(person.id, personId))
  return row ? visitorFrom(row) : null
}
