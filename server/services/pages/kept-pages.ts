/**
 * Rendered pages by view key, shared by every visitor who is sent the same view, as the bytes that are sent: compressed
 * once, when somebody first takes them so. The key is computed from the whole view, so nothing can be forgotten in it.
 */
import { promisify } from 'node:util'
import { brotliCompress, constants, gzip } from 'node:zlib'
import Negotiator from 'negotiator'
import { LRUCache } from 'lru-cache'
import { environment } from '../../environment'
import { cutAtMarks } from './slots'
import type { Pieces } from './slots'

const mostBytesOfOne = 2 * 1_048_576
/** Less is not worth it (a packet or two). */
const leastCompressed = 1200

export type Encoding = 'br' | 'gzip'
const compressed: Record<Encoding, (bytes: Buffer) => Promise<Buffer>> = {
  br: bytes => promisify(brotliCompress)(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 5 } }),
  gzip: bytes => promisify(gzip)(bytes),
}

export interface KeptPage {
  html: Buffer
  pieces?: Pieces
  packed: Partial<Record<Encoding, Buffer | 'under way' | undefined>>
}

let made: LRUCache<string, KeptPage> | undefined
/** What is not used the longest goes first. */
const kept = () =>
  (made ??= new LRUCache<string, KeptPage>({
    maxSize: Math.max(1, environment().BRAVIK_KEPT_MB * 1_048_576),
    maxEntrySize: Math.max(1, Math.min(mostBytesOfOne, environment().BRAVIK_KEPT_MB * 1_048_576)),
    // A page with words of visitors' own is kept in pieces besides.
    sizeCalculation: ({ html, packed }) =>
      html.length * 2 +
      512 +
      Object.values(packed).reduce((sum, one) => sum + (Buffer.isBuffer(one) ? one.length : 0), 0),
  }))

export const keptPage = (key: string): KeptPage | undefined => kept().get(key)

export function keepPage(key: string, html: string): void {
  kept().set(key, { html: Buffer.from(html, 'utf8'), packed: {} })
}

/** The page cut at its marks, once. */
export const piecesOf = (page: KeptPage): Pieces => (page.pieces ??= cutAtMarks(page.html.toString('utf8')))

/** Of what a browser takes what it likes best; remembered, since they all say one of a few things. */
const chosen = new LRUCache<string, { encoding: Encoding | undefined }>({ max: 500 })
export function encodingFor(accepted = ''): Encoding | undefined {
  let known = chosen.get(accepted)
  if (!known) {
    const [found] = new Negotiator({ headers: { 'accept-encoding': accepted } }).encodings(['br', 'gzip', 'identity'])
    known = { encoding: found === 'br' || found === 'gzip' ? found : undefined }
    chosen.set(accepted, known)
  }
  return known.encoding
}

/** The bytes in this encoding; undefined while they are being made, which happens once, beside the answer. */
export function packedPage(key: string, page: KeptPage, encoding: Encoding): Buffer | undefined {
  const known = page.packed[encoding]
  if (known !== undefined) return known === 'under way' ? undefined : known
  if (page.html.length < leastCompressed) return undefined
  page.packed[encoding] = 'under way'
  compressed[encoding](page.html).then(
    bytes => {
      page.packed[encoding] = bytes
      // Counted anew, where it is still kept.
      if (kept().peek(key) === page) kept().set(key, page)
    },
    () => void (page.packed[encoding] = undefined),
  )
  return undefined
}

/** How many are kept, and their bytes. */
export const keptSize = () => ({ pages: kept().size, bytes: kept().calculatedSize })
