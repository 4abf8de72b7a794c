/**
 * Everything from a fresh clone to a served site. DATABASE_URL uses another
 * PostgreSQL, PORT another port (default 4321), BRAVIK_DATA another folder
 * (default .data), BRAVIK_DEMO=off an operator's own empty site.
 */
import { spawn } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { mkdirSync, openSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { lockFolder, testPort } from './data-folder.mjs'
import { phase, soFar } from './phases.mjs'
import { startPostgres } from './postgres.mjs'
import {
  bin,
  build,
  dataFolder,
  environment,
  filesFolder,
  installDependencies,
  prepareBeside,
  root,
  secret,
  servedAs,
  stopSteps,
} from './steps.mjs'

const development = process.argv.includes('--dev')
const note = join(dataFolder, 'running.json')
const logFile = join(dataFolder, 'bravik.log')
/** Milliseconds. */
const readyWithinMs = 60_000
const stopWithinMs = 25_000
const watchEveryMs = 1000

let database
let server
let noted = false
/** Set once the end has begun; what was started is stopped in turn. */
let ending

async function main() {
  await installDependencies({ tests: development })
  const { PORT, HOST, BRAVIK_HEAP_MB, address } = await environment()
  // Only the private database has to itself what lies in the folder: servers that share another may share it.
  if (!process.env.DATABASE_URL) await lockFolder(dataFolder)
  mkdirSync(dataFolder, { recursive: true })
  await testPort(PORT, HOST)
  // What is built needs no database, and what is prepared nothing that is built.
  let isBuilt = false
  const building = development ? undefined : build().then(() => (isBuilt = true))
  building?.catch(() => {})
  const url = process.env.DATABASE_URL ?? (await phase('Starting the database', startDatabase))
  if (ending) return
  // What is built already loads while a database of its own is prepared. Where others share it, whoever leads visitors
  // to several servers finds nobody listening until this one can answer.
  const loadsBeside = isBuilt && !process.env.DATABASE_URL
  const bounds = { PORT, HOST, BRAVIK_HEAP_MB }
  if (loadsBeside) serve(url, { ...bounds, BRAVIK_PREPARING: 'beside' })
  const { keeperLink, demo } = await phase('Preparing the database', () =>
    prepareBeside(url, { BRAVIK_SECRET: secret(), BRAVIK_FILES: filesFolder() }),
  )
  await building
  if (ending) return
  if (loadsBeside) server.send('prepared')
  else serve(url, bounds)
  await phase('Starting', () => answering(address))
  // For the command: where the running site keeps its data.
  writeFileSync(note, JSON.stringify({ url, address, pid: process.pid }), { mode: 0o600 })
  noted = true
  console.log(`\nBravik serves ${address} after ${soFar()}\nThe loft (console) is at ${address}/loft`)
  if (process.stdout.isTTY && !development) console.log(`The log is ${logFile}`)
  if (keeperLink) console.log(`\nMake the first keeper, once, within a day:\n${address}${keeperLink}`)
  else if (demo)
    console.log('Sign in as ines@wexlow.example with the password wexlow-demo; the README lists the others.')
}

async function startDatabase() {
  database = await startPostgres(dataFolder)
  return database.url
}

const instance = randomBytes(12).toString('hex')

function serve(url, { PORT, HOST, BRAVIK_HEAP_MB, ...more }) {
  const port = String(PORT)
  const env = {
    ...process.env,
    DATABASE_URL: url,
    BRAVIK_SECRET: secret(),
    BRAVIK_FILES: filesFolder(),
    BRAVIK_INSTANCE: instance,
    ...more,
    PORT: port,
    HOST,
    NITRO_PORT: port,
    NITRO_HOST: HOST,
    NITRO_SHUTDOWN_TIMEOUT: String(stopWithinMs - 5000),
  }
  const { file, user } = development ? {} : servedAs(join(root, '.output'))
  const [command, args] = development
    ? [bin('nuxt'), ['dev', '--port', port, '--host', HOST]]
    : // A bound also makes what is not needed any more be let go sooner.
      [process.execPath, [`--max-old-space-size=${BRAVIK_HEAP_MB}`, join(file, 'server/index.mjs')]]
  // On a terminal the log goes into a file; under a supervisor it is the process's output, for the journal to keep.
  const output = development ? 'inherit' : process.stdout.isTTY ? openSync(logFile, 'a', 0o600) : 'inherit'
  // A group of its own: a Ctrl C on the terminal reaches this process, which stops the server in its turn.
  server = spawn(command, args, {
    cwd: file ?? root,
    env,
    stdio: ['ignore', output, 'inherit', 'ipc'],
    detached: true,
    ...user,
  })
  server.once('exit', (code, signal) => {
    server.ended = true
    if (!ending)
      finish(signal ? 1 : code || 1, signal ? `The server died of ${signal}.` : `The server ended by itself (${code}).`)
  })
  server.on('error', error => finish(1, `The server could not be started: ${error.message}`))
  watch = setInterval(() => {
    const died = database?.died()
    if (died && !ending) finish(1, died)
  }, watchEveryMs)
}

let watch

/** Asks the very process that was started: whoever else holds the address knows nothing of this instance. */
async function answering(address) {
  const until = Date.now() + readyWithinMs
  while (Date.now() < until && !ending) {
    const health = await ask(`${address}/health`)
    if (health?.instance === instance && (await ask(`${address}/ready`))?.ready) return
    await new Promise(resolve => setTimeout(resolve, 50))
  }
  if (!ending) throw new Error(`The server did not become ready at ${address} within ${readyWithinMs / 1000} seconds.`)
}

const ask = url =>
  fetch(url, { signal: AbortSignal.timeout(3000) })
    .then(answer => answer.json())
    .catch(() => undefined)

/** First the server, which lets requests end, then what it stands on. */
async function finish(code, message) {
  if (ending) return
  ending = true
  clearInterval(watch)
  stopSteps()
  if (message) console.error(`\n${message}`)
  if (noted) rmSync(note, { force: true })
  if (server && !server.ended) {
    server.kill('SIGTERM')
    await new Promise(resolve => {
      server.once('exit', resolve)
      setTimeout(() => server.kill('SIGKILL'), stopWithinMs).unref()
    })
  }
  database?.stop()
  process.exit(code)
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void finish(0))
main().catch(error => finish(1, error.message))
