/** `npm run bench`: measures in one run what must be fast. Ratios matter; the absolute numbers are this machine's. */
import { spawnSync } from 'node:child_process'
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { startPostgres } from './postgres.mjs'
import { bin, build, installDependencies, root, temporaryFolder } from './steps.mjs'

installDependencies()
build()
const folder = temporaryFolder('bench')
const { url, stop } = await startPostgres(folder)
const { status } = spawnSync(bin('tsx'), [join(root, 'scripts/bench.ts')], {
  cwd: root,
  stdio: 'inherit',
  env: { ...process.env, DATABASE_URL: url },
})
stop()
rmSync(folder, { recursive: true, force: true })
process.exit(status ?? 1)
