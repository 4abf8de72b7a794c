/** `npm run bench`: measures in one run what must be fast. Ratios matter; the absolute numbers are this machine's. */
import { spawnSync } from 'node:child_process'
import { existsSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { aptInstall } from './apt.mjs'
import { startPostgres } from './postgres.mjs'
import { program } from './programs.mjs'
import { build, installDependencies, root, temporaryFolder } from './steps.mjs'

/** `npm run bench -- site`: one part alone. */
const chosen = process.argv.slice(2)
await installDependencies({ tests: true })
// What files are compared with: asked for before anything takes its time.
if ((!chosen.length || chosen[0] === 'fetch') && !existsSync('/usr/sbin/nginx')) aptInstall(['nginx-light'])
await build()
/** Each part has a database of its own: what one leaves behind is in nobody's way. */
async function part(...args) {
  const folder = temporaryFolder('bench')
  const { url, stop } = await startPostgres(folder)
  const { status } = spawnSync(...program('scripts/bench.ts', args), {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, DATABASE_URL: url, BRAVIK_FILES: join(folder, 'files') },
  })
  stop()
  rmSync(folder, { recursive: true, force: true })
  return status ?? 1
}
if (chosen.length) process.exit(await part(...chosen))
for (const one of [[], ['kept'], ['find'], ['fetch'], ['site'], ['prices'], ['orders'], ['large']]) {
  const status = await part(...one)
  if (status) process.exit(status)
}
