/**
 * A stored file, by a name that says what it is: `SHA-256-SIZE.TYPE`, bytes. The same bytes have the same name however
 * often they were uploaded, and a page knows a file's size and type without reading it.
 */
import { z } from 'zod'

/** Media types by what names end in, as people may fetch them. Nothing that a browser would run. */
export const fileTypes = {
  pdf: 'application/pdf',
  epub: 'application/epub+zip',
  zip: 'application/zip',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  pptx: 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
  odt: 'application/vnd.oasis.opendocument.text',
  ods: 'application/vnd.oasis.opendocument.spreadsheet',
  odp: 'application/vnd.oasis.opendocument.presentation',
  png: 'image/png',
  jpg: 'image/jpeg',
  gif: 'image/gif',
  webp: 'image/webp',
  avif: 'image/avif',
  tif: 'image/tiff',
  mp3: 'audio/mpeg',
  m4a: 'audio/mp4',
  ogg: 'audio/ogg',
  flac: 'audio/flac',
  wav: 'audio/wav',
  mp4: 'video/mp4',
  webm: 'video/webm',
  txt: 'text/plain; charset=utf-8',
  csv: 'text/csv; charset=utf-8',
  md: 'text/markdown; charset=utf-8',
  json: 'application/json; charset=utf-8',
} as const
export type FileType = keyof typeof fileTypes
export const fileTypeNames = Object.keys(fileTypes) as FileType[]
/** Told by their names, since their bytes are words: any of them is UTF-8. */
export const wordTypes: ReadonlySet<FileType> = new Set(['txt', 'csv', 'md', 'json'])

/** What else names end in, for the same types. */
const alike: Readonly<Record<string, FileType>> = { jpeg: 'jpg', tiff: 'tif', markdown: 'md', oga: 'ogg', text: 'txt' }

/** The type a file's own name says; undefined where it says none that is known. */
export function typeInName(name: string): FileType | undefined {
  const end = /\.([A-Za-z0-9]{1,8})$/.exec(name)?.[1]?.toLowerCase() ?? ''
  return alike[end] ?? (Object.hasOwn(fileTypes, end) ? (end as FileType) : undefined)
}

export interface StoredFile {
  sha256: string
  /** Bytes. */
  size: number
  type: FileType
}

/** What became of bytes that are not what they were: there are none, fewer or more, or others, or the disk does not give them. */
export type FileDamage = 'missing' | 'cut' | 'changed' | 'unreadable'

/** As it is said behind a file's name. */
export const damageWords: Readonly<Record<FileDamage, string>> = {
  missing: '(its bytes are gone)',
  cut: '(cut short)',
  changed: '(other bytes than it had)',
  unreadable: '(the disk does not give it)',
}

const pattern = new RegExp(`^([0-9a-f]{64})-(0|[1-9]\\d{0,14})\\.(${fileTypeNames.join('|')})$`)

export const storedFileName = z.string().regex(pattern, 'The name of a stored file is expected.')
export const nameOfFile = ({ sha256, size, type }: StoredFile) => `${sha256}-${size}.${type}`

/** What a name says; undefined where it is none. */
export function readFileName(name: unknown): StoredFile | undefined {
  const found = typeof name === 'string' ? pattern.exec(name) : null
  if (!found) return undefined
  const [, sha256, size, type] = found as unknown as [string, string, string, FileType]
  return { sha256, size: Number(size), type }
}

/** Characters of the name people get a file by. */
export const longestFileName = 150

/**
 * A name nothing on anybody's machine takes for more than a name: of a path its last part, without what cannot be seen
 * or turns the writing round, no longer than is kept, its ending kept. Empty where nothing is left.
 */
export function cleanFileName(given: string): string {
  const last = given.split(/[/\\]/).at(-1) ?? ''
  const seen = last
    .normalize('NFC')
    .replaceAll(/[\p{Cc}\p{Cf}\p{Cs}\p{Co}\p{Zl}\p{Zp}]/gu, '')
    .replaceAll(/["*:<>?|]/g, '-')
    .replaceAll(/\s+/g, ' ')
    .replace(/^[. ]+/, '')
    .replace(/[. ]+$/, '')
  if (seen.length <= longestFileName) return seen
  const end = /\.[A-Za-z0-9]{1,8}$/.exec(seen)?.[0] ?? ''
  return (
    [...seen.slice(0, longestFileName - end.length)]
      .join('')
      .replace(/[\uD800-\uDBFF]$/, '')
      .trimEnd() + end
  )
}

/** Bytes as people read them: `640 bytes`, `12 kB`, `3.4 MB`; a kilobyte is a thousand (ISO 80000-1). */
export function sizeWords(bytes: number, locale = 'en'): string {
  const steps = ['byte', 'kilobyte', 'megabyte', 'gigabyte', 'terabyte'] as const
  const step = bytes < 1000 ? 0 : Math.min(steps.length - 1, Math.floor(Math.log10(bytes) / 3))
  const value = bytes / 1000 ** step
  return new Intl.NumberFormat(locale, {
    style: 'unit',
    unit: steps[step]!,
    unitDisplay: step === 0 ? 'long' : 'short',
    maximumFractionDigits: step < 2 || value >= 10 ? 0 : 1,
  }).format(value)
}

/** Where a download's file is fetched, by whoever it may be taken by. */
export const fetchAddress = (download: string) => `/fetch/${encodeURIComponent(download)}`
