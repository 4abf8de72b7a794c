/**
 * Everything that must hold, from a fresh clone: types, lint, and the tests of
 * core, server and application, the last against the built application in
 * Debian's Chromium. Ends with how many passed and failed.
 */
import { spawnSync } from 'node:child_process'
import { existsSync, readFileSync, rmSync } from 'node:fs'
import { delimiter, join } from 'node:path'
import { aptInstall } from './apt.mjs'
import { startPostgres } from './postgres.mjs'
import { bin, build, installDependencies, root, temporaryFolder } from './steps.mjs'

const counts = { passed: 0, failed: 0 }
const folder = temporaryFolder('test')
let stopDatabase = () => {}

function step(name, command, args) {
  console.log(`\n— ${name}`)
  const { status } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1' },
  })
  counts[status === 0 ? 'passed' : 'failed']++
}

function tests(cluster) {
  console.log('\n— tests')
  const report = join(folder, 'report.json')
  spawnSync(bin('vitest'), ['run', '--reporter=default', '--reporter=json', `--outputFile=${report}`], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, BRAVIK_TEST_CLUSTER: cluster },
  })
  if (!existsSync(report)) return void counts.failed++
  const { numPassedTests, numFailedTests, numFailedTestSuites, success } = JSON.parse(readFileSync(report, 'utf8'))
  counts.passed += numPassedTests
  counts.failed += numFailedTests
  // A file that breaks outside its tests fails none of them, yet it has failed.
  if (!success && !numFailedTests) counts.failed += numFailedTestSuites || 1
}

async function main() {
  installDependencies()
  if (!(process.env.PATH ?? '').split(delimiter).some(path => existsSync(join(path, 'chromium'))))
    aptInstall(['chromium'])
  step('types of the application', bin('nuxt'), ['typecheck'])
  step('types of core, command and tests', bin('tsc'), ['-p', 'tsconfig.tools.json'])
  step('lint', bin('eslint'), ['.', '--max-warnings', '0'])
  step('form', bin('prettier'), ['--check', '--log-level', 'warn', '.'])
  build()
  const postgres = await startPostgres(folder, { fast: true })
  stopDatabase = postgres.stop
  tests(postgres.url)
}

main()
  .catch(error => {
    console.error(`\n${error.message}`)
    counts.failed++
  })
  .finally(() => {
    stopDatabase()
    rmSync(folder, { recursive: true, force: true })
    console.log(`\n${counts.passed} passed, ${counts.failed} failed`)
    process.exitCode = counts.failed ? 1 : 0
  })
