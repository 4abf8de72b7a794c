/** Who holds a level or a role, and since when, as SQL: persons and firms read together. */
import { sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import { durationParts, durationUnits } from '../../../../core/calendar'
import type { LeafArgument } from '../../../../core/conditions/leaves/leaves'
import { isPaid } from '../../standing/visitor-of'
import type { FilterWorld } from './people-filter'
import { list } from './sql'

const nobodyIds = sql`select ''::text where false`
const nowOf = ({ nowMs }: FilterWorld) => sql`${new Date(nowMs).toISOString()}::timestamptz`

export const firmIds = ({ in: firms }: LeafArgument<'firm'>) =>
  sql`select fm.person_id from firm_member fm where fm.firm_id = any(${list(firms)})`

/** One list of ids, from people and firms together: the database joins it once instead of looking each person up twice. */
export function levelIds(levels: readonly string[], world: FilterWorld): SQL {
  if (!levels.length) return nobodyIds
  return sql`select m.person_id from membership m where ${heldNow('m', levels, world)} union all select fm.person_id from firm_level fl join firm_member fm on fm.firm_id = fl.firm_id where ${heldNow('fl', levels, world)}`
}

/** That a row of memberships, or of what a firm holds, is of one of these levels and runs now. */
export function heldNow(alias: 'm' | 'fl', levels: readonly string[], world: FilterWorld): SQL {
  const now = nowOf(world)
  const row = sql.raw(alias)
  return sql`${row}.level = any(${list(levels)}) and ${row}.since <= ${now} and (${row}.until is null or ${row}.until > ${now})`
}

/** Who it admits holds one of `held`, and none of `but`. */
export function levelsOf(argument: LeafArgument<'level'>, { rules }: FilterWorld): { held: string[]; but: string[] } {
  const levels = rules.rulebook.levels ?? []
  const rank = (id: string) => levels.find(level => level.id === id)?.rank
  if ('in' in argument) return { held: argument.in, but: [] }
  if ('atLeast' in argument) {
    const least = rank(argument.atLeast) ?? Infinity
    return { held: levels.filter(level => level.rank >= least).map(level => level.id), but: [] }
  }
  const most = rank(argument.atMost) ?? 0
  return {
    held: levels.filter(level => level.rank <= most).map(level => level.id),
    but: levels.filter(level => level.rank > most).map(level => level.id),
  }
}

/** That a line of an order was bought for somebody, and not given back. */
export const isBoughtRole = (line: SQL, order: SQL) =>
  sql`${line}.given_to is not null and ${isPaid(order)} and ${line}.refunded_pieces < ${line}.quantity`
const boughtRoleIds = (roles: readonly string[]) =>
  sql`select l.given_to from order_line l join shop_order o on o.id = l.order_id where ${isBoughtRole(sql`l`, sql`o`)} and l.gives -> 'roles' ?| ${list(roles)}`

export function roleIds(roles: readonly string[], world: FilterWorld): SQL {
  if (!roles.length) return nobodyIds
  const bringing = (world.rules.rulebook.levels ?? [])
    .filter(level => level.roles?.some(role => roles.includes(role)))
    .map(level => level.id)
  const granted = sql`select g.person_id from role_grant g where g.role = any(${list(roles)}) union all ${boughtRoleIds(roles)} union all select fm.person_id from firm_role fr join firm_member fm on fm.firm_id = fr.firm_id where fr.role = any(${list(roles)})`
  return bringing.length ? sql`${granted} union all ${levelIds(bringing, world)}` : granted
}

export function permissionIds(permission: string, world: FilterWorld): SQL {
  const bringing = (world.rules.rulebook.roles ?? []).filter(role => role.permissions?.includes(permission))
  return roleIds(
    bringing.map(role => role.id),
    world,
  )
}

/**
 * Years to days are added on the site's calendar, hours to seconds exactly. Who
 * began days too late is left out first, and what began days before is let in,
 * roughly, by days reckoned once: converting times is what costs.
 */
export function memberForIds({ atLeast, level }: LeafArgument<'memberFor'>, world: FilterWorld): SQL {
  const parts = durationParts(atLeast) ?? []
  const interval = (from: number, to: number) =>
    durationUnits
      .slice(from, to)
      .map((unit, i) => `${parts[from + i] ?? 0} ${unit}s`)
      .join(' ')
  const now = nowOf(world)
  const zone = world.rules.index.site.timezone
  const of = level ? sql`and h.level = ${level}` : sql``
  const local = sql`((min(h.since) at time zone ${zone}) + ${interval(0, 4)}::interval)`
  return sql`select h.person_id from (
    select m.person_id, m.level, m.since, m.until from membership m union all select fm.person_id, fl.level, fl.since, fl.until from firm_level fl join firm_member fm on fm.firm_id = fl.firm_id) h
    where h.since <= ${now} and h.since <= (select ${now} - ${atLeast}::interval + interval '4 days') and (h.until is null or h.until > ${now}) ${of}
    group by h.person_id having min(h.since) <= (select ${now} - ${atLeast}::interval - interval '4 days') or ${firstInstant(local, zone)} + ${interval(4, 7)}::interval <= ${now}`
}

/**
 * The instant of a local time. One that comes twice, when clocks go back, is the first, as for the rules; PostgreSQL
 * takes the second. The offset of a day before tells the first apart.
 */
function firstInstant(local: SQL, zone: string): SQL {
  const utc = sql`(${local} at time zone 'UTC')`
  const dayBefore = sql`(${utc} - interval '1 day')`
  const first = sql`(${utc} - ((${dayBefore} at time zone ${zone}) - (${dayBefore} at time zone 'UTC')))`
  return sql`least(${local} at time zone ${zone}, case when ${first} at time zone ${zone} = ${local} then ${first} end)`
}
