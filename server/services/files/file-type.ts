/** What a file is, told from its bytes: its name only says which it should be. */
import { createHash } from 'node:crypto'
import { open, stat } from 'node:fs/promises'
import { fileTypeFromFile } from 'file-type'
import { fileTypes, typeInName, wordTypes } from '../../../core/files/stored-file'
import type { FileType, StoredFile } from '../../../core/files/stored-file'
import { Problem } from '../../problem'

/** What the reader of types tells apart and people do not. */
const alike: Readonly<Record<string, FileType>> = {
  oga: 'ogg',
  opus: 'ogg',
  m4v: 'mp4',
  m4b: 'm4a',
  mkv: 'webm',
}

/** Kinds of file that are a zip of something: such a one may be kept as the zip it is. */
const zipped: ReadonlySet<FileType> = new Set(['epub', 'docx', 'xlsx', 'pptx', 'odt', 'ods', 'odp'])

/** Bytes read at once. */
const chunk = 1_048_576

/**
 * The file at `path`, which came under `name`. Throws `file-type-unknown` or `file-not-as-named`. Read twice at most,
 * a piece at a time; `onPiece` is waited for after each.
 */
export async function readStoredFile(
  path: string,
  name: string,
  allowed: readonly FileType[],
  onPiece: () => Promise<void> = async () => {},
): Promise<StoredFile> {
  const named = typeInName(name)
  if (!named || !allowed.includes(named)) throw new Problem('file-type-unknown', { name, known: allowed })
  const found = await fileTypeFromFile(path)
  const { size } = await stat(path)
  const { sha256, isText } = await readThrough(path, onPiece)
  const wrong = (what: string) => new Problem('file-not-as-named', { name, found: what })
  if (wordTypes.has(named)) {
    if (found && found.ext !== 'xml') throw wrong(found.ext.toUpperCase())
    if (!isText) throw wrong('no text in UTF-8')
    return { sha256, size, type: named }
  }
  if (!found) throw wrong(isText ? 'plain text' : size ? 'of no kind that is known' : 'none at all: it is empty')
  const type = alike[found.ext] ?? (Object.hasOwn(fileTypes, found.ext) ? (found.ext as FileType) : undefined)
  if (type !== named && !(named === 'zip' && type && zipped.has(type))) throw wrong(found.ext.toUpperCase())
  return { sha256, size, type: named }
}

async function readThrough(path: string, onPiece: () => Promise<void>): Promise<{ sha256: string; isText: boolean }> {
  const hash = createHash('sha256')
  const decoder = new TextDecoder('utf-8', { fatal: true })
  let isText = true
  const handle = await open(path)
  try {
    // One piece of memory for all of it: a stream takes a new one each time.
    const piece = Buffer.allocUnsafeSlow(chunk)
    for (let read = await handle.read(piece); read.bytesRead; read = await handle.read(piece)) {
      const bytes = piece.subarray(0, read.bytesRead)
      hash.update(bytes)
      isText = isText && !bytes.includes(0) && decodes(decoder, bytes)
      await onPiece()
    }
  } finally {
    await handle.close()
  }
  return { sha256: hash.digest('hex'), isText: isText && decodes(decoder) }
}

function decodes(decoder: TextDecoder, bytes?: Buffer): boolean {
  try {
    if (bytes) decoder.decode(bytes, { stream: true })
    else decoder.decode()
    return true
  } catch {
    return false
  }
}
