/** Codes visitors give: how two of them compare, and for which offers one was given. */
import type { Visitor } from './visitor'

/**
 * As codes compare: without case, without the signs that choose how an emoji is drawn, and however their letters are
 * composed (Unicode normalization form C), so that what is typed on one keyboard equals what was made on another.
 */
export const foldedCode = (code: string): string =>
  code
    .normalize('NFC')
    .replace(/[\uFE0E\uFE0F]/g, '')
    .trim()
    .toLowerCase()

/** Whether a visitor gave an offer its code, and holds it still. `code`: folded, as the offer has it now. */
export function gaveCode({ codes }: Visitor, atMs: number, offer: string, code: string): boolean {
  return (codes ?? []).some(
    one => one.offer === offer && foldedCode(one.code) === code && (one.until == null || atMs < Date.parse(one.until)),
  )
}
