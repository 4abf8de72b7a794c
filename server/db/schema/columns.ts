/** Columns of our own, and one way to keep a moment. */
import { customType, timestamp } from 'drizzle-orm/pg-core'

/** Bytes, as `bytea`. */
export const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' })
/** Lexemes with their places (PostgreSQL, 8.11.1). */
export const tsvector = customType<{ data: string }>({ dataType: () => 'tsvector' })
export const moment = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })
