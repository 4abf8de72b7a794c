/** Sentences back into conditions: the phrases `say` writes, typed or pasted by a person. */
import { condition as conditionSchema } from '../conditions/condition'
import type { Condition } from '../conditions/condition'
import { leafKeys } from '../conditions/leaves/leaves'
import { phrasesOf } from './phrases'
import type { Lexicon } from './lexicon'
import { NotUnderstood, Reader } from './reader'

export interface ReadError {
  /** Position in the text, in UTF-16 code units, and how much of it is meant. */
  at: number
  length: number
  /** What could stand there. */
  expected: string
}
export type ReadResult = { ok: true; condition: Condition } | { ok: false; error: ReadError }

/** Characters: reading goes over what is left of it again and again. */
export const longestSentence = 4000
/** Brackets and “not”s in one another, and parts of one row of “or”s or “and”s. */
const deepestBrackets = 30
const mostParts = 200

/** Reads a whole sentence. `today` (`YYYY-MM-DD`) completes dates typed without a year; default: they are not understood. */
export function read(text: string, lexicon: Lexicon, today?: string): ReadResult {
  if (text.length > longestSentence)
    return { ok: false, error: { at: longestSentence, length: 1, expected: `at most ${longestSentence} characters` } }
  const reader = new SentenceReader(text, lexicon, today)
  try {
    const condition = reader.whole()
    const checked = conditionSchema.safeParse(condition)
    return checked.success
      ? { ok: true, condition }
      : {
          ok: false,
          error: { at: 0, length: text.length, expected: checked.error.issues[0]?.message ?? 'a condition' },
        }
  } catch (error) {
    if (error instanceof NotUnderstood)
      return { ok: false, error: { at: error.at, length: wordLength(text, error.at), expected: error.message } }
    throw error
  }
}

function wordLength(text: string, at: number): number {
  return /^("[^"]*"?|[^\s(),]+|[(),])/.exec(text.slice(at))?.[0].length ?? 0
}

/** Reads conditions off the front of a text; what else a sentence can hold is read by who builds on it. */
export class SentenceReader extends Reader {
  private brackets = 0

  whole(): Condition {
    const condition = this.alternatives()
    if (this.at < this.text.length) this.fail('“and”, “or” or the end')
    return condition
  }

  protected alternatives(): Condition {
    const parts = [this.conjunction()]
    while (this.word('or')) this.more(parts, this.conjunction())
    return parts.length === 1 ? parts[0]! : { any: parts }
  }

  private conjunction(): Condition {
    const parts = [this.part()]
    while (this.word('and')) this.more(parts, this.part())
    return parts.length === 1 ? parts[0]! : { all: parts }
  }

  private more(parts: Condition[], part: Condition): void {
    if (parts.length >= mostParts) this.fail(`at most ${mostParts} parts`)
    parts.push(part)
  }

  private part(depth = 0): Condition {
    if (depth > deepestBrackets) this.fail('fewer “not”s')
    if (this.word('not')) return { not: this.part(depth + 1) }
    if (this.sign('(')) return this.closed()
    for (const key of ['all', 'any'] as const) {
      if (this.word(`${key} of nothing`)) return key === 'all' ? { all: [] } : { any: [] }
      if (this.word(`${key} of`)) {
        if (!this.sign('(')) this.fail('a bracket')
        return key === 'all' ? { all: [this.closed()] } : { any: [this.closed()] }
      }
    }
    return this.leaf()
  }

  private closed(): Condition {
    if (++this.brackets > deepestBrackets) this.fail('fewer brackets in one another')
    const inner = this.alternatives()
    this.brackets--
    if (!this.sign(')')) this.fail('a closing bracket')
    return inner
  }

  /** Each leaf's phrases are tried in the order of the leaves; what is said by a bare name comes last, since a name may begin like a phrase. */
  protected leaf(): Condition {
    for (const which of ['read', 'readByName'] as const)
      for (const key of leafKeys) {
        const argument = this.attempt(reader => phrasesOf(key)[which]?.(reader))
        if (argument !== undefined) return { [key]: argument } as Condition
      }
    return this.fail('a level, a role, a date or another rule')
  }
}
