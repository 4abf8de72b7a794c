/** How many people hold each level, each visitor role, and both: counted at once, from persons, firms and purchases together. */
import { sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { AnyDb } from '../../db/database'
import { inTransaction } from '../../db/turn'
import { heldNow, isBoughtRole } from './filter/grants'
import type { FilterWorld } from './filter/people-filter'
import { list } from './filter/sql'

export interface Crossings {
  /** All there are, and those who hold no level. */
  people: number
  unranked: number
  levels: Record<string, number>
  roles: Record<string, number>
  /** Firms that share a role or a level, by `kind id`. */
  firms: Record<string, number>
  /** `level` is null for those who hold none. Crossings of nobody are left out. */
  both: { level: string | null; role: string; count: number }[]
}

/**
 * Who holds which of the levels, as `held`, and which of the roles, as `given`; no row comes twice. Their own levels are
 * read in the order of an index, which tells those that come twice, and meets roles in the same order, without hashing or sorting everybody.
 */
function holdings(levels: readonly string[], roles: readonly string[], world: FilterWorld): SQL {
  const own = sql`select m.person_id, m.level from membership m where ${heldNow('m', levels, world)}`
  const brought = (world.rules.rulebook.levels ?? []).flatMap(level =>
    (level.roles ?? []).filter(role => roles.includes(role)).map(role => sql`(${level.id}, ${role})`),
  )
  const more = [
    sql`select fm.person_id, fr.role from firm_role fr join firm_member fm on fm.firm_id = fr.firm_id where fr.role = any(${list(roles)})`,
    sql`select l.given_to, b.role from order_line l join shop_order o on o.id = l.order_id cross join jsonb_array_elements_text(l.gives -> 'roles') b(role)
      where ${isBoughtRole(sql`l`, sql`o`)} and l.gives ? 'roles' and b.role = any(${list(roles)})`,
    ...(brought.length
      ? [
          sql`select h.person_id, b.role from held h join (values ${sql.join(brought, sql`, `)}) b(level, role) on b.level = h.level`,
        ]
      : []),
  ]
  return sql`with own as not materialized (select distinct person_id, level from (${own} order by m.person_id, m.level offset 0) sorted),
    shared as materialized (select distinct h.person_id, h.level from (select fm.person_id, fl.level from firm_level fl join firm_member fm on fm.firm_id = fl.firm_id where ${heldNow('fl', levels, world)}) h where not exists (select from membership m where m.person_id = h.person_id and m.level = h.level and ${heldNow('m', levels, world)})),
    held as not materialized (select * from own union all select * from shared),
    more as materialized (select distinct h.person_id, h.role from (${sql.join(more, sql` union all `)}) h(person_id, role) where not exists (select from role_grant o where o.person_id = h.person_id and o.role = h.role)),
    given as not materialized (select g.person_id, g.role from role_grant g where g.role = any(${list(roles)}) union all select * from more)`
}

interface Row extends Record<string, unknown> {
  level: string | null
  role: string | null
  count: number
  /** Of those the ones who were counted with no level before. */ people?: number
}

/** Of the levels and the visitor roles of the rules; nobody is counted twice in one figure. In three questions at once. */
export async function countCrossings(db: AnyDb, world: FilterWorld): Promise<Crossings> {
  const { levels = [], roles = [] } = world.rules.rulebook
  const levelIds = levels.map(level => level.id)
  const both = holdings(
    levelIds,
    roles.filter(role => !role.staff).map(role => role.id),
    world,
  )
  const asked = <T extends Record<string, unknown>>(question: SQL) =>
    inTransaction(
      db,
      async tx => {
        await tx.execute(
          sql`select set_config('work_mem', '64MB', true), set_config('jit', 'off', true), set_config('max_parallel_workers_per_gather', '0', true)`,
        )
        return tx.execute<T>(question)
      },
      { accessMode: 'read only' },
    )
  const [crossed, ranked, rest] = await Promise.all([
    asked<Row>(
      sql`${both} select o.level, g.role, count(*)::int count from given g left join own o using (person_id) group by 1, 2
        union all select h.level, g.role, count(*)::int from given g join shared h using (person_id) group by 1, 2
        union all select null, g.role, -count(*)::int from given g where exists (select from shared h where h.person_id = g.person_id) and not exists (select from membership m where m.person_id = g.person_id and ${heldNow('m', levelIds, world)}) group by 2`,
    ),
    asked<Row>(sql`${both}
      select o.level, null as role, count(*)::int count, (count(*) filter (where o.person_id is distinct from o.before))::int people
        from (select own.*, lag(person_id) over (order by person_id, level) before from own) o group by o.level
      union all select h.level, null, count(*)::int, 0 from shared h group by h.level
      union all select null, null, 0, count(distinct h.person_id)::int from shared h where not exists (select from membership m where m.person_id = h.person_id and ${heldNow('m', levelIds, world)})`),
    asked<{ name: string; count: number }>(sql`${both}
      select 'role ' || g.role as name, count(*)::int count from given g group by g.role
      union all select 'firms role ' || role, count(*)::int from firm_role group by role
      union all select 'firms level ' || fl.level, count(distinct fl.firm_id)::int from firm_level fl where ${heldNow('fl', levelIds, world)} group by fl.level
      union all select 'people', count(*)::int from person`),
  ])
  const figures = (lead: string) =>
    Object.fromEntries(
      rest.flatMap(({ name, count }) => (name.startsWith(lead) ? [[name.slice(lead.length), count]] : [])),
    )
  const people = figures('people')[''] ?? 0
  return {
    people,
    unranked: people - ranked.reduce((sum, row) => sum + (row.people ?? 0), 0),
    levels: summed(ranked),
    roles: figures('role '),
    firms: figures('firms '),
    both: crossings(crossed),
  }
}

function summed(rows: readonly Row[]): Record<string, number> {
  const all: Record<string, number> = {}
  for (const { level, count } of rows) if (level !== null) all[level] = (all[level] ?? 0) + count
  return all
}

/** A pair may be told of in several rows. */
function crossings(rows: readonly Row[]): Crossings['both'] {
  const all = new Map<string, Crossings['both'][number]>()
  for (const { level, role, count } of rows) {
    const name = JSON.stringify([level, role])
    const before = all.get(name)
    if (before) before.count += count
    else all.set(name, { level, role: role!, count })
  }
  return [...all.values()].filter(one => one.count > 0)
}
