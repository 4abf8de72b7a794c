/**
 * What a thing is found by: pieces of its words, each with what somebody must be allowed to be shown it. What may be
 * known of a thing by its title is one piece, its words another, a passage for some a third, what is in its file a
 * fourth: a search finds, and quotes, piece by piece.
 */
import { blockKinds, blockModule } from '../blocks/blocks'
import type { BlockKind } from '../blocks/blocks'
import type { Condition } from '../conditions/condition'
import { insideOthers, moduleOf } from '../kinds/kinds'
import type { Kind } from '../kinds/kinds'
import { textOf } from '../pages/text-of'
import { textPieces } from '../texts/text-pieces'

/** The right of the thing that shows the piece: that it may be found by search, that it opens, that it can be taken. */
export type Need = 'search' | 'open' | 'take'

export interface Fragment {
  need: Need
  /** Conditions of the passages it stands in: all of them admit, or it is not shown. */
  within: readonly Condition[]
  /** Counts more than the words. */
  title: string
  words: string
}

/** A piece is no longer; characters. PostgreSQL keeps a megabyte of lexemes, and a quote is short. */
export const longestPiece = 40_000

/** `thing`: everything staff give of one, with its passages; `file`: the words of its file, as far as they can be read. */
export function fragmentsOf(kind: string, thing: Readonly<Record<string, unknown>>, file = ''): Fragment[] {
  const isBlock = insideOthers.has(kind as Kind)
  const found: Fragment[] = []
  const { title = '', summary = '' } = thing as { title?: string; summary?: string }
  // A part of a page is not found by itself, nor are its words those of a list.
  if (!isBlock && moduleOf(kind).rights?.includes('search'))
    found.push({ need: 'search', within: [], title, words: summary })
  if (isBlock) found.push(...heading(thing))
  found.push(...written(thing))
  found.push(...divided({ need: 'take', within: [], title: '', words: file }))
  return found
}

/** Of a part that shows whatever opens: what stands over it, and its words besides its text. */
function heading({ kind, title = '', body = {} }: Readonly<Record<string, unknown>>): Fragment[] {
  const module = blockKinds.includes(kind as BlockKind) ? blockModule(kind as BlockKind) : undefined
  if (!module?.text && !module?.words) return []
  const words = (module.words?.(body as Record<string, unknown>) ?? []).filter(Boolean).join('\n')
  return title || words ? [{ need: 'open', within: [], title: title as string, words }] : []
}

/** The text of a thing. One that is not right is shown to nobody, and neither is a passage whose reader is not understood. */
function written(thing: Readonly<Record<string, unknown>>): Fragment[] {
  const text = textOf(thing)
  if (!text || thing.broken) return []
  const conditions = (thing.passages ?? []) as (Condition | null)[]
  return textPieces(text).flatMap(({ within, words }) => {
    const whom = within.map(number => conditions[number] ?? null)
    if (whom.includes(null)) return []
    return divided({ need: 'open', within: whom as Condition[], title: '', words })
  })
}

/** Long words in pieces, cut between lines or words where they can be. */
function divided({ words, ...rest }: Fragment): Fragment[] {
  const pieces: Fragment[] = []
  for (let at = 0; at < words.length;) {
    const end = cutAt(words, at)
    const piece = words.slice(at, end).trim()
    if (piece) pieces.push({ ...rest, words: piece })
    at = end
  }
  return pieces
}

function cutAt(words: string, at: number): number {
  const end = at + longestPiece
  if (end >= words.length) return words.length
  const space = Math.max(words.lastIndexOf('\n', end), words.lastIndexOf(' ', end))
  return space > at ? space : end
}
