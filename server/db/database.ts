/** Connections to PostgreSQL: one pool for requests, a small one for work beside them, one line to feel the pulse. */
import { drizzle } from 'drizzle-orm/postgres-js'
import type { PostgresJsDatabase } from 'drizzle-orm/postgres-js'
import postgres from 'postgres'
import type { Sql } from 'postgres'
import { environment } from '../environment'
import * as schema from './schema'

type Plain = PostgresJsDatabase<typeof schema>
declare const pool: unique symbol
/** Lines to the database, each statement by itself. What locks, or must be all or nothing, does not take one. */
export type Database = Plain & { readonly [pool]: true }
/** A transaction; only `inTransaction` opens one. */
export type Tx = Parameters<Parameters<Plain['transaction']>[0]>[0]
/** For what only reads, is one statement, or opens a transaction where there is none. */
export type AnyDb = Tx | Database

export interface Connection {
  db: Database
  sql: Sql
  close(): Promise<void>
  /** Drops every line at once, whatever waits on it: for when the other end is deaf. */ drop(): Promise<void>
}

/** How long the database may take, in milliseconds, before it gives a statement up; 0 is without end. */
export interface Limits {
  statementMs: number
  lockMs: number
  idleInTransactionMs: number
}
export interface ConnectOptions {
  name?: string
  limits?: Limits
}

const endless: Limits = { statementMs: 0, lockMs: 0, idleInTransactionMs: 0 }
/** Of what a visitor waits for. A lock that is held longer than this fails one request instead of filling the pool. */
export const requestLimits: Limits = { statementMs: 10_000, lockMs: 3000, idleInTransactionMs: 15_000 }
const backgroundLimits: Limits = { statementMs: 120_000, lockMs: 5000, idleInTransactionMs: 60_000 }

/** Seconds. */
const connectTimeout = 3
const retryAfter = 0.2

/** Connects to `url` with at most `max` connections (default 10). */
export function connect(url: string, max = 10, { name = 'bravik', limits = endless }: ConnectOptions = {}): Connection {
  const sql = postgres(url, {
    max,
    onnotice: () => {},
    connect_timeout: connectTimeout,
    backoff: () => retryAfter,
    connection: {
      application_name: name,
      statement_timeout: limits.statementMs,
      lock_timeout: limits.lockMs,
      idle_in_transaction_session_timeout: limits.idleInTransactionMs,
    },
  })
  return {
    db: drizzle(sql, { schema }) as Plain as Database,
    sql,
    close: () => sql.end({ timeout: 5 }),
    drop: () => sql.end({ timeout: 0 }),
  }
}

export function databaseUrl(): string {
  const url = environment().DATABASE_URL
  if (!url) throw new Error('DATABASE_URL is not set: start with `npm start`, which sets it.')
  return url
}

/** A pool of this process, made on first use, and made anew when the old one is given up. */
class Shared {
  private current: Connection | undefined

  constructor(
    private readonly max: number,
    private readonly options: ConnectOptions,
  ) {}

  get connection(): Connection {
    return (this.current ??= connect(databaseUrl(), this.max, this.options))
  }

  /** Requests that wait on the old lines fail now; later ones get new lines. */
  renew(): void {
    const old = this.current
    this.current = undefined
    void old?.drop().catch(() => {})
  }

  async close(): Promise<void> {
    await this.current?.close()
    this.current = undefined
  }
}

const requests = new Shared(10, { name: 'bravik', limits: requestLimits })
/** Activity, mail and jobs have lines of their own: a lock they wait for stands in no visitor's way. */
const beside = new Shared(3, { name: 'bravik beside', limits: backgroundLimits })

export const connection = () => requests.connection
export const db = () => requests.connection.db
export const besideDb = () => beside.connection.db

/** Gives up every line of this process: the other end has not answered. */
export function renewConnections(): void {
  requests.renew()
  beside.renew()
}

export async function closeConnections(): Promise<void> {
  await Promise.all([requests.close(), beside.close()])
}
