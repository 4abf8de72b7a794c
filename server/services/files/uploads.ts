/**
 * Files on their way in, a piece at a time: begun with a name and a size, written from where they broke off (the
 * `Upload-Offset` of RFC 9110-style resumable uploads, draft-ietf-httpbis-resumable-upload), kept once they are whole.
 */
import { lockOne } from '../../db/locks'
import { inTransaction } from '../../db/turn'
import { open, readdir, stat } from 'node:fs/promises'
import type { FileHandle } from 'node:fs/promises'
import { randomUUID } from 'node:crypto'
import { dirname } from 'node:path'
import { and, eq, isNull, lt, or } from 'drizzle-orm'
import { cleanFileName, typeInName } from '../../../core/files/stored-file'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb } from '../../db/database'
import { upload } from '../../db/schema'
import { logFault } from '../../log'
import { Problem } from '../../problem'
import { newId } from '../secrets/tokens'
import type { SiteSettings } from '../settings/settings'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { bytesAt, fileMode, folderFor, fullAs, removeFile, roomLeft, uploadPath } from './file-folder'
import { readStoredFile } from './file-type'
import { keepFile } from './files'

const megabyte = 1_000_000
/** Files one person may have on their way in at once. */
const mostAtOnce = 10
/** Left alone for so long they are forgotten; milliseconds. */
const keptAloneMs = 86_400_000
/** How long somebody writes without saying again that they do; milliseconds. */
const writingMs = 20_000
/** Bytes kept free: a full disk stops more than uploads. */
const keptFree = 256 * megabyte

export interface Upload {
  id: string
  /** Bytes. */
  size: number
  received: number
  /** The name people will get it by. */
  fileName: string
  /** Once it is whole: the name it is kept under. */
  file?: string
}
type Person = Actor & { id: string }
type Limits = SiteSettings['files']

/** Throws `file-without-name`, `file-type-unknown`, `file-too-large`, `uploads-under-way` or `no-room`: before anything is sent. */
export async function beginUpload(
  db: AnyDb,
  { name, size }: { name: string; size: number },
  { most, types }: Limits,
  person: Person,
): Promise<Upload> {
  const fileName = cleanFileName(name)
  if (!fileName) throw new Problem('file-without-name', {}, { at: '/name' })
  const type = typeInName(fileName)
  if (!type || !types.includes(type))
    throw new Problem('file-type-unknown', { name: fileName, known: types }, { at: '/name' })
  if (size > most * megabyte) throw new Problem('file-too-large', { most }, { at: '/size' })
  if ((await roomLeft()) < size + keptFree) throw new Problem('no-room')
  const id = newId('u', 24)
  await inTransaction(db, async tx => {
    await lockOne(tx, 'uploads', person.id)
    const under = await tx.$count(upload, eq(upload.personId, person.id))
    if (under >= mostAtOnce) throw new Problem('uploads-under-way', { most: mostAtOnce })
    await tx.insert(upload).values({ id, personId: person.id, name: fileName, size, touchedAt: clockDate() })
  })
  const path = uploadPath(id)
  await folderFor(path)
  await (await open(path, 'wx', fileMode)).close()
  return { id, size, received: 0, fileName }
}

/** How far one has come; somebody else's is not there. */
export async function uploadOf(db: AnyDb, id: string, person: Person): Promise<Upload> {
  const [row] = await db
    .select()
    .from(upload)
    .where(and(eq(upload.id, id), eq(upload.personId, person.id)))
  if (!row) throw new Problem('no-such-upload')
  // What is missing of it begins anew.
  const received = Math.min(row.received, await bytesAt(uploadPath(id)))
  return { id, size: row.size, received, fileName: row.name }
}

export async function giveUpUpload(db: AnyDb, id: string, person: Person): Promise<void> {
  await uploadOf(db, id, person)
  await withTurn(db, id, async () => {
    await db.delete(upload).where(eq(upload.id, id))
    await removeFile(uploadPath(id))
  })
}

/**
 * Writes what is sent behind what is there already; once it is whole, keeps it. Breaking off loses nothing that has
 * come. Throws `upload-elsewhere` where it does not go on from what is there, `upload-under-way` while another writes.
 */
export async function goOnWithUpload(
  db: AnyDb,
  { id, from, bytes }: { id: string; from: number; bytes: AsyncIterable<Buffer> },
  { types }: Pick<Limits, 'types'>,
  person: Person,
): Promise<Upload> {
  const known = await uploadOf(db, id, person)
  return withTurn(db, id, async turn => {
    // Read again: whoever wrote before may have come further.
    const { received } = await uploadOf(db, id, person)
    if (received !== from) throw new Problem('upload-elsewhere', { received })
    const now = await writeBehind({ ...known, received }, bytes, turn)
    if (now < known.size) return { ...known, received: now }
    return { ...known, received: now, file: await finish(db, known, types, { person, turn }) }
  })
}

