/** A fresh database of the test cluster, migrated, with or without the demo. */
import { fileURLToPath } from 'node:url'
import { migrate } from 'drizzle-orm/postgres-js/migrator'
import postgres from 'postgres'
import { inject } from 'vitest'
import { connect } from '../../server/db/database'
import type { Connection } from '../../server/db/database'
import { setUpDemo, setUpEmpty } from '../../server/services/set-up/setup'

declare module 'vitest' {
  interface ProvidedContext {
    clusterUrl: string
  }
}

const migrations = fileURLToPath(new URL('../../server/db/migrations', import.meta.url))
export const demoFiles = new URL('../../demo/files/', import.meta.url)
export type Filling = 'demo' | 'empty' | 'bare'
let made = 0

const urlOf = (name: string) => {
  const url = new URL(inject('clusterUrl'))
  url.pathname = `/${name}`
  return url.href
}

async function asAdmin<T>(work: (admin: postgres.Sql) => Promise<T>): Promise<T> {
  const admin = postgres(inject('clusterUrl'), { max: 1, onnotice: () => {} })
  try {
    return await work(admin)
  } finally {
    await admin.end()
  }
}

const newName = () => `t${process.pid}_${Date.now().toString(36)}_${++made}`

/** A database with nothing in it. */
export async function freshDatabaseUrl(): Promise<string> {
  const name = newName()
  await asAdmin(admin => admin.unsafe(`create database ${name}`))
  return urlOf(name)
}

/** Migrated and filled once for a cluster; what tests get is a copy, which takes a tenth of the time. */
async function makeTemplate(admin: postgres.Sql, name: string, what: Filling): Promise<void> {
  if ((await admin`select 1 from pg_database where datname = ${name}`).length) return
  await admin.unsafe(`create database ${name}_making`)
  const connection = connect(urlOf(`${name}_making`), 2)
  await migrate(connection.db, { migrationsFolder: migrations })
  if (what === 'demo') await setUpDemo(connection.db, demoFiles)
  if (what === 'empty') await setUpEmpty(connection.db)
  await connection.close()
  await admin.unsafe(`alter database ${name}_making rename to ${name}`)
}

export async function freshDatabase(what: Filling): Promise<Connection & { url: string }> {
  const name = newName()
  const template = `filled_${what}`
  await asAdmin(async admin => {
    // Workers of a run make it one after the other: the first makes it, the others find it.
    await admin`select pg_advisory_lock(hashtext(${template}))`
    await makeTemplate(admin, template, what)
    await admin`select pg_advisory_unlock(hashtext(${template}))`
    await admin.unsafe(`create database ${name} template ${template}`)
  })
  const url = urlOf(name)
  return { ...connect(url, 5), url }
}
