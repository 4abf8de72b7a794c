/** The built application on a port of its own, for tests, measuring and pictures. */
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { freePort } from './postgres.mjs'
import { root } from './steps.mjs'

/** Milliseconds. */
const readyWithinMs = 60_000
const askEveryMs = 50

/** Serves the database at `databaseUrl` until it is killed; answers once it is ready. */
export async function serve(databaseUrl, env = {}) {
  const port = String(await freePort())
  const server = spawn(process.execPath, ['--max-old-space-size=1024', join(root, '.output/server/index.mjs')], {
    env: {
      ...process.env,
      BRAVIK_SECRET: 'a secret for a while, thirty-two characters or more',
      ...env,
      DATABASE_URL: databaseUrl,
      PORT: port,
      HOST: '127.0.0.1',
      NITRO_PORT: port,
      NITRO_HOST: '127.0.0.1',
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  let said = ''
  server.stdout.on('data', data => (said += data))
  const serving = {
    url: `http://127.0.0.1:${port}`,
    said: () => said,
    pid: server.pid,
    kill: () => void server.kill('SIGKILL'),
  }
  for (let waited = 0; waited < readyWithinMs; waited += askEveryMs) {
    if ((await fetch(`${serving.url}/ready`).catch(() => null))?.ok) return serving
    await new Promise(resolve => setTimeout(resolve, askEveryMs))
  }
  serving.kill()
  throw new Error(`The application did not answer within ${readyWithinMs / 1000} seconds.`)
}

/** The cookie of somebody of the demo, signed in at `address`. */
export async function signedInAt(address, who = 'ines') {
  const answer = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: `${who}@wexlow.example`, password: 'wexlow-demo' }),
  })
  return answer.headers.getSetCookie()[0].split(';')[0]
}