async function writeBehind({ id, size, received }: Upload, bytes: AsyncIterable<Buffer>, turn: Turn): Promise<number> {
  const path = uploadPath(id)
  await folderFor(path)
  const handle = await open(path, (await bytesAt(path)) ? 'r+' : 'w+', fileMode)
  let at = received
  try {
    for await (const piece of bytes) {
      if (at + piece.length > size) throw new Problem('upload-too-long', { size })
      await writeAll(handle, piece, at)
      at += piece.length
      await turn.holds(at)
    }
    await handle.datasync()
  } catch (error) {
    throw fullAs(error)
  } finally {
    await handle.close()
    // A line that breaks takes nothing with it of what has come.
    await turn.note(at)
  }
  return at
}

async function writeAll(handle: FileHandle, piece: Buffer, at: number): Promise<void> {
  for (let done = 0; done < piece.length;)
    done += (await handle.write(piece, done, piece.length - done, at + done)).bytesWritten
}

/** Whoever reads a very large one to its end still has their turn. */
async function finish(
  db: AnyDb,
  { id, size, fileName }: Upload,
  types: Limits['types'],
  { person, turn }: { person: Person; turn: Turn },
): Promise<string> {
  try {
    const told = await readStoredFile(uploadPath(id), fileName, types, () => turn.holds(size))
    const kept = await inTransaction(db, async tx => {
      const name = await keepFile(tx, uploadPath(id), told, person)
      await tx.delete(upload).where(eq(upload.id, id))
      await leaveTrace(tx, person, 'file.keep', `file ${name}`, { name: fileName })
      return name
    })
    await removeFile(uploadPath(id)).catch(error => logFault('an upload that is kept', error))
    return kept
  } catch (error) {
    // What it is will not change by sending it again; that there is no room for it may.
    if (error instanceof Problem && error.code !== 'no-room') {
      await db.delete(upload).where(eq(upload.id, id))
      await removeFile(uploadPath(id))
    }
    throw error
  }
}

interface Turn {
  /** Says from time to time that it is still written, and how far it has come; throws where another writes now. */
  holds(received: number): Promise<void>
  note(received: number): Promise<void>
}

/** One writes at a time, whichever server they came to; whoever is gone without a word is waited for a little. */
async function withTurn<T>(db: AnyDb, id: string, work: (turn: Turn) => Promise<T>): Promise<T> {
  const writer = randomUUID()
  const mine = and(eq(upload.id, id), eq(upload.writer, writer))
  const until = () => new Date(clockMs() + writingMs)
  const free = or(isNull(upload.writer), lt(upload.writerUntil, clockDate()))
  const taken = await db
    .update(upload)
    .set({ writer, writerUntil: until(), touchedAt: clockDate() })
    .where(and(eq(upload.id, id), free))
    .returning({ id: upload.id })
  if (!taken.length) throw new Problem('upload-under-way')
  let said = clockMs()
  const note = async (received: number) => {
    said = clockMs()
    const kept = await db
      .update(upload)
      .set({ received, writerUntil: until(), touchedAt: clockDate() })
      .where(mine)
      .returning({ id: upload.id })
    if (!kept.length) throw new Problem('upload-under-way')
  }
  try {
    return await work({ note, holds: async at => (clockMs() - said > writingMs / 4 ? note(at) : undefined) })
  } finally {
    await db.update(upload).set({ writer: null, writerUntil: null }).where(mine)
  }
}

/** Takes out what was left alone for a day, and bytes of uploads that are no more. */
export async function dropOldUploads(db: AnyDb): Promise<void> {
  await dropStrays(db)
  const old = lt(upload.touchedAt, new Date(clockMs() - keptAloneMs))
  for (const { id } of await db.delete(upload).where(old).returning({ id: upload.id })) await removeFile(uploadPath(id))
}

/** What a server left behind that ended between keeping a file and taking away what it was written to. */
async function dropStrays(db: AnyDb): Promise<void> {
  const folder = dirname(uploadPath('any'))
  // Nobody has uploaded anything yet.
  const names = await readdir(folder).catch((error: NodeJS.ErrnoException): string[] => {
    if (error.code === 'ENOENT') return []
    throw error
  })
  if (!names.length) return
  const known = new Set((await db.select({ id: upload.id }).from(upload)).map(one => one.id))
  for (const name of names.filter(one => !known.has(one))) {
    const { mtimeMs } = await stat(uploadPath(name)).catch(() => ({ mtimeMs: Number.POSITIVE_INFINITY }))
    if (clockMs() - mtimeMs > keptAloneMs) await removeFile(uploadPath(name))
  }
}
