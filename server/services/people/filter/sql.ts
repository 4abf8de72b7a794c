/** Small parts of SQL the filter is put together from. */
import { sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'

export const yes = sql`true`
export const no = sql`false`
/** SQL's own logic has the three values the rules have. */
export const unknown = sql`null::boolean`

export const list = (values: readonly string[]) =>
  sql`array[${sql.join(
    values.map(value => sql`${value}`),
    sql`, `,
  )}]::text[]`

export const among = (ids: SQL) => sql`(person.id in (${ids}))`

export function joined<T>(parts: readonly T[], word: 'and' | 'or', none: SQL, each: (part: T) => SQL): SQL {
  if (!parts.length) return none
  return sql`(${sql.join(parts.map(each), sql.raw(` ${word} `))})`
}

/** Null where one of the sets is none, or there are none. */
export function combined(sets: readonly (SQL | null)[], word: 'union' | 'intersect'): SQL | null {
  if (!sets.length || sets.some(set => set === null)) return null
  return sql.join(
    sets.map(set => sql`(${set!})`),
    sql.raw(` ${word} `),
  )
}
