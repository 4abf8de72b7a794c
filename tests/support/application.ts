/** The built application, served for real on a fresh database. */
import { eq } from 'drizzle-orm'
import { serve as serveBuilt } from '../../scripts/serving.mjs'
import type { Serving } from '../../scripts/serving.mjs'
import type { Connection } from '../../server/db/database'
import { person } from '../../server/db/schema'
import { sessionCookie, startSession } from '../../server/services/entrance/sessions'
import { freshDatabase } from './database'

export const testSecret = 'a secret for tests, thirty-two characters or more'

export interface Application {
  url: string
  database: Connection & { url: string }
  /** A further process on the same database, such as one whose clock is ahead. */
  another(env?: Record<string, string>): Promise<string>
  /** Ends every process that serves it; the database stays. */
  halt(): void
  stop(): Promise<void>
}

/** A process that serves a database with the secret of tests, until it is killed. */
export const serve = (databaseUrl: string, env: Record<string, string> = {}): Promise<Serving> =>
  serveBuilt(databaseUrl, { BRAVIK_SECRET: testSecret, ...env })

/** `before`: what is done to the database before anything is served from it. */
export async function startApplication(
  what: 'demo' | 'empty' = 'demo',
  env: Record<string, string> = {},
  before?: (database: Connection) => Promise<unknown>,
): Promise<Application> {
  const database = await freshDatabase(what)
  await before?.(database)
  const servers: Serving[] = []
  const another = async (more: Record<string, string> = {}) => {
    const server = await serve(database.url, { ...env, ...more })
    servers.push(server)
    served.set(server.url, database)
    return server.url
  }
  const halt = () => {
    for (const server of servers.splice(0)) server.kill()
  }
  const url = await another()
  return {
    url,
    database,
    another,
    halt,
    stop: async () => {
      halt()
      await database.close()
    },
  }
}

/** Databases of what is served, by address. */
const served = new Map<string, Connection>()
const emailOf = (who: string) => (who.includes('@') ? who : `${who}@wexlow.example`)

/**
 * The cookie of somebody signed in. Hashing a password costs half a second of a core, so the session is begun in
 * the database as signing in begins it; with a password, or where the database is not at hand, they sign in over HTTP.
 */
export async function cookieOf(url: string, who: string, password?: string): Promise<string> {
  const database = password === undefined ? served.get(url) : undefined
  if (database) {
    const [found] = await database.db
      .select({ id: person.id })
      .from(person)
      .where(eq(person.email, emailOf(who)))
    if (!found) throw new Error(`There is nobody called ${who}.`)
    return `${sessionCookie}=${await startSession(database.db, found.id)}`
  }
  const answer = await fetch(`${url}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: emailOf(who), password: password ?? 'wexlow-demo' }),
  })
  if (!answer.ok) throw new Error(`${who} could not sign in: ${answer.status}`)
  return answer.headers
    .getSetCookie()
    .map(one => one.split(';')[0])
    .join('; ')
}

/** Somebody signed in, as a fetch. Paths are the site's. */
export async function signedIn(
  url: string,
  who: string,
  password?: string,
): Promise<(path: string, init?: RequestInit & { json?: unknown }) => Promise<Response>> {
  const cookie = await cookieOf(url, who, password)
  return (path, { json, ...init } = {}) =>
    fetch(url + path, {
      redirect: 'manual',
      ...init,
      headers: { cookie, ...(json === undefined ? {} : { 'content-type': 'application/json' }), ...init.headers },
      ...(json === undefined ? {} : { body: JSON.stringify(json) }),
    })
}
