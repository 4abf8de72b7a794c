/**
 * How well the tests of `core/` hold what it says: one operator is changed at a time, and a test must notice.
 * `npm run mutants -- core/gates` tries a folder or a file; without a name all of what decides is tried, which takes hours.
 * With `--near` only the tests beside what is tried are asked, and the worked cases: much sooner, and never a better score.
 */
import { spawnSync } from 'node:child_process'
import { dirname } from 'node:path'
import { bin, root } from './steps.mjs'

const deciding = [
  'core/conditions',
  'core/gates',
  'core/rulebook',
  'core/pages',
  'core/shop',
  'core/tax',
  'core/money.ts',
]
const near = process.argv.includes('--near')
const asked = process.argv.slice(2).filter(one => one !== '--near')
const files = (asked.length ? asked : deciding).flatMap(path =>
  path.endsWith('.ts') || path.includes('.ts:') ? [path] : [`${path}/**/*.ts`, `!${path}/**/*.test.ts`],
)
const folders = (asked.length ? asked : deciding).map(path => (path.includes('.ts') ? dirname(path) : path))
const { status } = spawnSync(bin('stryker'), ['run', 'scripts/mutants.config.mjs', '--mutate', files.join(',')], {
  cwd: root,
  stdio: 'inherit',
  env: { ...process.env, BRAVIK_MUTANTS: [...new Set(folders)].join(','), BRAVIK_MUTANTS_NEAR: near ? '1' : '' },
})
process.exitCode = status ?? 1
