/**
 * A condition of the rules as SQL over `person`, so that a hundred thousand
 * people are sifted by the database. SQL's own logic has the three values the
 * rules have: NULL is unknown. What depends on no person is read by the core.
 */
import { sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import { durationParts, durationUnits } from '../../../core/calendar'
import { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { CompiledRules } from '../../../core/gates/compiled'
import { keyOf } from '../../../core/conditions/condition'
import type { Comparison, Condition } from '../../../core/conditions/condition'
import type { Fact } from '../../../core/rulebook/people-rules'
import { Problem } from '../../problem'

export interface FilterWorld {
  rules: CompiledRules
  nowMs: number
}

const yes = sql`true`
const no = sql`false`
const unknown = sql`null::boolean`
const list = (values: readonly string[]) =>
  sql`array[${sql.join(
    values.map(value => sql`${value}`),
    sql`, `,
  )}]::text[]`

/** True, false or null for each row of `person`. Throws `bad-input` for what cannot be asked of a list of people. */
export function conditionSql(condition: Condition, world: FilterWorld): SQL {
  return new Translation(world).of(condition, false)
}

/** True exactly where the condition is; false or null elsewhere. What only has to be true can be looked up in an index. */
export function admittedSql(condition: Condition, world: FilterWorld): SQL {
  return new Translation(world).of(condition, true)
}

/**
 * The ids of everybody a condition is true for, as sets that are joined, met
 * and taken from each other, without looking at each person; an id may come
 * twice. Null where a part of the condition has no such set, such as the clock.
 */
export function idsSql(condition: Condition, world: FilterWorld): SQL | null {
  return new Translation(world).ids(condition)
}

type LevelArgument = { atLeast: string } | { atMost: string } | { in: string[] }
const nobodyIds = sql`select ''::text where false`
const among = (ids: SQL) => sql`(person.id in (${ids}))`
const firmIds = ({ in: firms }: { in: string[] }) =>
  sql`select fm.person_id from firm_member fm where fm.firm_id = any(${list(firms)})`

function combined(sets: readonly (SQL | null)[], word: 'union' | 'intersect'): SQL | null {
  if (!sets.length || sets.some(set => set === null)) return null
  return sql.join(
    sets.map(set => sql`(${set!})`),
    sql.raw(` ${word} `),
  )
}

class Translation {
  private readonly now: SQL
  private readonly nobody: CompiledDecider

  constructor(private readonly world: FilterWorld) {
    const at = new Date(world.nowMs).toISOString()
    this.now = sql`${at}::timestamptz`
    // Somebody signed in who holds nothing: answers whatever does not look at the person.
    this.nobody = new CompiledDecider(world.rules, { person: { id: '' }, request: { at } }, world.nowMs)
  }

  private get book() {
    return this.world.rules.rulebook
  }

  /** `onlyTrue`: whether false and unknown may be mixed up here, as outside of any `not`. */
  of(condition: Condition, onlyTrue: boolean): SQL {
    const [key, argument] = keyOf(condition) as unknown as [string, never]
    switch (key) {
      case 'all':
        return joined(argument as Condition[], 'and', yes, part => this.of(part, onlyTrue))
      case 'any':
        return joined(argument as Condition[], 'or', no, part => this.of(part, onlyTrue))
      case 'not':
        return sql`(not ${this.of(argument, false)})`
      case 'audience':
        return this.audience(argument, onlyTrue)
      case 'level':
        return this.level(argument)
      case 'role':
        return this.role(argument)
      case 'permission':
        return among(this.permissionIds(argument))
      case 'person':
        return sql`(person.id = any(${list((argument as { in: string[] }).in)}))`
      case 'firm':
        return among(firmIds(argument))
      case 'memberFor':
        return among(this.memberForIds(argument))
      case 'fact':
        return this.fact(argument, onlyTrue)
      case 'opens':
      case 'mine':
      case 'assigned':
      case 'record':
        throw new Problem(
          'bad-input',
          'What somebody can open, and what is in records, cannot be asked of a list of people.',
        )
      default:
        return this.constant(condition)
    }
  }

  /** Leaves that are the same for everybody on the list: the clock, the request, and shop facts nobody has yet. */
  private constant(condition: Condition): SQL {
    const { rules } = this.world
    if (this.nobody.admits(condition)) return yes
    return new CompiledDecider(rules, this.nobody.visitor, this.world.nowMs).admits({ not: condition }) ? no : unknown
  }

  private audience(id: string, onlyTrue: boolean): SQL {
    const is = this.book.audiences?.find(one => one.id === id)?.is
    return is ? this.of(is, onlyTrue) : unknown
  }

  /** One list of ids, from people and firms together: the database joins it once instead of looking each person up twice. */
  private levelIds(levels: readonly string[]): SQL {
    if (!levels.length) return nobodyIds
    const held = (alias: string) =>
      sql`${sql.raw(alias)}.level = any(${list(levels)}) and ${sql.raw(alias)}.since <= ${this.now} and (${sql.raw(alias)}.until is null or ${sql.raw(alias)}.until > ${this.now})`
    return sql`select m.person_id from membership m where ${held('m')} union all select fm.person_id from firm_level fl join firm_member fm on fm.firm_id = fl.firm_id where ${held('fl')}`
  }

  /** Who holds one of `held`, and none of `but`. */
  private levels(argument: LevelArgument): { held: string[]; but: string[] } {
    const levels = this.book.levels ?? []
    const rank = (id: string) => levels.find(level => level.id === id)?.rank
    if ('in' in argument) return { held: argument.in, but: [] }
    if ('atLeast' in argument)
      return {
        held: levels.filter(level => level.rank >= (rank(argument.atLeast) ?? Infinity)).map(level => level.id),
        but: [],
      }
    const most = rank(argument.atMost) ?? 0
    return {
      held: levels.filter(level => level.rank <= most).map(level => level.id),
      but: levels.filter(level => level.rank > most).map(level => level.id),
    }
  }

  private level(argument: LevelArgument): SQL {
    const { held, but } = this.levels(argument)
    return but.length
      ? sql`(${among(this.levelIds(held))} and not ${among(this.levelIds(but))})`
      : among(this.levelIds(held))
  }

  private role(argument: { anyOf: string[] } | { allOf: string[] }): SQL {
    return 'anyOf' in argument
      ? among(this.roleIds(argument.anyOf))
      : joined(argument.allOf, 'and', yes, role => among(this.roleIds([role])))
  }

  private roleIds(roles: readonly string[]): SQL {
    if (!roles.length) return nobodyIds
    const bringing = (this.book.levels ?? [])
      .filter(level => level.roles?.some(role => roles.includes(role)))
      .map(level => level.id)
    const granted = sql`select g.person_id from role_grant g where g.role = any(${list(roles)}) union all select fm.person_id from firm_role fr join firm_member fm on fm.firm_id = fr.firm_id where fr.role = any(${list(roles)})`
    return bringing.length ? sql`${granted} union all ${this.levelIds(bringing)}` : granted
  }

  private permissionIds(permission: string): SQL {
    return this.roleIds(
      (this.book.roles ?? []).filter(role => role.permissions?.includes(permission)).map(role => role.id),
    )
  }

  /**
   * Years to days are added on the site's calendar, hours to seconds exactly. Who
   * began days too late is left out first, and what began days before is let in,
   * roughly, by days reckoned once: converting times is what costs.
   */
  private memberForIds({ atLeast, level }: { atLeast: string; level?: string }): SQL {
    const parts = durationParts(atLeast) ?? []
    const interval = (from: number, to: number) =>
      durationUnits
        .slice(from, to)
        .map((unit, i) => `${parts[from + i] ?? 0} ${unit}s`)
        .join(' ')
    const zone = this.world.rules.index.site.timezone
    const of = level ? sql`and h.level = ${level}` : sql``
    const local = sql`((min(h.since) at time zone ${zone}) + ${interval(0, 4)}::interval)`
    return sql`select h.person_id from (
      select m.person_id, m.level, m.since, m.until from membership m union all select fm.person_id, fl.level, fl.since, fl.until from firm_level fl join firm_member fm on fm.firm_id = fl.firm_id) h
      where h.since <= ${this.now} and h.since <= (select ${this.now} - ${atLeast}::interval + interval '4 days') and (h.until is null or h.until > ${this.now}) ${of}
      group by h.person_id having min(h.since) <= (select ${this.now} - ${atLeast}::interval - interval '4 days') or ${firstInstant(local, zone)} + ${interval(4, 7)}::interval <= ${this.now}`
  }

  /** See `idsSql`. */
  ids(condition: Condition): SQL | null {
    const [key, argument] = keyOf(condition) as unknown as [string, never]
    const sets: Record<string, () => SQL | null> = {
      any: () =>
        combined(
          (argument as Condition[]).map(part => this.ids(part)),
          'union',
        ),
      all: () => this.meeting(argument),
      audience: () => {
        const is = this.book.audiences?.find(one => one.id === argument)?.is
        return is ? this.ids(is) : null
      },
      level: () => {
        const { held, but } = this.levels(argument)
        return but.length ? sql`(${this.levelIds(held)}) except (${this.levelIds(but)})` : this.levelIds(held)
      },
      role: () =>
        'anyOf' in (argument as object)
          ? this.roleIds((argument as { anyOf: string[] }).anyOf)
          : combined(
              (argument as { allOf: string[] }).allOf.map(role => this.roleIds([role])),
              'intersect',
            ),
      permission: () => this.permissionIds(argument),
      firm: () => firmIds(argument),
      memberFor: () => this.memberForIds(argument),
      fact: () => {
        const indexed = this.indexedFact(argument)
        return indexed && sql`select person.id from person where ${indexed}`
      },
    }
    return Object.hasOwn(sets, key) ? sets[key]!() : null
  }

  /** What all parts have in common, without what their `not`s name. Held leaves are never unknown, so taking away is exact. */
  private meeting(parts: readonly Condition[]): SQL | null {
    const refused = parts.filter(part => 'not' in part).map(part => (part as { not: Condition }).not)
    if (refused.some(part => !this.isTwoValued(part))) return null
    const met = combined(
      parts.filter(part => !('not' in part)).map(part => this.ids(part)),
      'intersect',
    )
    if (!met || !refused.length) return met
    const gone = combined(
      refused.map(part => this.ids(part)),
      'union',
    )
    return gone && sql`(${met}) except (${gone})`
  }

  private isTwoValued(condition: Condition): boolean {
    const [key, argument] = keyOf(condition) as unknown as [string, never]
    if (key === 'any' || key === 'all') return (argument as Condition[]).every(part => this.isTwoValued(part))
    return ['level', 'role', 'permission', 'firm', 'memberFor'].includes(key)
  }

  /** A fact that equals a value can be looked up; null where it can not. */
  private indexedFact({ name, ...comparison }: { name: string } & Comparison): SQL | null {
    const fact = this.book.facts?.find(one => one.id === name)
    if (
      !fact ||
      comparison.is === undefined ||
      Object.keys(comparison).length !== 1 ||
      (fact.type === 'choice' && !fact.choices?.includes(comparison.is as string))
    )
      return null
    return sql`(person.facts @> ${JSON.stringify({ [name]: comparison.is })}::jsonb)`
  }

  private fact({ name, ...comparison }: { name: string } & Comparison, onlyTrue: boolean): SQL {
    const fact = this.book.facts?.find(one => one.id === name)
    if (!fact) return unknown
    const indexed = onlyTrue ? this.indexedFact({ name, ...comparison }) : null
    if (indexed) return indexed
    const value = sql`(person.facts -> ${name})`
    const tests = [
      ...(comparison.is === undefined ? [] : [sql`${value} = ${JSON.stringify(comparison.is)}::jsonb`]),
      ...(comparison.in === undefined
        ? []
        : [joined(comparison.in, 'or', no, one => sql`${value} = ${JSON.stringify(one)}::jsonb`)]),
      ...(comparison.atLeast === undefined ? [] : [ordered(fact, name, '>=', comparison.atLeast)]),
      ...(comparison.atMost === undefined ? [] : [ordered(fact, name, '<=', comparison.atMost)]),
    ]
    return sql`(case when ${present(fact, name)} then ${joined(tests, 'and', yes, one => one)} end)`
  }
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

function joined<T>(parts: readonly T[], word: 'and' | 'or', none: SQL, each: (part: T) => SQL): SQL {
  if (!parts.length) return none
  return sql`(${sql.join(parts.map(each), sql.raw(` ${word} `))})`
}

/** A fact of the wrong type, or no choice any more, is absent. */
function present(fact: Fact, name: string): SQL {
  const type = sql`jsonb_typeof(person.facts -> ${name})`
  const text = sql`person.facts ->> ${name}`
  if (fact.type === 'flag') return sql`${type} = 'boolean'`
  if (fact.type === 'number') return sql`${type} = 'number'`
  if (fact.type === 'choice') return sql`${type} = 'string' and ${text} = any(${list(fact.choices ?? [])})`
  if (fact.type === 'date') return sql`${type} = 'string' and ${text} ~ '^\\d{4}-\\d{2}-\\d{2}$'`
  return sql`${type} = 'string'`
}

function ordered(fact: Fact, name: string, sign: '>=' | '<=', than: unknown): SQL {
  if (fact.type === 'number') return sql`(person.facts ->> ${name})::numeric ${sql.raw(sign)} ${String(than)}::numeric`
  return sql`(person.facts ->> ${name}) collate "C" ${sql.raw(sign)} ${String(than)}`
}
