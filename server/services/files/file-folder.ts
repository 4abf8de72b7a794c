/**
 * The folder files lie in, by their SHA-256: `ab/cdef…`; beside them, in `uploads`, what is on its way in. It may be
 * shared by several servers. Names that come from outside are never part of a path.
 */
import { randomUUID } from 'node:crypto'
import { chown, copyFile, link, mkdir, rename, rm, stat, statfs } from 'node:fs/promises'
import { dirname, join, resolve } from 'node:path'
import type { StoredFile } from '../../../core/files/stored-file'
import { environment } from '../../environment'
import { Problem } from '../../problem'

/** Readable to a group, for a proxy that is handed files to send. */
export const fileMode = 0o640
const folderMode = 0o750

const filesFolder = (): string => {
  const { BRAVIK_FILES, BRAVIK_DATA } = environment()
  return resolve(BRAVIK_FILES ?? join(BRAVIK_DATA ?? '.data', 'files'))
}

/** Of a file, within the folder. */
export const placeOf = ({ sha256 }: Pick<StoredFile, 'sha256'>) => `${sha256.slice(0, 2)}/${sha256.slice(2)}`
export const pathOf = (file: Pick<StoredFile, 'sha256'>) => join(filesFolder(), placeOf(file))
/** `id`: of an upload, which is made here. */
export const uploadPath = (id: string) => join(filesFolder(), 'uploads', id)

/** What root puts there belongs to whom the folder belongs to, who serves it. */
async function belongsToFolder(path: string): Promise<void> {
  if (process.getuid?.() !== 0) return
  const { uid, gid } = await stat(filesFolder())
  await chown(path, uid, gid)
}

/** The folder something is put into, made where it is not there. */
export async function folderFor(path: string): Promise<void> {
  const folder = dirname(path)
  const made = await mkdir(folder, { recursive: true, mode: folderMode })
  if (made !== undefined) await belongsToFolder(folder)
}

/**
 * Puts what was written elsewhere in the folder into its place as well: it stays where it was until whoever keeps it has
 * committed, so that a step that fails can be taken once more. Bytes that lie there already, damaged as they may be, give
 * way to these. Throws `no-room` on a full disk.
 */
export async function putInPlace(from: string, file: Pick<StoredFile, 'sha256'>): Promise<void> {
  const to = pathOf(file)
  const beside = `${to}.${randomUUID()}`
  await folderFor(to)
  await belongsToFolder(from)
  try {
    await link(from, beside).catch((error: NodeJS.ErrnoException) => {
      // Not every file system can.
      if (!['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'EXDEV', 'EMLINK'].includes(error.code ?? '')) throw error
      return copyFile(from, beside)
    })
    await rename(beside, to)
  } catch (error) {
    throw fullAs(error)
  } finally {
    // Renaming one name of the same bytes to another leaves both.
    await rm(beside, { force: true })
  }
}

/** A disk that is full, or a share of it that is used up, is told as that. */
export function fullAs(error: unknown): unknown {
  return ['ENOSPC', 'EDQUOT'].includes((error as NodeJS.ErrnoException).code ?? '') ? new Problem('no-room') : error
}

/** Bytes that lie there; 0 where none do. */
export const bytesAt = (path: string): Promise<number> =>
  stat(path).then(
    ({ size }) => size,
    (error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return 0
      throw error
    },
  )

export const removeFile = (path: string) => rm(path, { force: true })

/** Bytes that can still be written. */
export async function roomLeft(): Promise<number> {
  await mkdir(filesFolder(), { recursive: true, mode: folderMode })
  const { bavail, bsize } = await statfs(filesFolder())
  return bavail * bsize
}
