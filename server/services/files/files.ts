/** Files people fetch: what is known of each; their bytes lie in the folder. Kept once however often they are uploaded. */
import { lockOne } from '../../db/locks'
import { inTransaction } from '../../db/turn'
import { randomUUID } from 'node:crypto'
import { writeFile } from 'node:fs/promises'
import { and, eq, lt, sql } from 'drizzle-orm'
import { nameOfFile, readFileName, fileTypeNames } from '../../../core/files/stored-file'
import type { FileType, StoredFile } from '../../../core/files/stored-file'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { file, version } from '../../db/schema'
import type { Actor } from '../../trace'
import { fileMode, folderFor, fullAs, pathOf, putInPlace, removeFile, uploadPath } from './file-folder'
import { readStoredFile } from './file-type'

/** Between being uploaded and being named by a download; milliseconds. */
const keptUnnamedMs = 86_400_000

/** Nobody takes away the bytes while somebody else says that they stay. Until the transaction ends. */
const lockBytes = (tx: Tx, sha256: string) => lockOne(tx, 'bytes', sha256)

/** Keeps what was written to `path` in the folder; whoever wrote it takes it away once that is committed. Answers its name. */
export async function keepFile(tx: Tx, path: string, told: StoredFile, actor: Actor): Promise<string> {
  const name = nameOfFile(told)
  await lockBytes(tx, told.sha256)
  await putInPlace(path, told)
  const now = clockDate()
  await tx
    .insert(file)
    .values({ name, size: told.size, madeBy: actor.id ?? actor.name, madeAt: now, namedAt: now })
    .onConflictDoUpdate({ target: file.name, set: { namedAt: now, checkedAt: null, damage: null } })
  return name
}

/** The same for bytes at hand, such as those of a folder that is brought. `as`: the name they come under. */
export async function keepBytes(
  tx: Tx,
  bytes: Uint8Array,
  as: string,
  actor: Actor,
  allowed: readonly FileType[] = fileTypeNames,
): Promise<string> {
  const path = uploadPath(randomUUID())
  await folderFor(path)
  try {
    await writeFile(path, bytes, { mode: fileMode }).catch((error: unknown) => Promise.reject(fullAs(error) as Error))
    return await keepFile(tx, path, await readStoredFile(path, as, allowed), actor)
  } finally {
    await removeFile(path)
  }
}

/** Of these names those that are kept. They stay until whoever asks is done, and for a day after. */
export async function keptFiles(tx: Tx, names: readonly string[]): Promise<ReadonlySet<string>> {
  const found = new Set<string>()
  for (const name of [...new Set(names)].sort()) {
    const told = readFileName(name)
    if (told) await lockBytes(tx, told.sha256)
    const [row] = await tx
      .update(file)
      .set({ namedAt: clockDate() })
      .where(eq(file.name, name))
      .returning({ name: file.name })
    if (row) found.add(row.name)
  }
  return found
}

/** Takes out what no version of anything has named for a day. */
export async function dropUnnamedFiles(db: AnyDb): Promise<void> {
  const isUnnamed = and(
    lt(file.namedAt, new Date(clockMs() - keptUnnamedMs)),
    sql`not exists (select from ${version} where ${version.content} ->> 'file' = ${file.name})`,
  )
  for (const { name } of await db.select({ name: file.name }).from(file).where(isUnnamed)) {
    const told = readFileName(name)!
    await inTransaction(db, async tx => {
      await lockBytes(tx, told.sha256)
      const gone = await tx
        .delete(file)
        .where(and(eq(file.name, name), isUnnamed))
        .returning({ name: file.name })
      // The same bytes may be kept under another type as well.
      const others = await tx
        .select({ name: file.name })
        .from(file)
        .where(sql`starts_with(${file.name}, ${told.sha256})`)
      if (gone.length && !others.length) await removeFile(pathOf(told))
    })
  }
}
