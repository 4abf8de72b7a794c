/** `npm run faults`: the fault tests of `npm test`, each many times over and for longer. */
import { spawnSync } from 'node:child_process'
import { bin, build, installDependencies, root } from './steps.mjs'

await installDependencies({ tests: true })
await build()
const run = (...args) =>
  spawnSync(bin('vitest'), ['run', ...args, '--testTimeout', '1800000'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, BRAVIK_FAULTS: 'long', BRAVIK_WALKS: '20', BRAVIK_WALK_STEPS: '150' },
  }).status ?? 1
// What is slow by what is sent, for a minute; money, walked at random.
const inputs = run('--project', 'server', 'tests/server/slow-inputs', 'tests/server/money-walk')
const faults = run('--project', 'application', 'tests/application/faults')
process.exit(inputs || faults)
