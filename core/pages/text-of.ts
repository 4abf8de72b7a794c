/** The text of a thing, whose passages may be for some: its words, or the part of its body that is one. */
import { blockKinds, blockModule } from '../blocks/blocks'
import type { BlockKind } from '../blocks/blocks'
import type { Lexicon } from '../sentences/lexicon'
import { passagesOf, passagesRead } from '../texts/passages'
import type { TextReading } from '../texts/passages'

const isBlockKind = (kind: unknown): kind is BlockKind => blockKinds.includes(kind as BlockKind)

/** `thing`: everything staff give of one. Nothing where it has no text. */
export function textOf(thing: object): string | undefined {
  const { words, body, kind: own } = thing as { words?: unknown; body?: Record<string, unknown>; kind?: unknown }
  if (typeof words === 'string') return words
  const part = isBlockKind(own) ? blockModule(own).text : undefined
  const text = part === undefined ? undefined : body?.[part]
  return typeof text === 'string' ? text : undefined
}

/** A thing with another text in place of its own; as it was where it has none. */
export function withText<T extends object>(thing: T, text: string): T {
  const { words, body, kind: own } = thing as { words?: unknown; body?: object; kind?: unknown }
  if (typeof words === 'string') return { ...thing, words: text }
  const part = isBlockKind(own) ? blockModule(own).text : undefined
  return part === undefined ? thing : { ...thing, body: { ...body, [part]: text } }
}

/** What rules see of the text of a thing, read from it whenever it is written; `today` completes dates without a year. */
export function keptOfText(
  thing: object,
  lexicon: Lexicon,
  today: string,
  /** Its text, where it is read already. */ reading?: TextReading,
): { passages?: unknown[]; broken?: true } {
  const text = textOf(thing)
  if (text === undefined) return {}
  const { conditions, problems } = reading ? passagesRead(reading, lexicon, today) : passagesOf(text, lexicon, today)
  return {
    ...(conditions.length ? { passages: conditions } : {}),
    ...(problems.length ? { broken: true as const } : {}),
  }
}
