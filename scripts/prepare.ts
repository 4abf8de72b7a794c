/** Brings the database up to date and sets the site up when there is none. Prints what it did as one JSON line. */
import { fileURLToPath } from 'node:url'
import { eq, sql } from 'drizzle-orm'
import { migrate } from 'drizzle-orm/postgres-js/migrator'
import { connect } from '../server/db/database'
import type { Connection } from '../server/db/database'
import { lockNumbers } from '../server/db/locks'
import { newestMigration } from '../server/db/newest-migration'
import { person, setting, siteState } from '../server/db/schema'
import { environment } from '../server/environment'
import { codeOf } from '../server/log'
import { installationGroup, secretHash } from '../server/services/set-up/secret-hash'
import { NotStarting } from '../server/services/set-up/not-starting'

const migrationsFolder = fileURLToPath(new URL('../server/db/migrations', import.meta.url))
const demoFiles = new URL('../demo/files/', import.meta.url)

/** Milliseconds a migration waits for somebody who holds a table; then nothing is changed and it says so. */
const migrationLockMs = 5000

async function refuseNewer({ sql: query }: Connection): Promise<void> {
  const [known] = await query`select to_regclass('drizzle.__drizzle_migrations') is not null as made`
  const [applied] = known!.made
    ? await query`select max(created_at)::text newest from drizzle.__drizzle_migrations`
    : [{ newest: null }]
  if (Number(applied!.newest ?? 0) > newestMigration)
    throw new NotStarting(
      'The database was changed by a newer version of Bravik. Start that version, or restore a backup of before.',
    )
}

async function prepareSite(connection: Connection) {
  // Two servers starting at once on one database must not both migrate: the lock is released with the session.
  await connection.sql`select pg_advisory_lock(${lockNumbers.migration})`
  await refuseNewer(connection)
  await connection.sql`select set_config('lock_timeout', ${`${migrationLockMs}ms`}, false)`
  await migrate(connection.db, { migrationsFolder })
  await connection.sql`select set_config('lock_timeout', '0', false)`
  const demo = environment().BRAVIK_DEMO !== 'off'
  const made = await setUp(connection, demo)
  await checkSecretOf(connection)
  const keeperLink = (await connection.db.$count(person)) === 0 ? await linkOf(connection) : null
  await connection.sql`select pg_advisory_unlock(${lockNumbers.migration})`
  return { made, demo, keeperLink }
}

// A second start finds all of it done. What does it is read only where something is to be done: that takes longer than all the rest.

async function setUp({ db }: Connection, demo: boolean): Promise<boolean> {
  if (await db.$count(siteState)) return false
  const { setUpDemo, setUpEmpty } = await import('../server/services/set-up/setup')
  return demo ? setUpDemo(db, demoFiles) : setUpEmpty(db)
}

async function checkSecretOf({ db }: Connection): Promise<void> {
  const { BRAVIK_SECRET: secret } = environment()
  if (!secret) return
  const [known] = await db
    .select({ hash: sql<string>`${setting.body} ->> 'secretHash'` })
    .from(setting)
    .where(eq(setting.group, installationGroup))
  if (known?.hash === secretHash(secret)) return
  const { checkSecret } = await import('../server/services/set-up/installation')
  const { inTransaction } = await import('../server/db/turn')
  await inTransaction(db, tx => checkSecret(tx))
}

async function linkOf({ db }: Connection): Promise<string> {
  const { makeFirstKeeperLink } = await import('../server/services/set-up/first-keeper')
  return `/first-keeper?token=${await makeFirstKeeperLink(db)}`
}

/** What keeps the database from being used, in a sentence. */
function sentenceOf(error: unknown): string {
  if (error instanceof NotStarting) return error.message
  const code = codeOf(error)
  if (code === '55P03')
    return `Somebody holds a table that a migration has to change: nothing was changed. Close other connections to the database and start again.`
  if (code && /^(28|3D)/.test(code))
    return `The database refuses DATABASE_URL (${code}): look at its role, password and name.`
  if (code && /^(E[A-Z]+|CONNECT)/.test(code)) return `The database of DATABASE_URL cannot be reached (${code}).`
  return `The database could not be prepared (${code ?? (error as Error).name}).`
}

// One line: session locks and settings hold for what follows.
const connection = connect(environment().DATABASE_URL ?? '', 1, { name: 'bravik prepare' })
try {
  console.log(JSON.stringify(await prepareSite(connection)))
} catch (error) {
  console.error(sentenceOf(error))
  process.exitCode = 1
} finally {
  await connection.close()
}
