/** Brings the database up to date and sets the site up when there is none. Prints what it did as one JSON line. */
import { fileURLToPath } from 'node:url'
import { sql } from 'drizzle-orm'
import { migrate } from 'drizzle-orm/postgres-js/migrator'
import { connect } from '../server/db/database'
import { person } from '../server/db/schema'
import { makeFirstKeeperLink } from '../server/services/set-up/first-keeper'
import { setUpDemo, setUpEmpty } from '../server/services/set-up/setup'

const connection = connect(process.env.DATABASE_URL ?? '', 2)
// Two servers starting at once on one database must not both migrate: the lock is released with the session.
await connection.sql`select pg_advisory_lock(7238)`
await migrate(connection.db, { migrationsFolder: fileURLToPath(new URL('../server/db/migrations', import.meta.url)) })
const demo = process.env.BRAVIK_DEMO !== 'off'
const made = demo ? await setUpDemo(connection.db) : await setUpEmpty(connection.db)
const [people] = await connection.db.select({ count: sql<number>`count(*)::int` }).from(person)
const keeperLink = people?.count === 0 ? `/first-keeper?token=${await makeFirstKeeperLink(connection.db)}` : null
await connection.sql`select pg_advisory_unlock(7238)`
await connection.close()
console.log(JSON.stringify({ made, demo, keeperLink }))
