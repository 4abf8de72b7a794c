/** `npm run screenshots`: one picture of each main view, from a fresh demo, into docs/screenshots/. */
import { spawn, spawnSync } from 'node:child_process'
import { mkdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { freePort, startPostgres } from './postgres.mjs'
import { program } from './programs.mjs'
import { build, installDependencies, prepare, root, temporaryFolder } from './steps.mjs'

installDependencies()
build()
const folder = temporaryFolder('pictures')
const { url, stop } = await startPostgres(folder, { fast: true })
prepare(url, { BRAVIK_SECRET: 'a secret for pictures, thirty-two characters' })
const port = String(await freePort())
const address = `http://127.0.0.1:${port}`
const server = spawn(process.execPath, [join(root, '.output/server/index.mjs')], {
  env: {
    ...process.env,
    DATABASE_URL: url,
    BRAVIK_SECRET: 'a secret for pictures, thirty-two characters',
    PORT: port,
    HOST: '127.0.0.1',
  },
  stdio: 'ignore',
})
for (let tries = 0; tries < 100 && !(await fetch(`${address}/api/session`).catch(() => null))?.ok; tries++)
  await new Promise(resolve => setTimeout(resolve, 100))
mkdirSync(join(root, 'docs/screenshots'), { recursive: true })
const { status } = spawnSync(...program('scripts/screenshots.ts', [address]), {
  cwd: root,
  stdio: 'inherit',
})
server.kill('SIGKILL')
stop()
rmSync(folder, { recursive: true, force: true })
process.exit(status ?? 1)
