/** Facts of a profile as SQL over `person.facts`, and of a firm's where they count for its people. */
import { ofFirms } from '../../../../core/visitor/fact-type'
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
    ofFirms(fact) ||
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
  const value = said(fact, name)
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

/** What they say of themselves, or else what is said of their firm. What is no VAT number is as if it were not said. */
function said(fact: Fact, name: string): SQL {
  if (!ofFirms(fact)) return sql`(person.facts -> ${name})`
  return sql`coalesce(case when person.facts ->> ${name} ~ ${vatNumberShape} then person.facts -> ${name} end,
    (select f.facts -> ${name} from firm_member fm join firm f on f.id = fm.firm_id where fm.person_id = person.id))`
}

/** A fact of the wrong type, or no choice any more, is absent. */
function present(fact: Fact, name: string): SQL {
  const value = said(fact, name)
  const type = sql`jsonb_typeof(${value})`
  const text = sql`(${value} #>> '{}')`
  if (fact.type === 'flag') return sql`${type} = 'boolean'`
  if (fact.type === 'number') return sql`${type} = 'number'`
  if (fact.type === 'choice') return sql`${type} = 'string' and ${text} = any(${list(fact.choices ?? [])})`
  if (fact.type === 'date') return sql`${type} = 'string' and ${text} ~ '^\\d{4}-\\d{2}-\\d{2}$'`
  if (fact.type === 'vatNumber') return sql`${type} = 'string' and ${text} ~ ${vatNumberShape}`
  return sql`${type} = 'string'`
}

function ordered(fact: Fact, name: string, sign: '>=' | '<=', than: unknown): SQL {
  const text = sql`(${said(fact, name)} #>> '{}')`
  if (fact.type === 'number') return sql`${text}::numeric ${sql.raw(sign)} ${String(than)}::numeric`
  return sql`${text} collate "C" ${sql.raw(sign)} ${String(than)}`
}
