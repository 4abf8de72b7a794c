/** Any number of rows given to a statement as one value: PostgreSQL takes 65,535 single ones, and slows down long before. */
import { sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'

/** `from` material named `given`; `shape` is its columns, such as `id text, until timestamptz`, named as the rows' keys. */
export const rowsOf = (rows: readonly object[], shape: string): SQL =>
  sql`jsonb_to_recordset(${JSON.stringify(rows)}::text::jsonb) as given(${sql.raw(shape)})`

/** A list of ids as the set behind `in`. */
export const idsOf = (ids: readonly (string | number)[], type: 'text' | 'bigint' = 'text'): SQL =>
  sql`(select value::${sql.raw(type)} from jsonb_array_elements_text(${JSON.stringify(ids)}::text::jsonb))`
