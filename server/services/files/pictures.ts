/**
 * Pictures, kept once however often they are uploaded, by their SHA-256. They are small and few beside what people
 * download, so their bytes lie in the database: servers share them with nothing else set up, they are in every backup,
 * and one transaction holds what names them.
 */
import { createHash } from 'node:crypto'
import { LRUCache } from 'lru-cache'
import { and, eq, gte, lt, sql } from 'drizzle-orm'
import type Sharp from 'sharp'
import {
  mostOfPicture,
  nameOfPicture,
  readPictureName,
  smallerWidths,
  smallerWidthsOf,
} from '../../../core/pictures/picture-file'
import type { PictureFile, PictureType } from '../../../core/pictures/picture-file'
import { clockDate, clockMs } from '../../clock'
import { lockOne } from '../../db/locks'
import { picture, pictureSize, version } from '../../db/schema'
import type { AnyDb, Tx } from '../../db/database'
import { Problem } from '../../problem'
import type { Actor } from '../../trace'

/** Bytes of all that one person uploads in a day. */
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

/** How each type is written again; quality as it is looked at on a page. */
const written = {
  png: { compressionLevel: 9 },
  jpeg: { quality: 90 },
  gif: {},
  webp: { quality: 90 },
  avif: { quality: 75, effort: 0 },
} as const

/** A picture as it is kept. */
export interface ReadPicture extends PictureFile {
  bytes: Buffer
}

/**
 * It is read to its end: a name or a beginning proves nothing. What a camera wrote beside it, such as where and when it
 * was taken, stays with whoever took it: it is written again without (twice is as once), upright. Throws `no-picture`,
 * `picture-too-large` or `picture-too-wide`.
 */
export async function readPicture(bytes: Uint8Array): Promise<ReadPicture> {
  if (bytes.length > mostOfPicture) throw new Problem('picture-too-large', { most: mostOfPicture / 1_048_576 })
  const sharp = await decoder()
  // Its head first: how much it unpacks to is known before any of it is unpacked.
  const told = await sharp(bytes, { limitInputPixels: false })
    .metadata()
    .catch(() => undefined)
  const type = typeOf[told?.format ?? '']
  if (!told || !type || (told.format === 'heif' && told.compression !== 'av1')) throw new Problem('no-picture')
  const { width, height } = told.autoOrient
  const frames = told.pages ?? 1
  if (told.width * told.height * frames > mostPixels || Math.max(width, height) > longestSide)
    throw new Problem('picture-too-wide', { pixels: mostPixels / 1_000_000 })
  const whole = sharp(bytes, { limitInputPixels: mostPixels, failOn: 'error', animated: frames > 1 })
  const format = told.format === 'heif' ? 'avif' : (told.format as 'jpeg')
  const saysMore = told.exif ?? told.xmp ?? told.iptc
  const kept = await (
    saysMore
      ? (frames > 1 ? whole : whole.autoOrient()).toFormat(format, written[format]).toBuffer()
      : whole.stats().then(() => Buffer.from(bytes))
  ).catch(() => {
    throw new Problem('no-picture')
  })
  // What is taken must be brought again.
  if (kept.length > mostOfPicture) throw new Problem('picture-too-large', { most: mostOfPicture / 1_048_576 })
  return { sha256: createHash('sha256').update(kept).digest('hex'), width, height, type, bytes: kept }
}

interface SmallerPicture {
  /** Pixels. */ width: number
  bytes: Buffer
}

/** Smaller sizes for smaller screens. One that is hardly lighter is not worth keeping. */
async function smallerSizes(read: ReadPicture): Promise<SmallerPicture[]> {
  const sharp = await decoder()
  const format = read.type === 'jpg' ? 'jpeg' : read.type
  const made: SmallerPicture[] = []
  for (const width of smallerWidthsOf(read)) {
    const whole = sharp(read.bytes, { limitInputPixels: mostPixels })
    if (((await whole.metadata()).pages ?? 1) > 1) return []
    const bytes = await whole.resize({ width }).toFormat(format, written[format]).toBuffer()
    if (bytes.length < read.bytes.length * lighter) made.push({ width, bytes })
  }
  return made
}
const lighter = 0.8

