/** Everything rules may look at about one person: what they and their firm hold. */
import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { Visitor } from '../../../core/visitor/visitor'
import type { AnyDb } from '../../db/database'
import { person } from '../../db/schema'

type Held = { level: string; since: string; until: string | null }

const heldRows = (from: SQL) =>
  sql<
    Held[]
  >`coalesce((select json_agg(json_build_object('level', h.level, 'since', to_json(h.since), 'until', to_json(h.until))) from (${from}) h), '[]'::json)`

/** Whether an order counts as bought: it is paid, and not wholly given back. */
export const isPaid = (order: SQL) => sql`${order}.state in ('paid', 'sent')`

/** Roles somebody has by what was bought for them, for as long as it is not given back. */
const rolesBought = sql`select jsonb_array_elements_text(l.gives -> 'roles') from order_line l join shop_order o on o.id = l.order_id
      where l.given_to = person.id and ${isPaid(sql`o`)} and l.refunded_pieces < l.quantity and l.gives ? 'roles'`

/** Columns that make a visitor, for a query over `person`. A firm's levels and roles are its people's. */
export const visitorColumns = {
  id: person.id,
  name: person.name,
  email: person.email,
  facts: person.facts,
  firm: sql<string | null>`(select fm.firm_id from firm_member fm where fm.person_id = person.id)`,
  firmFacts: sql<Record<
    string,
    string
  > | null>`(select f.facts from firm_member fm join firm f on f.id = fm.firm_id where fm.person_id = person.id and f.facts <> '{}')`,
  levels: heldRows(sql`
    select m.level, m.since, m.until from membership m where m.person_id = person.id
    union all select fl.level, fl.since, fl.until from firm_member fm join firm_level fl on fl.firm_id = fm.firm_id where fm.person_id = person.id`),
  roles: sql<string[]>`coalesce((select json_agg(r.role) from (
    select g.role from role_grant g where g.person_id = person.id
    union select fr.role from firm_member fm join firm_role fr on fr.firm_id = fm.firm_id where fm.person_id = person.id
    union ${rolesBought}) r), '[]'::json)`,
  /** Of orders that are paid and not given back: products, the categories they lay in, how many orders, what was spent. */
  bought: sql<NonNullable<Visitor['bought']> | null>`(
    select json_build_object(
      'orders', count(*)::int,
      'spent', sum(o.gross - o.refunded)::float8,
      'products', (select coalesce(json_agg(distinct l.product), '[]'::json) from order_line l join shop_order b on b.id = l.order_id
        where b.person_id = person.id and ${isPaid(sql`b`)} and l.refunded_pieces < l.quantity),
      'categories', (select coalesce(json_agg(distinct c.category), '[]'::json) from order_line l join shop_order b on b.id = l.order_id
        cross join unnest(l.categories) as c(category)
        where b.person_id = person.id and ${isPaid(sql`b`)} and l.refunded_pieces < l.quantity))
    from shop_order o where o.person_id = person.id and ${isPaid(sql`o`)} having count(*) > 0)`,
  basket: sql<
    NonNullable<Visitor['basket']>
  >`coalesce((select json_agg(json_build_object('product', b.product, 'quantity', b.quantity) order by b.added_at, b.product) from basket_line b where b.person_id = person.id), '[]'::json)`,
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
  firmFacts: Record<string, string> | null
  levels: Held[]
  roles: string[]
  codes: NonNullable<Visitor['codes']>
  bought: NonNullable<Visitor['bought']> | null
  basket: NonNullable<Visitor['basket']>
}

export function visitorFrom({
  id,
  name,
  email,
  facts,
  firm,
  firmFacts,
  levels,
  roles,
  codes,
  bought,
  basket,
}: VisitorRow): Visitor {
  return {
    person: { id, name, email },
    ...(firm ? { firm } : {}),
    ...(firmFacts ? { firmFacts } : {}),
    levels,
    roles,
    facts,
    ...(codes.length ? { codes } : {}),
    ...(bought ? { bought } : {}),
    ...(basket.length ? { basket } : {}),
  }
}

export async function visitorOf(db: AnyDb, personId: string): Promise<Visitor | null> {
  const [row] = await db.select(visitorColumns).from(person).where(eq(person.id, personId))
  return row ? visitorFrom(row) : null
}
