/**
 * Rendered pages by view key, shared by every visitor who is sent the same
 * view. The key is computed from the whole view, so nothing can be forgotten in it.
 */
import { LRUCache } from 'lru-cache'

/** Bytes; what is not used the longest goes first. */
const mostBytes = 64 * 1_048_576
const mostBytesOfOne = 2 * 1_048_576

const kept = new LRUCache<string, Buffer>({
  maxSize: mostBytes,
  maxEntrySize: mostBytesOfOne,
  sizeCalculation: html => html.length + 512,
})

export const keptPage = (key: string): Buffer | undefined => kept.get(key)

export function keepPage(key: string, html: string): void {
  kept.set(key, Buffer.from(html, 'utf8'))
}

/** How many are kept, and their bytes. */
export const keptSize = () => ({ pages: kept.size, bytes: kept.calculatedSize })
