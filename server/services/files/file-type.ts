/** What a file is, told from its bytes: its name only says which it should be. */
import { isUtf8 } from 'node:buffer'
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
  let isText = true
  const handle = await open(path)
  try {
    // One piece of memory for all of it, and no text made of it: each would leave as much again behind.
    const piece = Buffer.allocUnsafeSlow(chunk + longestCharacter)
    /** Bytes at its start of a character that the piece before ended in. */
    let begun = 0
    for (;;) {
      const { bytesRead } = await handle.read(piece, begun, chunk)
      if (!bytesRead) return { sha256: hash.digest('hex'), isText: isText && !begun }
      hash.update(piece.subarray(begun, begun + bytesRead))
      if (isText) {
        const bytes = piece.subarray(0, begun + bytesRead)
        const whole = bytes.length - unfinished(bytes)
        isText = !bytes.includes(0) && isUtf8(bytes.subarray(0, whole))
        piece.copyWithin(0, whole, bytes.length)
        begun = bytes.length - whole
      } else begun = 0
      await onPiece()
    }
  } finally {
    await handle.close()
  }
}

/** Bytes of one character in UTF-8 at most (RFC 3629, 3). */
const longestCharacter = 4
/** How many bytes at the end begin a character that goes on behind them. */
function unfinished(bytes: Buffer): number {
  for (let back = 1; back < longestCharacter && back <= bytes.length; back++) {
    const byte = bytes[bytes.length - back]!
    if (byte >= 0xc0) return back < (byte >= 0xf0 ? 4 : byte >= 0xe0 ? 3 : 2) ? back : 0
    if (byte < 0x80) return 0
  }
  return 0
}
