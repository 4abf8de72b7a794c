/** A fresh database of the test cluster, migrated, with or without the demo. */
import { fileURLToPath } from 'node:url'
import { migrate } from 'drizzle-orm/postgres-js/migrator'
import postgres from 'postgres'
import { inject } from 'vitest'
import { connect } from '../../server/db/database'
import type { Connection } from '../../server/db/database'
import { setUpDemo, setUpEmpty } from '../../server/services/set-up/setup'

const migrations = fileURLToPath(new URL('../../server/db/migrations', import.meta.url))
let made = 0

export async function freshDatabaseUrl(): Promise<string> {
  const admin = postgres(inject('clusterUrl'), { max: 1, onnotice: () => {} })
  const name = `t${process.pid}_${Date.now().toString(36)}_${++made}`
  await admin.unsafe(`create database ${name}`)
  await admin.end()
  const url = new URL(inject('clusterUrl'))
  url.pathname = `/${name}`
  return url.href
}

export async function freshDatabase(what: 'demo' | 'empty' | 'bare'): Promise<Connection & { url: string }> {
  const url = await freshDatabaseUrl()
  const connection = connect(url, 5)
  await migrate(connection.db, { migrationsFolder: migrations })
  if (what === 'demo') await setUpDemo(connection.db)
  if (what === 'empty') await setUpEmpty(connection.db)
  return { ...connection, url }
}
