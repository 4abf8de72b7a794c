/** The steps both commands share: dependencies, build, preparing the database. */
import { execFileSync, spawn, spawnSync } from 'node:child_process'
import { createHash, randomBytes } from 'node:crypto'
import {
  chmodSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { phase } from './phases.mjs'
import { elsewhere } from './postgres.mjs'
import { load, program } from './programs.mjs'
import { putFile } from './put-file.mjs'

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '..')
export const dataFolder = resolve(process.env.BRAVIK_DATA ?? join(root, '.data'))

/**
 * Installs exactly what the lock file names, when that is not what is there: for running what running needs, and with
 * `tests` the rest. Not `npm ci`: it refuses a lock file without the optional packages of other platforms, and not every
 * registry mirror has those. `--no-save` leaves the lock file as it is.
 */
export async function installDependencies({ tests = false } = {}) {
  const lock = dependenciesHash()
  const stamp = join(root, 'node_modules', '.bravik-lock')
  const installed = existsSync(stamp) ? readFileSync(stamp, 'utf8') : ''
  if (installed === `${lock} all` || (!tests && installed === lock)) return
  await phase('Installing dependencies', async () => {
    const quiet = ['--no-save', '--no-audit', '--no-fund', '--loglevel=error', '--prefer-offline']
    const { status, printed } = await run('npm', ['install', ...quiet, ...(tests ? [] : ['--omit=dev'])])
    if (status !== 0) throw new Error(`npm install failed.\n${printed}`)
    // Also where npm is told to run nobody's scripts. What is patched already stays so.
    const patched = await run(process.execPath, [join(root, 'node_modules/patch-package/index.js'), '--error-on-fail'])
    if (patched.status !== 0) throw new Error(`patches/ does not fit the dependencies.\n${patched.printed}`)
  })
  writeFileSync(stamp, tests ? `${lock} all` : lock)
}

const children = new Set()
/** Runs a command beside whatever else is done; answers how it ended and what it printed. */
function run(command, args, env = {}) {
  const child = spawn(command, args, {
    cwd: root,
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1', ...env },
  })
  children.add(child)
  let printed = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', data => (printed += data))
  return new Promise((resolve, reject) => {
    child.once('error', reject)
    child.once('close', status => {
      children.delete(child)
      resolve({ status, printed })
    })
  })
}
/** Ends what is still being done, as when the command is stopped. */
export function stopSteps() {
  for (const child of children) child.kill('SIGTERM')
}

/** Of what is installed: the lock file, and what we mend of it. */
function dependenciesHash() {
  const hash = createHash('sha256').update(readFileSync(join(root, 'package-lock.json')))
  for (const name of readdirSync(join(root, 'patches')).sort()) hash.update(readFileSync(join(root, 'patches', name)))
  return hash.digest('hex')
}

const built = ['app', 'core', 'server', 'demo', 'public', 'nuxt.config.ts', 'package-lock.json', 'patches']

function fingerprint() {
  const hash = createHash('sha256')
  const visit = path => {
    const found = statSync(path)
    if (found.isDirectory())
      return readdirSync(path)
        .sort()
        .forEach(name => visit(join(path, name)))
    if (!path.endsWith('.test.ts')) hash.update(path.slice(root.length)).update(readFileSync(path))
  }
  for (const name of built) if (existsSync(join(root, name))) visit(join(root, name))
  return hash.digest('hex')
}

/** Megabytes of young objects: with room for them the bundlers spend a third less of their time on sorting them out. */
const youngMb = 64
/** Builds the application when its sources are not what was built. */
export async function build() {
  const stamp = join(root, '.output', '.bravik-sources')
  const sources = fingerprint()
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return
  await phase('Building', async () => {
    const options = `${process.env.NODE_OPTIONS ?? ''} --max-semi-space-size=${youngMb}`.trim()
    // Of no database: what is built is the same for all.
    const { status, printed } = await run(bin('nuxt'), ['build'], { NODE_OPTIONS: options, DATABASE_URL: undefined })
    if (status !== 0) throw new Error(`The build failed.\n${printed}`)
  })
  writeFileSync(stamp, sources)
}

