/** Somebody as people type them in a line of their own, such as a price: by bare names besides what sentences say. */
import type { Condition } from '../conditions/condition'
import { plural } from './lexicon'
import type { Named } from './lexicon'
import { couldBe, folded, namesIn } from './names'
import { SentenceReader } from './read'
import type { ReadError } from './read'
import { NotUnderstood } from './reader'

/** Not understood from there on: the word that stands there is meant. */
export const failedAt = (text: string, at: number, expected: string): { ok: false; error: ReadError } => ({
  ok: false,
  error: { at, length: /^("[^"]*"?|[^\s,;]+)/.exec(text.slice(at))?.[0].length ?? 0, expected },
})

export class SomebodyReader extends SentenceReader {
  /** Behind a comma may come something else than one more: then the list ends before it. */
  override list<T>(one: () => T | undefined, expected: string): T[] {
    const found = [this.need(one(), expected)]
    for (;;) {
      const more = this.attempt(() => (this.sign(',') ? one() : undefined))
      if (more === undefined) return found
      found.push(more)
    }
  }

  /** What sentences say, and nothing besides. */
  protected rule(): Condition {
    return super.leaf()
  }

  /** Besides what sentences say: a level, a firm or a person by the bare name, as people type it. */
  protected override leaf(): Condition {
    if (this.word('guests')) return { signedIn: false }
    const { levels, firms, people } = this.lexicon
    const rule = this.attempt(() => {
      try {
        return this.rule()
      } catch (error) {
        if (error instanceof NotUnderstood) return undefined
        throw error
      }
    })
    if (rule) return rule
    const level = this.attempt(() => this.name(levels, name => [plural(name), name]))
    if (level !== undefined) return { level: { atLeast: level } }
    const firm = this.attempt(() => this.oneOf(firms))
    if (firm !== undefined) return { firm: { in: [firm] } }
    const person = this.attempt(() => this.oneOf(people))
    return person === undefined ? this.fail('somebody') : { person: { in: [person] } }
  }

  /** By its whole name, or by what it begins with where that can be nothing else. */
  protected oneOf(list: readonly Named[]): string | undefined {
    const named = this.attempt(() => this.name(list))
    if (named !== undefined) return namesIn(list).byId.has(named) ? named : undefined
    const ahead = /^[\p{L}\p{N}'’&-]+(?: [\p{L}\p{N}'’&-]+){0,4}/u.exec(this.text.slice(this.at))?.[0]
    const words = ahead?.split(' ') ?? []
    for (let count = words.length; count > 0; count--) {
      const phrase = words.slice(0, count).join(' ')
      if (phrase.length < 3) continue
      const found = couldBe(list, words.slice(0, count), plural).filter(({ name }) =>
        isCalled(folded(name), folded(phrase)),
      )
      const exact = found.filter(({ name }) => folded(name) === folded(phrase))
      const [only, more] = exact.length ? exact : found
      if (only && !more && this.word(phrase)) return only.id
    }
    return this.byWords(list, words)
  }

  /** By some of its words, in their order, where that can be nothing else: “madder” for “Root of madder, 250 g”. */
  private byWords(list: readonly Named[], words: readonly string[]): string | undefined {
    for (let count = Math.min(words.length, 4); count > 0; count--) {
      const typed = words.slice(0, count).map(folded)
      if (typed.join('').length < 4) continue
      const [only, more] = couldBe(list, words.slice(0, count), plural).filter(({ name }) =>
        hasWords(folded(name).split(/[^\p{L}\p{N}]+/u), typed),
      )
      if (only && !more && this.word(words.slice(0, count).join(' '))) return only.id
    }
    return undefined
  }

  /** Digits of an amount, with a point or a comma. */
  protected digits(): string | undefined {
    return this.pattern(/\d+(?:[.,]\d+)?/)?.[0].replace(',', '.')
  }

  /** In minor units. */
  protected minor(digits: string): number {
    const { moneyDigits } = this.lexicon
    const [whole = '', decimals = ''] = digits.split('.')
    if (decimals.length > moneyDigits) this.fail(`an amount with at most ${moneyDigits} digits behind the point`)
    return Number(whole + decimals.padEnd(moneyDigits, '0'))
  }
}

/** Its name, the plural or singular of it, or what it begins with. */
const isCalled = (name: string, phrase: string) =>
  name === phrase ||
  name === folded(plural(phrase)) ||
  plural(name) === phrase ||
  /^[^\p{L}\p{N}]/u.test(restOf(name, phrase))
const hasWords = (name: readonly string[], typed: readonly string[]): boolean => {
  let at = 0
  return typed.every(word => {
    const found = name.findIndex((part, i) => i >= at && (part === word || folded(plural(part)) === word))
    at = found + 1
    return found >= 0
  })
}
const restOf = (name: string, phrase: string) => (name.startsWith(phrase) ? name.slice(phrase.length) : 'x')
