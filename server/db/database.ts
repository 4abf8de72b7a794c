/** The connection to PostgreSQL. One pool per process, made on first use. */
import { drizzle } from 'drizzle-orm/postgres-js'
import type { PostgresJsDatabase } from 'drizzle-orm/postgres-js'
import postgres from 'postgres'
import type { Sql } from 'postgres'
import * as schema from './schema'

export type Database = PostgresJsDatabase<typeof schema>
/** A database or a transaction on it. */
export type Tx = Parameters<Parameters<Database['transaction']>[0]>[0] | Database

export interface Connection { db: Database, sql: Sql, close(): Promise<void> }

/** Connects to `url` with at most `max` connections (default 10). */
export function connect(url: string, max = 10): Connection {
  const sql = postgres(url, { max, onnotice: () => {} })
  return { db: drizzle(sql, { schema }), sql, close: () => sql.end({ timeout: 5 }) }
}

let shared: Connection | undefined

export function connection(): Connection {
  if (!shared) {
    const url = process.env.DATABASE_URL
    if (!url) throw new Error('DATABASE_URL is not set: start with `npm start`, which sets it.')
    shared = connect(url)
  }
  return shared
}

export const db = () => connection().db
