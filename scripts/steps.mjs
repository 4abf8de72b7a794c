/** The steps both commands share: dependencies, build, preparing the database. */
import { execFileSync, spawnSync } from 'node:child_process'
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
import { elsewhere } from './postgres.mjs'
import { load, program } from './programs.mjs'

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '..')
export const dataFolder = resolve(process.env.BRAVIK_DATA ?? join(root, '.data'))

/**
 * Installs exactly what the lock file names, when that is not what is there.
 * Not `npm ci`: it refuses a lock file without the optional packages of other
 * platforms, and not every registry mirror has those. `--no-save` leaves the
 * lock file as it is.
 */
export function installDependencies() {
  const lock = dependenciesHash()
  const stamp = join(root, 'node_modules', '.bravik-lock')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return
  console.log('Installing dependencies…')
  const result = spawnSync('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  if (result.status !== 0) throw new Error('npm install failed: see above.')
  // Also where npm is told to run nobody's scripts. What is patched already stays so.
  const patched = spawnSync(process.execPath, [join(root, 'node_modules/patch-package/index.js'), '--error-on-fail'], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  if (patched.status !== 0) throw new Error('patches/ does not fit the dependencies: see above.')
  writeFileSync(stamp, lock)
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

/** Builds the application when its sources are not what was built. */
export function build() {
  const stamp = join(root, '.output', '.bravik-sources')
  const sources = fingerprint()
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return
  console.log('Building…')
  const env = { ...process.env, NUXT_TELEMETRY_DISABLED: '1' }
  delete env.DATABASE_URL
  const result = spawnSync(bin('nuxt'), ['build'], { cwd: root, encoding: 'utf8', env, maxBuffer: 2 ** 26 })
  if (result.status !== 0) throw new Error(`The build failed.\n${result.stdout}\n${result.stderr}`)
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
  const { status, stdout, stderr } = spawnSync(...program('scripts/prepare.ts'), {
    cwd: root,
    encoding: 'utf8',
    env: { ...process.env, ...env, DATABASE_URL: url },
  })
  // It says itself, in a sentence, what keeps it.
  if (status !== 0) throw new Error(stderr.trim() || 'The database could not be prepared.')
  return JSON.parse(stdout.trim().split('\n').at(-1))
}

/** A secret of this installation, made once. */
export function secret(folder = dataFolder) {
  if (process.env.BRAVIK_SECRET) return process.env.BRAVIK_SECRET
  const file = join(folder, 'secret')
  mkdirSync(folder, { recursive: true })
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('base64url'), { mode: 0o600 })
  return readFileSync(file, 'utf8').trim()
}
