/** The built application, served for real on a fresh database. */
import { spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { fileURLToPath } from 'node:url'
import { freePort } from '../../scripts/postgres.mjs'
import type { Connection } from '../../server/db/database'
import { freshDatabase } from './database'

export const testSecret = 'a secret for tests, thirty-two characters or more'

export interface Application {
  url: string
  database: Connection & { url: string }
  /** A further process on the same database, such as one whose clock is ahead. */ another(
    env?: Record<string, string>,
  ): Promise<string>
  stop(): Promise<void>
}

export async function startApplication(
  what: 'demo' | 'empty' = 'demo',
  env: Record<string, string> = {},
): Promise<Application> {
  const database = await freshDatabase(what)
  const servers: ChildProcess[] = []
  const another = async (more: Record<string, string> = {}) => {
    const port = String(await freePort())
    const server = spawn(
      process.execPath,
      [fileURLToPath(new URL('../../.output/server/index.mjs', import.meta.url))],
      {
        env: {
          ...process.env,
          ...env,
          ...more,
          DATABASE_URL: database.url,
          BRAVIK_SECRET: testSecret,
          PORT: port,
          HOST: '127.0.0.1',
          NITRO_PORT: port,
          NITRO_HOST: '127.0.0.1',
        },
        stdio: ['ignore', 'ignore', 'inherit'],
      },
    )
    servers.push(server)
    const url = `http://127.0.0.1:${port}`
    for (let tries = 0; tries < 600; tries++) {
      if ((await fetch(`${url}/api/session`).catch(() => null))?.ok) return url
      await new Promise(resolve => setTimeout(resolve, 100))
    }
    throw new Error('The application did not answer within 60 seconds.')
  }
  const url = await another()
  return {
    url,
    database,
    another,
    stop: async () => {
      for (const server of servers) server.kill('SIGKILL')
      await database.close()
    },
  }
}

/** Signs in over HTTP and answers a fetch that stays signed in. Paths are the site's. */
export async function signedIn(
  url: string,
  who: string,
  password = 'wexlow-demo',
): Promise<(path: string, init?: RequestInit & { json?: unknown }) => Promise<Response>> {
  const answer = await fetch(`${url}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: who.includes('@') ? who : `${who}@wexlow.example`, password }),
  })
  if (!answer.ok) throw new Error(`${who} could not sign in: ${answer.status}`)
  const cookie = answer.headers
    .getSetCookie()
    .map(one => one.split(';')[0])
    .join('; ')
  return (path, { json, ...init } = {}) =>
    fetch(url + path, {
      redirect: 'manual',
      ...init,
      headers: { cookie, ...(json === undefined ? {} : { 'content-type': 'application/json' }), ...init.headers },
      ...(json === undefined ? {} : { body: JSON.stringify(json) }),
    })
}
