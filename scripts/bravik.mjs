/** `npm run -s bravik -- …`: the command, run from its TypeScript source. */
import { spawnSync } from 'node:child_process'
import { program } from './programs.mjs'
import { installDependencies, root } from './steps.mjs'

await installDependencies()
const result = spawnSync(...program('cli/bravik.ts', process.argv.slice(2)), {
  stdio: 'inherit',
  cwd: root,
  env: { ...process.env, BRAVIK_CALLED_FROM: process.env.INIT_CWD ?? process.cwd() },
})
process.exit(result.status ?? 2)
