/**
 * A stored picture, by a name that says what it is: `SHA-256-WIDTHxHEIGHT.TYPE`, pixels. The same bytes have the same
 * name wherever they were uploaded, and a page knows a picture's shape without reading it.
 */
import { z } from 'zod'
import type { Resource } from '../kinds/kinds'

/** Media types by what names end in. No SVG: it can carry scripts. */
export const pictureTypes = {
  png: 'image/png',
  jpg: 'image/jpeg',
  gif: 'image/gif',
  webp: 'image/webp',
  avif: 'image/avif',
} as const
export type PictureType = keyof typeof pictureTypes

/** Bytes one may have. */
export const mostOfPicture = 5 * 1_048_576

export interface PictureFile {
  sha256: string
  /** Pixels. */
  width: number
  height: number
  type: PictureType
}

const pattern = /^([0-9a-f]{64})-([1-9]\d{0,4})x([1-9]\d{0,4})\.(png|jpg|gif|webp|avif)$/

export const pictureFileName = z.string().regex(pattern, 'The name of a stored picture is expected.')
export const nameOfPicture = ({ sha256, width, height, type }: PictureFile) => `${sha256}-${width}x${height}.${type}`

/** What a name says; undefined where it is none. */
export function readPictureName(name: string): PictureFile | undefined {
  const found = pattern.exec(name)
  if (!found) return undefined
  const [, sha256, width, height, type] = found as unknown as [string, string, string, string, PictureType]
  return { sha256, width: Number(width), height: Number(height), type }
}

/** Enough of it to tell it from every other: what stands in addresses and names of files. */
export const pictureMark = (name: string) => name.slice(0, 16)
/** Where a picture of a thing is served, for whoever that thing opens. */
export const pictureAddress = ({ kind, id }: Resource, name: string) => `/picture/${kind}/${id}/${pictureMark(name)}`

/** Where it is read by whoever writes: they know its name, and no page needs to show it yet. */
export const writersPictureAddress = (name: string) => `/api/loft/pictures/${name}`

/** Pixels a smaller size of a picture is wide: a phone, a page on a screen, the same on one of twice the dots. */
export const smallerWidths = [480, 960, 1700] as const

/** The widths a picture is made smaller to, besides its own. What moves is not: it would stand still, or weigh more. */
export const smallerWidthsOf = ({ width, type }: Pick<PictureFile, 'width' | 'type'>): readonly number[] =>
  type === 'gif' ? [] : smallerWidths.filter(one => one < width)

/** In an address a smaller size is asked for as `MARK-WIDTH`; one that was not made is answered by the picture itself. */
const sizedMark = /^([0-9a-f]{16})(?:-([1-9]\d{1,4}))?$/
export function readMark(text: string): { mark: string; width?: number } | undefined {
  const [, mark, width] = sizedMark.exec(text) ?? []
  return mark === undefined ? undefined : { mark, ...(width ? { width: Number(width) } : {}) }
}

/** A picture as a page shows it. Pixels. */
export interface ShownPicture {
  src: string
  /** Where smaller sizes of it are, as a browser chooses among them (HTML, 4.8.4). */
  srcset?: string
  width: number
  height: number
}
/** `address`: where it is served. Only where that is by its mark are there smaller sizes. */
export function shownPicture(name: string, address: string): ShownPicture | undefined {
  const told = readPictureName(name)
  if (!told) return undefined
  const { width, height } = told
  const [path, said] = address.split(/(?=[?])/) as [string, string?]
  const smaller = path.endsWith(`/${pictureMark(name)}`) ? smallerWidthsOf(told) : []
  const sizes = [...smaller.map(one => `${path}-${one}${said ?? ''} ${one}w`), `${address} ${width}w`]
  return { src: address, ...(smaller.length ? { srcset: sizes.join(', ') } : {}), width, height }
}

/** Says in a picture's address where the page was come to from: a browser names the page itself when it asks. */
const cameFrom = 'came-from'
/** An address is no longer. Characters. */
const mostSaid = 2000

/**
 * What a browser asks for a picture with, so that its part is decided as on the page: the page's own parameters, and
 * where the visitor came from. Both are what a visitor says anyway; nothing is said that the page did not turn on.
 */
export function saidWithPage({
  query = {},
  referrer,
}: {
  query?: Readonly<Record<string, string>> | undefined
  referrer?: string | undefined
}): string {
  const said = new URLSearchParams(query)
  said.delete(cameFrom)
  if (referrer) said.set(cameFrom, referrer)
  const text = said.toString()
  return text === '' || text.length > mostSaid ? '' : `?${text}`
}

/** The same, read back from the query of an address. */
export function readSaid({ [cameFrom]: referrer, ...query }: Readonly<Record<string, string>>) {
  return { query, referrer }
}
