/** Facts of a profile as SQL over `person.facts`. */
import { vatNumberShape } from '../../../../core/visitor/vat-number'
import { sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { LeafArgument } from '../../../../core/conditions/leaves/leaves'
import type { Fact } from '../../../../core/rulebook/people-rules'
import { Problem } from '../../../problem'
import type { FilterWorld } from './people-filter'
import { joined, list, no, unknown, yes } from './sql'

/** Only what is kept with people can be asked of a list of them. */
function factOf(name: string, { rules }: FilterWorld): Fact | undefined {
  const fact = rules.rulebook.facts?.find(one => one.id === name)
  if (fact?.from) throw new Problem('not-asked-of-people', { what: 'elsewhere' })
  return fact
}

/** A fact that equals a value can be looked up; null where it can not. */
export function indexedFact({ name, ...comparison }: LeafArgument<'fact'>, world: FilterWorld): SQL | null {
  const fact = factOf(name, world)
  if (
    !fact ||
    comparison.is === undefined ||
    Object.keys(comparison).length !== 1 ||
    (fact.type === 'choice' && !fact.choices?.includes(comparison.is as string))
  )
    return null
  return sql`(person.facts @> ${JSON.stringify({ [name]: comparison.is })}::jsonb)`
}

export function factSql({ name, ...comparison }: LeafArgument<'fact'>, world: FilterWorld): SQL {
  const fact = factOf(name, world)
  if (!fact) return unknown
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

/** A fact of the wrong type, or no choice any more, is absent. */
function present(fact: Fact, name: string): SQL {
  const type = sql`jsonb_typeof(person.facts -> ${name})`
  const text = sql`person.facts ->> ${name}`
  if (fact.type === 'flag') return sql`${type} = 'boolean'`
  if (fact.type === 'number') return sql`${type} = 'number'`
  if (fact.type === 'choice') return sql`${type} = 'string' and ${text} = any(${list(fact.choices ?? [])})`
  if (fact.type === 'date') return sql`${type} = 'string' and ${text} ~ '^\\d{4}-\\d{2}-\\d{2}$'`
  if (fact.type === 'vatNumber') return sql`${type} = 'string' and ${text} ~ ${vatNumberShape}`
  return sql`${type} = 'string'`
}

function ordered(fact: Fact, name: string, sign: '>=' | '<=', than: unknown): SQL {
  if (fact.type === 'number') return sql`(person.facts ->> ${name})::numeric ${sql.raw(sign)} ${String(than)}::numeric`
  return sql`(person.facts ->> ${name}) collate "C" ${sql.raw(sign)} ${String(than)}`
}
