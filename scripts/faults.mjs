/** `npm run faults`: the fault tests of `npm test`, each many times over and for longer. */
import { spawnSync } from 'node:child_process'
import { bin, build, installDependencies, root } from './steps.mjs'

installDependencies()
build()
const { status } = spawnSync(
  bin('vitest'),
  ['run', '--project', 'application', 'tests/application/faults', '--testTimeout', '1800000'],
  { cwd: root, stdio: 'inherit', env: { ...process.env, BRAVIK_FAULTS: 'long' } },
)
process.exit(status ?? 1)
