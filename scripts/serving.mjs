/** The built application on a port of its own, for tests, measuring and pictures. */
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { freePort } from './ports.mjs'
import { root } from './steps.mjs'

/** Milliseconds. */
const readyWithinMs = 60_000
const askEveryMs = 50
const answerWithinMs = 10_000
/** Somebody may take the port between its being found free and being listened on. */
const ports = 5

/** A process on `port`: what it printed, and whether it is gone. */
function startOn(port, databaseUrl, env) {
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
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  const printed = { out: '', errors: '' }
  server.stdout.on('data', data => (printed.out += data))
  server.stderr.on('data', data => {
    printed.errors = (printed.errors + data).slice(-10_000)
    process.stderr.write(data)
  })
  return {
    serving: {
      url: `http://127.0.0.1:${port}`,
      said: () => printed.out,
      pid: server.pid,
      kill: () => void server.kill('SIGKILL'),
    },
    errors: () => printed.errors,
    isGone: () => server.exitCode !== null || server.signalCode !== null,
  }
}

/**
 * Serves the database at `databaseUrl` until it is killed; answers once it is ready. Throws, with what the server
 * printed or last answered, where it ends before that or takes longer than a minute.
 */
export async function serve(databaseUrl, env = {}) {
  for (let tried = 1; ; tried++) {
    const { serving, errors, isGone } = startOn(String(await freePort()), databaseUrl, env)
    const until = performance.now() + readyWithinMs
    let last = 'nothing'
    while (!isGone() && performance.now() < until) {
      const answer = await fetch(`${serving.url}/ready`, { signal: AbortSignal.timeout(answerWithinMs) }).catch(
        error => (last = String(error.cause ?? error)) && null,
      )
      // Another may listen where this one could not.
      if (answer?.ok && !isGone()) return serving
      if (answer) last = `${answer.status} ${await answer.text().catch(String)}`
      await new Promise(resolve => setTimeout(resolve, askEveryMs))
    }
    serving.kill()
    if (isGone() && errors().includes('EADDRINUSE') && tried < ports) continue
    const what = isGone() ? 'ended before it answered' : `did not answer within ${readyWithinMs / 1000} seconds`
    throw new Error(`The application ${what}; it last answered: ${last}; it printed: ${serving.said()}${errors()}`)
  }
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