/** Keeps a picture, with its smaller sizes; the second time nothing changes. Answers its name. */
export async function keepPicture(tx: Tx, given: Uint8Array, actor: Actor): Promise<string> {
  return storePicture(tx, await readPicture(given), actor)
}

/** The same for one that was read already. */
export async function storePicture(tx: Tx, read: ReadPicture, actor: Actor): Promise<string> {
  const { bytes, ...told } = read
  const name = nameOfPicture(told)
  if (actor.id !== null) await refuseTooMany(tx, actor.id, bytes.length)
  const now = clockDate()
  await tx
    .insert(picture)
    .values({ name, size: bytes.length, bytes, madeBy: actor.id ?? actor.name, madeAt: now, namedAt: now })
    .onConflictDoUpdate({ target: picture.name, set: { namedAt: now } })
  const sizes = await smallerSizes(read)
  if (sizes.length)
    await tx
      .insert(pictureSize)
      .values(sizes.map(size => ({ name, ...size })))
      .onConflictDoNothing()
  return name
}

/** Of persons; whoever has the command has the disk. */
async function refuseTooMany(tx: Tx, personId: string, more: number): Promise<void> {
  // One upload of a person after the other, or two at once would both find room.
  await lockOne(tx, 'pictures', personId)
  const [today] = await tx
    .select({ bytes: sql<number>`coalesce(sum(${picture.size}), 0)::float8` })
    .from(picture)
    .where(and(eq(picture.madeBy, personId), gte(picture.madeAt, new Date(clockMs() - 86_400_000))))
  if (today!.bytes + more > mostInADay) throw new Problem('too-many-pictures', { most: mostInADay / 1_048_576 })
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

export interface StoredPicture extends ReadPicture {
  name: string
  /** Pixels these bytes are wide, where they are of a smaller size. */ smaller?: number
}
/** The bytes of a name are always the same: those asked for lately are not read again. Bytes. */
const lately = new LRUCache<string, Buffer>({ maxSize: 64 * 1_048_576, sizeCalculation: bytes => bytes.length + 256 })

/** One by its name, or a smaller size of it; whether somebody may have it is asked before. */
export async function storedPicture(tx: AnyDb, name: string, smaller?: number): Promise<StoredPicture | undefined> {
  const told = readPictureName(name)
  if (!told) return undefined
  const size = smaller === undefined ? undefined : await storedSize(tx, name, smaller)
  if (size) return { ...told, name, bytes: size, smaller: smaller! }
  const known = lately.get(name)
  if (known) return { ...told, name, bytes: known }
  const [row] = await tx.select({ bytes: picture.bytes }).from(picture).where(eq(picture.name, name))
  if (!row) return undefined
  lately.set(name, row.bytes)
  return { ...told, name, bytes: row.bytes }
}

async function storedSize(tx: AnyDb, name: string, width: number): Promise<Buffer | undefined> {
  // Others were never made: nobody fills the memory with what is not there.
  if (!(smallerWidths as readonly number[]).includes(width)) return undefined
  const key = `${name} ${width}`
  const known = lately.get(key)
  if (known) return known.length ? known : undefined
  const [row] = await tx
    .select({ bytes: pictureSize.bytes })
    .from(pictureSize)
    .where(and(eq(pictureSize.name, name), eq(pictureSize.width, width)))
  lately.set(key, row?.bytes ?? Buffer.alloc(0))
  return row?.bytes
}

/** Takes out what no version of anything has named for a day. */
export async function dropUnnamedPictures(db: AnyDb): Promise<void> {
  const { content, body } = version
  const places = sql`(${content} ->> 'picture'), (${content} -> 'body' ->> 'file'), (${body} ->> 'picture')`
  const named = sql`select name from ${version}, lateral (values ${places}) as named(name) where name is not null`
  await db
    .delete(picture)
    .where(and(lt(picture.namedAt, new Date(clockMs() - keptUnnamedMs)), sql`${picture.name} not in (${named})`))
}
