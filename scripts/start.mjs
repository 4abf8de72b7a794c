/**
 * Everything from a fresh clone to a served site. DATABASE_URL uses another
 * PostgreSQL, PORT another port (default 4321), BRAVIK_DATA another folder
 * (default .data), BRAVIK_DEMO=off an operator's own empty site.
 */
import { spawn } from 'node:child_process'
import { rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { startPostgres } from './postgres.mjs'
import { bin, build, dataFolder, installDependencies, prepare, root, secret } from './steps.mjs'

const development = process.argv.includes('--dev')
const note = join(dataFolder, 'running.json')
let stopDatabase = () => {}
let server

async function main() {
  installDependencies()
  if (!development) build()
  let url = process.env.DATABASE_URL
  if (!url) {
    const postgres = await startPostgres(dataFolder)
    url = postgres.url
    stopDatabase = postgres.stop
  }
  const { keeperLink, demo } = prepare(url)
  const port = process.env.PORT ?? '4321'
  const address = `http://127.0.0.1:${port}`
  const env = { ...process.env, DATABASE_URL: url, BRAVIK_SECRET: secret(), PORT: port, HOST: process.env.HOST ?? '127.0.0.1', NITRO_PORT: port, NITRO_HOST: process.env.HOST ?? '127.0.0.1' }
  const [command, args] = development ? [bin('nuxt'), ['dev', '--port', port, '--host', '127.0.0.1']] : [process.execPath, [join(root, '.output/server/index.mjs')]]
  server = spawn(command, args, { cwd: root, env, stdio: ['ignore', development ? 'inherit' : 'ignore', 'inherit'] })
  server.once('exit', code => finish(code ?? 0))
  await answering(address)
  // For the command: where the running site keeps its data.
  writeFileSync(note, JSON.stringify({ url, address, pid: process.pid }), { mode: 0o600 })
  console.log(`\nBravik serves ${address}\nThe loft (console) is at ${address}/loft`)
  if (keeperLink) console.log(`\nMake the first keeper, once, within a day:\n${address}${keeperLink}`)
  else if (demo) console.log('Sign in as ines@wexlow.example with the password wexlow-demo; the README lists the others.')
}

async function answering(address) {
  for (let tries = 0; tries < 240; tries++) {
    const answer = await fetch(`${address}/api/session`).catch(() => null)
    if (answer?.ok) return
    await new Promise(resolve => setTimeout(resolve, 250))
  }
  throw new Error(`Nothing answered at ${address} within a minute.`)
}

let finished = false
function finish(code) {
  if (finished) return
  finished = true
  rmSync(note, { force: true })
  server?.kill('SIGTERM')
  stopDatabase()
  process.exit(code)
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.once(signal, () => finish(0))
main().catch((error) => {
  console.error(`\n${error.message}`)
  finish(1)
})
