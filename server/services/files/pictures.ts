/**
 * Pictures, kept once however often they are uploaded, by their SHA-256. They are small and few beside what people
 * download, so their bytes lie in the database: servers share them with nothing else set up, they are in every backup,
 * and one transaction holds what names them.
 */
import { createHash } from 'node:crypto'
import { LRUCache } from 'lru-cache'
import { and, eq, gte, lt, sql } from 'drizzle-orm'
import type Sharp from 'sharp'
import { nameOfPicture, readPictureName } from '../../../core/pictures/picture-file'
import type { PictureFile, PictureType } from '../../../core/pictures/picture-file'
import { clockDate, clockMs } from '../../clock'
import { picture, version } from '../../db/schema'
import type { Database, Tx } from '../../db/database'
import { Problem } from '../../problem'
import type { Actor } from '../../trace'

/** Bytes of one, and of all that one person uploads in a day. */
export const mostOfPicture = 5 * 1_048_576
const mostInADay = 100 * mostOfPicture
/** What a small file can unpack to would fill the memory. */
const mostPixels = 40_000_000
const longestSide = 20_000
/** Between being uploaded and being named by a part; milliseconds. */
const keptUnnamedMs = 86_400_000

/** By what the decoder calls them: `heif` holds AVIF and others. */
const typeOf: Readonly<Record<string, PictureType>> = {
  png: 'png',
  jpeg: 'jpg',
  gif: 'gif',
  webp: 'webp',
  heif: 'avif',
}

let loaded: Promise<typeof Sharp> | undefined
/** Reads the types above and no others, such as SVG, which is a program of its own. Loaded when it is first needed. */
const decoder = () =>
  (loaded ??= import('sharp').then(({ default: sharp }) => {
    sharp.block({ operation: ['VipsForeignLoad'] })
    sharp.unblock({ operation: ['Png', 'Jpeg', 'Nsgif', 'Webp', 'Heif'].map(type => `VipsForeignLoad${type}`) })
    return sharp
  }))

/** Reads it to its end: a name or a beginning proves nothing. Throws `no-picture` or `picture-too-large`. */
export async function readPicture(bytes: Uint8Array): Promise<PictureFile> {
  if (bytes.length > mostOfPicture) throw new Problem('picture-too-large', { most: mostOfPicture / 1_048_576 })
  const sharp = await decoder()
  // Its head first: how much it unpacks to is known before any of it is unpacked.
  const told = await sharp(bytes, { limitInputPixels: false })
    .metadata()
    .catch(() => undefined)
  const type = typeOf[told?.format ?? '']
  if (!told || !type || (told.format === 'heif' && told.compression !== 'av1')) throw new Problem('no-picture')
  const { width, height } = told.autoOrient
  if (told.width * told.height > mostPixels || Math.max(width, height) > longestSide)
    throw new Problem('picture-too-wide', { pixels: mostPixels / 1_000_000 })
  await sharp(bytes, { limitInputPixels: mostPixels, failOn: 'error' })
    .stats()
    .catch(() => {
      throw new Problem('no-picture')
    })
  return { sha256: createHash('sha256').update(bytes).digest('hex'), width, height, type }
}

/** Keeps a picture; the second time nothing changes. Answers its name. */
export async function keepPicture(tx: Tx, bytes: Uint8Array, actor: Actor): Promise<string> {
  const name = nameOfPicture(await readPicture(bytes))
  // One upload of a person after the other, or two at once would both find room.
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`pictures of ${actor.id ?? actor.name}`}, 0))`)
  const [today] = await tx
    .select({ bytes: sql<number>`coalesce(sum(${picture.size}), 0)::float8` })
    .from(picture)
    .where(and(eq(picture.madeBy, actor.id ?? actor.name), gte(picture.madeAt, new Date(clockMs() - 86_400_000))))
  if (today!.bytes + bytes.length > mostInADay) throw new Problem('too-many-pictures', { most: mostInADay / 1_048_576 })
  await tx
    .insert(picture)
    .values({
      name,
      size: bytes.length,
      bytes: Buffer.from(bytes),
      madeBy: actor.id ?? actor.name,
      madeAt: clockDate(),
      namedAt: clockDate(),
    })
    .onConflictDoUpdate({ target: picture.name, set: { namedAt: clockDate() } })
  return name
}

/** Of these names those that are kept. They stay until whoever asks is done, and for a day after. */
export async function keptPictures(tx: Tx, names: readonly string[]): Promise<ReadonlySet<string>> {
  const found = new Set<string>()
  for (const name of [...new Set(names)].sort()) {
    const [row] = await tx
      .update(picture)
      .set({ namedAt: clockDate() })
      .where(eq(picture.name, name))
      .returning({ name: picture.name })
    if (row) found.add(row.name)
  }
  return found
}

export interface StoredPicture extends PictureFile {
  name: string
  bytes: Buffer
}
/** The bytes of a name are always the same: those asked for lately are not read again. Bytes. */
const lately = new LRUCache<string, Buffer>({ maxSize: 64 * 1_048_576, sizeCalculation: bytes => bytes.length + 256 })

/** One by its name; whether somebody may have it is asked before. */
export async function storedPicture(tx: Tx, name: string): Promise<StoredPicture | undefined> {
  const told = readPictureName(name)
  if (!told) return undefined
  const known = lately.get(name)
  if (known) return { ...told, name, bytes: known }
  const [row] = await tx.select({ bytes: picture.bytes }).from(picture).where(eq(picture.name, name))
  if (!row) return undefined
  lately.set(name, row.bytes)
  return { ...told, name, bytes: row.bytes }
}

/** Takes out what no version of anything has named for a day. */
export async function dropUnnamedPictures(db: Database): Promise<void> {
  const named = sql`select name from ${version}, lateral (values (${version.content} ->> 'picture'), (${version.content} -> 'body' ->> 'file'), (${version.body} ->> 'picture')) as named(name) where name is not null`
  await db
    .delete(picture)
    .where(and(lt(picture.namedAt, new Date(clockMs() - keptUnnamedMs)), sql`${picture.name} not in (${named})`))
}
