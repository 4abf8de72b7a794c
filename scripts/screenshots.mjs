/** `npm run screenshots`: one picture of each main view, from a fresh demo, into docs/screenshots/. */
import { spawnSync } from 'node:child_process'
import { mkdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { startPostgres } from './postgres.mjs'
import { program } from './programs.mjs'
import { serve } from './serving.mjs'
import { build, installDependencies, prepare, root, temporaryFolder } from './steps.mjs'

installDependencies()
build()
const folder = temporaryFolder('pictures')
const { url, stop } = await startPostgres(folder, { fast: true })
prepare(url)
const server = await serve(url)
mkdirSync(join(root, 'docs/screenshots'), { recursive: true })
const { status } = spawnSync(...program('scripts/screenshots.ts', [server.url]), {
  cwd: root,
  stdio: 'inherit',
})
server.kill()
stop()
rmSync(folder, { recursive: true, force: true })
process.exit(status ?? 1)
