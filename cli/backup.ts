/**
 * `bravik backup FILE` and `bravik restore FILE`: everything a site is, in one
 * tar file: the database in pg_dump's own format, the installation's secret,
 * the folder of files, and a list of what they must be.
 */
import { execFileSync, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import {
  cpSync,
  createReadStream,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { z } from 'zod'
import { lockFolder, readNote } from '../scripts/data-folder.mjs'
import { postgresPrograms, startPostgres } from '../scripts/postgres.mjs'
import { filesFolder } from '../scripts/steps.mjs'
import { putFile } from '../scripts/put-file.mjs'
import { connect } from '../server/db/database'
import { newestMigration } from '../server/db/newest-migration'
import { readFileName } from '../core/files/stored-file'
import { FileProblem } from './read-file'

const manifestShape = z.strictObject({
  bravik: z.literal('backup/1'),
  at: z.iso.datetime(),
  migration: z.number(),
  sha256: z.record(z.string(), z.string()),
  /** Files that were not what they are called when the backup was made. */
  damaged: z.array(z.string()).optional(),
})
type Manifest = z.infer<typeof manifestShape>

const parts = { database: 'database.dump', secret: 'secret', files: 'files', manifest: 'manifest.json' } as const

/** The database of the site: DATABASE_URL, that of a running start, or the private cluster, started for the while. */
async function withDatabase<T>(
  dataFolder: string,
  work: (url: string) => T | Promise<T>,
  { mustExist }: { mustExist: boolean },
): Promise<T> {
  const known = process.env.DATABASE_URL || readNote(dataFolder)?.url
  if (known) return work(known)
  if (mustExist && !existsSync(join(dataFolder, 'postgres')))
    throw new FileProblem(`There is no site in ${dataFolder}: BRAVIK_DATA names its folder, DATABASE_URL its database.`)
  await lockFolder(dataFolder).catch((error: Error) => {
    throw new FileProblem(error.message)
  })
  const postgres = await startPostgres(dataFolder)
  try {
    return await work(postgres.url)
  } finally {
    postgres.stop()
  }
}

/** Runs one of PostgreSQL's programs on a database; the password goes by the environment, where no list of processes shows it. */
function run(program: string, url: string, args: string[]): void {
  const { username, password, hostname, port, pathname } = new URL(url)
  const env = {
    ...process.env,
    PGHOST: hostname.replace(/^\[|\]$/g, ''),
    PGPORT: port || '5432',
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: decodeURIComponent(pathname.slice(1)),
  }
  const { status, stderr } = spawnSync(join(postgresPrograms(), program), args, { encoding: 'utf8', env })
  if (status !== 0) throw new FileProblem(`${program} failed: ${stderr.trim().split('\n').slice(-3).join(' ')}`)
}

function hashOf(file: string): Promise<string> {
  return new Promise((resolve, reject) => {
    const hash = createHash('sha256')
    createReadStream(file)
      .on('data', part => hash.update(part))
      .on('end', () => resolve(hash.digest('hex')))
      .on('error', reject)
  })
}

function listed(folder: string): string[] {
  return execFileSync('find', ['.', '-type', 'f', '!', '-name', parts.manifest], { cwd: folder, encoding: 'utf8' })
    .split('\n')
    .filter(Boolean)
    .map(path => path.slice(2))
    .sort()
}

/** Undefined where there is none, or none that can be read. */
function readManifest(file: string): unknown {
  try {
    return JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    return undefined
  }
}

/** Throws where a part is not what the list says, or not in it. */
async function checkParts(folder: string): Promise<Manifest> {
  const manifest = manifestShape.safeParse(readManifest(join(folder, parts.manifest)))
  if (!manifest.success) throw new FileProblem('This is no backup of Bravik.')
  const found = listed(folder)
  if (found.join('\n') !== Object.keys(manifest.data.sha256).sort().join('\n'))
    throw new FileProblem('The backup is not whole: parts are missing or do not belong to it.')
  for (const path of found)
    if ((await hashOf(join(folder, path))) !== manifest.data.sha256[path])
      throw new FileProblem(`The backup is damaged: ${path} is not what it was.`)
  return manifest.data
}

async function inTemporaryFolder<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'bravik-backup-'))
  try {
    return await work(folder)
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

const tar = (...args: string[]) => {
  const { status, stderr } = spawnSync('tar', args, { encoding: 'utf8' })
  if (status !== 0) throw new FileProblem(`tar failed: ${stderr.trim().split('\n').at(-1)}`)
}

export interface Backup {
  file: string
  parts: string[]
  /** Of the folder of files what is missing, or not what it was when it was kept. */ damaged: string[]
}

/** Writes beside `file`, reads it back, and only then puts it in its place. What is damaged is in it as it is, and named. */
export async function backup(dataFolder: string, file: string): Promise<Backup> {
  return inTemporaryFolder(async folder => {
    const files = filesFolder(dataFolder)
    const missing = await withDatabase(
      dataFolder,
      async url => {
        const before = await namedFiles(url)
        run('pg_dump', url, ['--format=custom', `--file=${join(folder, parts.database)}`])
        // What is still on its way in belongs to nothing yet.
        cpSync(files, join(folder, parts.files), { recursive: true, filter: path => path !== join(files, 'uploads') })
        // What was kept, or thrown away, meanwhile is in one of the two and not in the other.
        const after = new Set(await namedFiles(url))
        return before.filter(name => after.has(name) && !isWhole(join(folder, parts.files), name))
      },
      { mustExist: true },
    )
    if (existsSync(join(dataFolder, parts.secret))) cpSync(join(dataFolder, parts.secret), join(folder, parts.secret))
    if (!existsSync(join(folder, parts.secret)) && process.env.BRAVIK_SECRET)
      writeFileSync(join(folder, parts.secret), process.env.BRAVIK_SECRET, { mode: 0o600 })
    const paths = listed(folder)
    const sha256 = Object.fromEntries(
      await Promise.all(paths.map(async path => [path, await hashOf(join(folder, path))] as const)),
    )
    const damaged = [...new Set([...missing, ...paths.filter(path => isOther(path, sha256[path]!))])]
    const manifest: Manifest = { bravik: 'backup/1', at: new Date().toISOString(), migration: newestMigration, sha256 }
    writeFileSync(
      join(folder, parts.manifest),
      JSON.stringify({ ...manifest, ...(damaged.length ? { damaged } : {}) }, null, 1),
    )
    const fresh = `${file}.part`
    try {
      await writeWhole(fresh, folder, paths)
      renameSync(fresh, file)
    } catch (error) {
      // A disk that is full has room again.
      rmSync(fresh, { force: true })
      throw error
    }
    return { file, parts: paths, damaged }
  })
}

async function writeWhole(fresh: string, folder: string, paths: readonly string[]): Promise<void> {
  rmSync(fresh, { force: true })
  writeFileSync(fresh, '', { mode: 0o600 })
  tar('-cf', fresh, '-C', folder, parts.manifest, ...new Set(paths.map(path => path.split('/')[0]!)))
  execFileSync('sync', [fresh])
  await inTemporaryFolder(async again => {
    tar('-xf', fresh, '-C', again)
    await checkParts(again)
    if (
      spawnSync(join(postgresPrograms(), 'pg_restore'), ['--list', join(again, parts.database)], { stdio: 'ignore' })
        .status !== 0
    )
      throw new FileProblem('The backup could not be read back: it was not kept.')
  })
}

/** Names of the files the database knows: hash, size and type. */
async function namedFiles(url: string): Promise<string[]> {
  const connection = connect(url, 1)
  try {
    return (await connection.sql<{ name: string }[]>`select name from file order by name`).map(one => one.name)
  } finally {
    await connection.close()
  }
}

function isWhole(folder: string, name: string): boolean {
  const told = readFileName(name)
  const path = told && join(folder, told.sha256.slice(0, 2), told.sha256.slice(2))
  return path !== undefined && existsSync(path) && statSync(path).size === told!.size
}

/** Bytes lie under their own hash. */
function isOther(path: string, sha256: string): boolean {
  const [, start, rest] = /^files\/([0-9a-f]{2})\/([0-9a-f]{62})$/.exec(path) ?? []
  return start !== undefined && start + rest! !== sha256
}

async function refuseFull(url: string): Promise<void> {
  const connection = connect(url, 1)
  try {
    const [row] =
      await connection.sql`select count(*)::int count from pg_tables where schemaname in ('public', 'drizzle', 'pgboss')`
    if (row!.count)
      throw new FileProblem('The database holds something already: a backup is restored into an empty one only.')
  } finally {
    await connection.close()
  }
}

function putFiles(from: string, to: string): void {
  cpSync(from, to, { recursive: true })
  execFileSync('chown', ['-R', `--reference=${to}`, to])
  spawnSync('sync', ['-f', to])
}

/** Puts a backup into an empty database and its secret and files into the data folder. */
export async function restore(dataFolder: string, file: string): Promise<{ at: string; damaged: string[] }> {
  if (!existsSync(file)) throw new FileProblem(`There is no file ${file}.`)
  return inTemporaryFolder(async folder => {
    tar('-xf', file, '-C', folder, '--no-same-owner')
    const { at, migration, damaged = [] } = await checkParts(folder)
    if (migration > newestMigration)
      throw new FileProblem('The backup was made by a newer version of Bravik: restore it with that one.')
    const secret = join(dataFolder, parts.secret)
    if (
      existsSync(secret) &&
      existsSync(join(folder, parts.secret)) &&
      readFileSync(secret, 'utf8') !== readFileSync(join(folder, parts.secret), 'utf8')
    ) {
      throw new FileProblem(
        `${dataFolder} belongs to another installation: its secret is another. Restore into a new folder with BRAVIK_DATA.`,
      )
    }
    mkdirSync(dataFolder, { recursive: true })
    await withDatabase(
      dataFolder,
      async url => {
        await refuseFull(url)
        // Files and secret first, which can be put there again; the one transaction of the database last: until that is
        // through, the site is none, and any try can be repeated.
        if (existsSync(join(folder, parts.secret))) putFile(secret, readFileSync(join(folder, parts.secret)))
        if (existsSync(join(folder, parts.files))) putFiles(join(folder, parts.files), filesFolder(dataFolder))
        run('pg_restore', url, [
          '--no-owner',
          '--no-privileges',
          '--single-transaction',
          '--exit-on-error',
          `--dbname=${decodeURIComponent(new URL(url).pathname.slice(1))}`,
          join(folder, parts.database),
        ])
      },
      { mustExist: false },
    )
    return { at, damaged }
  })
}