/**
 * What the environment says, parsed by the schema the server uses; throws a
 * sentence that names the variable. `address` is where the site is reached from here.
 */
export async function environment() {
  const { readEnvironment, localAddress } = await load('server/environment.ts')
  const parsed = readEnvironment(process.env)
  return { ...parsed, address: localAddress(parsed) }
}

/** Debian's user for serving the web, or nobody: owns nothing here, and nothing of the database. */
const servingUser = () =>
  ['www-data', 'nobody'].find(name => spawnSync('id', ['-u', name], { stdio: 'ignore' }).status === 0)

/**
 * As which user, and from which folder, the server runs. Root lets go of its
 * rights; where the other user cannot read the built application it is copied to where they can.
 */
export function servedAs(built) {
  if (process.getuid?.() !== 0) return { file: built, user: {} }
  const name = servingUser()
  const id = kind => Number(execFileSync('id', [kind, name], { encoding: 'utf8' }))
  const user = { uid: id('-u'), gid: id('-g') }
  const entry = join(built, 'server/index.mjs')
  if (spawnSync('runuser', ['-u', name, '--', 'test', '-r', entry]).status === 0) return { file: built, user }
  const copy = join(elsewhere(built), 'output')
  rmSync(copy, { recursive: true, force: true })
  mkdirSync(dirname(copy), { recursive: true, mode: 0o755 })
  cpSync(built, copy, { recursive: true })
  execFileSync('chmod', ['-R', 'a+rX', dirname(copy)])
  return { file: copy, user }
}

/**
 * The folder of files people fetch: in the data folder, or, as root, where the user who serves can get to it; theirs,
 * and nobody else's. BRAVIK_FILES names another, such as one that several servers share.
 */
export function filesFolder(data = dataFolder) {
  if (process.env.BRAVIK_FILES) return resolve(process.env.BRAVIK_FILES)
  const wanted = join(data, 'files')
  if (process.getuid?.() !== 0) return made(wanted)
  mkdirSync(data, { recursive: true })
  const name = servingUser()
  const reachable = spawnSync('runuser', ['-u', name, '--', 'test', '-x', data]).status === 0
  const folder = made(reachable ? wanted : join(elsewhere(data), 'files'))
  execFileSync('chown', [`${name}:`, folder])
  return folder
}
function made(folder) {
  mkdirSync(dirname(folder), { recursive: true, mode: 0o755 })
  mkdirSync(folder, { recursive: true, mode: 0o750 })
  return folder
}

/** A folder that goes with the run. Others may look in: as root the database runs as another user. */
export function temporaryFolder(name) {
  const folder = mkdtempSync(join(tmpdir(), `bravik-${name}-`))
  chmodSync(folder, 0o755)
  return folder
}

export const bin = name => join(root, 'node_modules', '.bin', name)

/** Migrates and sets up the database at `url`; answers what `scripts/prepare.ts` printed. */
export function prepare(url, env = {}) {
  const done = spawnSync(...program('scripts/prepare.ts'), {
    cwd: root,
    encoding: 'utf8',
    env: { ...process.env, ...env, DATABASE_URL: url },
  })
  return prepared(done.status, done.stdout, done.stderr.trim())
}
/** The same, while something else is done. */
export async function prepareBeside(url, env = {}) {
  const { status, printed } = await run(...program('scripts/prepare.ts'), { ...env, DATABASE_URL: url })
  return prepared(status, printed, printed.trim())
}
function prepared(status, printed, said) {
  // It says itself, in a sentence, what keeps it.
  if (status !== 0) throw new Error(said || 'The database could not be prepared.')
  return JSON.parse(printed.trim().split('\n').at(-1))
}

/** A secret of this installation, made once. */
export function secret(folder = dataFolder) {
  if (process.env.BRAVIK_SECRET) return process.env.BRAVIK_SECRET
  const file = join(folder, 'secret')
  mkdirSync(folder, { recursive: true })
  if (!existsSync(file)) putFile(file, randomBytes(32).toString('base64url'))
  return readFileSync(file, 'utf8').trim()
}
