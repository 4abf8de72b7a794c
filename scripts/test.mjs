/**
 * Everything that must hold, from a fresh clone: types, lint, and the tests of
 * core, server and application, the last against the built application in
 * Debian's Chromium. Ends with how many passed and failed.
 */
import { spawn } from 'node:child_process'
import { existsSync, readFileSync, rmSync } from 'node:fs'
import { delimiter, join } from 'node:path'
import { aptInstall } from './apt.mjs'
import { startPostgres } from './postgres.mjs'
import { bin, build, installDependencies, root, temporaryFolder } from './steps.mjs'

const counts = { passed: 0, failed: 0 }
const folder = temporaryFolder('test')
let stopDatabase = () => {}

/** Runs a command; answers its exit status, and what it printed where that is not shown at once. */
function run(command, args, { shown = false, env = {} } = {}) {
  const child = spawn(command, args, {
    cwd: root,
    stdio: shown ? 'inherit' : ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1', ...env },
  })
  let printed = ''
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', data => (printed += data))
  return new Promise((resolve, reject) => {
    child.once('error', reject)
    child.once('close', status => resolve({ status, printed }))
  })
}

async function step(name, command, args) {
  // Tests come first: what looks at sources takes the time that they leave.
  const { status, printed } = await run('nice', ['-n', '15', command, ...args])
  counts[status === 0 ? 'passed' : 'failed']++
  console.log(`\n— ${name}: ${status === 0 ? 'right' : 'not right'}\n${status === 0 ? '' : printed}`)
}

/** What was looked at before and has not changed is not looked at again. */
const cached = name => join(root, 'node_modules/.cache', name)
const byContent = name => ['--cache', '--cache-strategy', 'content', '--cache-location', cached(name)]

async function checks() {
  await step('types of the application', bin('nuxt'), ['typecheck'])
  const known = ['--incremental', '--tsBuildInfoFile', cached('types/tools.tsbuildinfo')]
  await step('types of core, command and tests', bin('tsc'), ['-p', 'tsconfig.tools.json', ...known])
  await step('lint', bin('eslint'), ['.', '--max-warnings', '0', ...byContent('lint')])
  await step('form', bin('prettier'), ['--check', '--log-level', 'warn', '.', ...byContent('form')])
  await step('what is exported is used', bin('knip'), ['--no-progress'])
}

async function tests(cluster) {
  console.log('\n— tests')
  const report = join(folder, 'report.json')
  await run(bin('vitest'), ['run', '--reporter=default', '--reporter=json', `--outputFile=${report}`], {
    shown: true,
    env: { BRAVIK_TEST_CLUSTER: cluster, BRAVIK_FILES: join(folder, 'files') },
  })
  if (!existsSync(report)) return void counts.failed++
  const { numPassedTests, numFailedTests, numFailedTestSuites, success } = JSON.parse(readFileSync(report, 'utf8'))
  counts.passed += numPassedTests
  counts.failed += numFailedTests
  // A file that breaks outside its tests fails none of them, yet it has failed.
  if (!success && !numFailedTests) counts.failed += numFailedTestSuites || 1
}

async function main() {
  await installDependencies({ tests: true })
  if (!(process.env.PATH ?? '').split(delimiter).some(path => existsSync(join(path, 'chromium'))))
    aptInstall(['chromium'])
  if (!existsSync('/usr/sbin/nginx')) aptInstall(['nginx-light'])
  // Both take one core for a while; types are checked of names the build makes, so that comes first.
  await build()
  const checked = checks()
  const postgres = await startPostgres(folder, { fast: true })
  stopDatabase = postgres.stop
  await tests(postgres.url)
  await checked
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
