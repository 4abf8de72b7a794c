/**
 * Runs through all files by and by, comparing what lies in the folder with the name it lies under: disks lose bytes
 * without a word, and whoever fetches should not be the first to hear of it.
 */
import { createHash } from 'node:crypto'
import { open, stat } from 'node:fs/promises'
import { setTimeout as wait } from 'node:timers/promises'
import { and, asc, eq, gt, isNotNull, isNull, lt, or, sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import { readFileName } from '../../../core/files/stored-file'
import type { FileDamage } from '../../../core/files/stored-file'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb } from '../../db/database'
import { file } from '../../db/schema'
import { log } from '../../log'
import { pathOf } from './file-folder'

/** Each is read again after so long; milliseconds. */
const againMs = 7 * 86_400_000
/** A run ends after so long: the next goes on; milliseconds. */
const runMs = 10 * 60_000
const piece = 1_048_576
/** Between two pieces, so that others read and answer first; milliseconds. */
const pauseMs = 10
/** Rows asked for at once. */
const batch = 500
const columns = { name: file.name, checkedAt: file.checkedAt, damage: file.damage }

interface Kept {
  name: string
  checkedAt: Date | null
  damage: string | null
}

/** What is wrong with the bytes of a file of that name; null where they are what they were. `pause` between pieces, in milliseconds. */
async function damageOf(name: string, pause = pauseMs): Promise<FileDamage | null> {
  try {
    return (await damagedSize(name)) ?? ((await hashOf(name, pause)) === readFileName(name)!.sha256 ? null : 'changed')
  } catch (error) {
    return damageBy(error)
  }
}

async function damagedSize(name: string): Promise<FileDamage | null> {
  const told = readFileName(name)!
  const size = await stat(pathOf(told)).then(
    found => found.size,
    (error: unknown) => damageBy(error),
  )
  return typeof size === 'string' ? size : size === told.size ? null : 'cut'
}

const damageBy = (error: unknown): FileDamage =>
  (error as NodeJS.ErrnoException).code === 'ENOENT' ? 'missing' : 'unreadable'

async function hashOf(name: string, pause: number): Promise<string> {
  const hash = createHash('sha256')
  const handle = await open(pathOf(readFileName(name)!))
  try {
    const bytes = Buffer.allocUnsafeSlow(piece)
    for (;;) {
      const { bytesRead } = await handle.read(bytes, 0, piece)
      if (!bytesRead) return hash.digest('hex')
      hash.update(bytes.subarray(0, bytesRead))
      await wait(pause)
    }
  } finally {
    await handle.close()
  }
}

/**
 * Sizes of all; then the bytes of the damaged ones, which may have been brought back, and of those not read for the
 * longest. `all`: however lately they were read.
 */
export async function readFilesThrough(db: AnyDb, { all = false, pause = pauseMs } = {}): Promise<void> {
  const until = Date.now() + runMs
  await compareSizes(db)
  const before = all ? clockDate() : new Date(clockMs() - againMs)
  const isUnread = or(isNull(file.checkedAt), lt(file.checkedAt, before))
  const read = async (which: SQL | undefined) => {
    const some = await db
      .select(columns)
      .from(file)
      .where(which)
      .orderBy(sql`${file.checkedAt} nulls first`, asc(file.name))
      .limit(batch)
    for (const one of some) if (Date.now() < until) await note(db, one, await damageOf(one.name, pause))
    return some.length === batch && Date.now() < until
  }
  await read(isNotNull(file.damage))
  while (await read(isUnread));
}

/** What is cut or gone is told within the hour. */
async function compareSizes(db: AnyDb): Promise<void> {
  for (let last = ''; ;) {
    const some = await db.select(columns).from(file).where(gt(file.name, last)).orderBy(asc(file.name)).limit(batch)
    for (const one of some) {
      const damage = one.damage === null ? await damagedSize(one.name) : null
      if (damage !== null) await note(db, one, damage)
    }
    if (some.length < batch) return
    last = some.at(-1)!.name
  }
}

/** Unless it was brought again meanwhile. */
async function note(db: AnyDb, { name, checkedAt, damage: before }: Kept, damage: FileDamage | null): Promise<void> {
  const noted = await db
    .update(file)
    .set({ checkedAt: clockDate(), damage })
    .where(and(eq(file.name, name), checkedAt === null ? isNull(file.checkedAt) : eq(file.checkedAt, checkedAt)))
    .returning({ name: file.name })
  if (noted.length && damage !== null && before === null)
    log().error({ file: name, damage }, 'a file is not what it was')
}

export interface FilesKept {
  files: number
  /** Of all of them. */
  bytes: number
  /** Never read through yet. */
  unread: number
  damaged: number
  /** Since when each of the others was read; null where none was. */
  readSince: Date | null
}

export async function filesKept(tx: AnyDb): Promise<FilesKept> {
  const [row] = await tx
    .select({
      files: sql<number>`count(*)::int`,
      bytes: sql<number>`coalesce(sum(${file.size}), 0)::float8`,
      unread: sql<number>`(count(*) filter (where ${file.checkedAt} is null))::int`,
      damaged: sql<number>`(count(*) filter (where ${file.damage} is not null))::int`,
      readSince: sql<Date | null>`min(${file.checkedAt})`.mapWith(file.checkedAt),
    })
    .from(file)
  return row!
}

/** Names of those that are not what they were. */
export async function damagedFiles(tx: AnyDb): Promise<Map<string, FileDamage>> {
  const rows = await tx
    .select({ name: file.name, damage: file.damage })
    .from(file)
    .where(isNotNull(file.damage))
    .limit(1000)
  return new Map(rows.map(row => [row.name, row.damage as FileDamage]))
}
