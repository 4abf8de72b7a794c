/** Takes words, names and values off the front of a text: what the phrases of a language are read with. */
import { durationUnits, isDate, isTime } from '../calendar'
import type { FactValue } from '../conditions/condition'
import type { Lexicon, Named } from './lexicon'
import { folded, namesIn } from './names'
import { isPlain } from './lexicon'
import { monthNames } from './words'

/** A longer list of names is looked up. */
const manyNames = 200

export class NotUnderstood extends Error {
  constructor(
    /** Position in the text, in UTF-16 code units. */
    readonly at: number,
    expected: string,
  ) {
    super(expected)
  }
}

export class Reader {
  protected at = 0

  constructor(
    protected readonly text: string,
    readonly lexicon: Lexicon,
    private readonly today: string | undefined,
  ) {
    this.space()
  }

  fail(expected: string): never {
    throw new NotUnderstood(this.at, expected)
  }

  /** What a phrase takes, or nothing: then the text is as it was before. */
  attempt<T>(phrase: (reader: this) => T | undefined): T | undefined {
    const start = this.at
    const found = phrase(this)
    if (found === undefined) this.at = start
    return found
  }

  private space(): void {
    while (/\s/.test(this.text[this.at] ?? '')) this.at++
  }

  /** Takes a phrase of whole words, whatever their case. */
  word(phrase: string): boolean {
    const start = this.at
    for (const one of phrase.split(' ')) {
      const end = this.at + one.length
      const matches =
        this.text.slice(this.at, end).toLowerCase() === one.toLowerCase() &&
        !/[\p{L}\p{N}_-]/u.test(this.text[end] ?? '')
      if (!matches) {
        this.at = start
        return false
      }
      this.at = end
      this.space()
    }
    return true
  }

  sign(sign: string): boolean {
    if (this.text[this.at] !== sign) return false
    this.at++
    this.space()
    return true
  }

  /** Takes what a pattern matches here, up to a word's end. */
  pattern(pattern: RegExp): RegExpExecArray | undefined {
    const match = new RegExp(`^(?:${pattern.source})(?![\\p{L}\\p{N}_])`, 'iu').exec(this.text.slice(this.at))
    if (!match) return undefined
    this.at += match[0].length
    this.space()
    return match
  }

  quoted(): string | undefined {
    const match = /^"((?:[^"]|"")*)"/.exec(this.text.slice(this.at))
    if (!match) return undefined
    this.at += match[0].length
    this.space()
    return match[1]!.replaceAll('""', '"')
  }

  /** An id behind `#`, a quoted name, or the longest plain name that stands here. */
  name(list: readonly Named[], forms: (name: string) => string[] = name => [name]): string | undefined {
    if (this.text[this.at] === '#') return this.idBehindHash()
    const start = this.at
    const quotedName = this.quoted()
    if (quotedName !== undefined) {
      const found = namesIn(list).called.get(folded(quotedName)) ?? []
      if (found.length === 1) return found[0]!.id
      this.at = start
      return undefined
    }
    if (list.length > manyNames) return this.nameOfMany(list)
    const candidates = list
      .filter(one => isPlain(one.name))
      .flatMap(one => forms(one.name).map(text => ({ text, id: one.id })))
    candidates.sort((a, b) => b.text.length - a.text.length)
    return candidates.find(one => this.word(one.text))?.id
  }

  /** The longest plain name that stands here, looked up by its words rather than tried one after the other. */
  private nameOfMany(list: readonly Named[]): string | undefined {
    const { called, words } = namesIn(list)
    const ahead = this.text.slice(this.at).match(/^(?:[\p{L}\p{N}'’&.+-]+\s*)+/u)?.[0] ?? ''
    const parts = ahead.trim().split(/\s+/).slice(0, words)
    for (let count = parts.length; count > 0; count--) {
      const name = parts
        .slice(0, count)
        .join(' ')
        .replace(/['’&.+-]+$/, '')
      const found = called.get(folded(name))?.[0]
      if (found && isPlain(found.name) && this.word(found.name)) return found.id
    }
    return undefined
  }

  private idBehindHash(): string | undefined {
    this.at++
    const id = this.quoted() ?? this.pattern(/[a-z0-9-]+/)?.[0]
    return id ?? this.fail('an id')
  }

  need<T>(value: T | undefined, expected: string): T {
    return value === undefined ? this.fail(expected) : value
  }

  list<T>(one: () => T | undefined, expected: string): T[] {
    const found = [this.need(one(), expected)]
    while (this.sign(',')) found.push(this.need(one(), expected))
    return found
  }

  date(): string | undefined {
    const start = this.at
    const iso = this.pattern(/\d{4}-\d{2}-\d{2}/)
    if (iso && isDate(iso[0])) return iso[0]
    this.at = start
    const match = this.pattern(/(\d{1,2})\s+([a-z]{3,9})(?:\s+(\d{4}))?/)
    const month = match ? monthNames.findIndex(name => match[2]!.toLowerCase().startsWith(name.toLowerCase())) : -1
    const date = match && month >= 0 ? this.dated(Number(match[1]), month + 1, match[3]) : undefined
    if (!date) this.at = start
    return date
  }

  private dated(day: number, month: number, year: string | undefined): string | undefined {
    const on = (y: string) => `${y}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`
    if (year === undefined && !this.today) return undefined
    const thisYear = this.today?.slice(0, 4) ?? ''
    const date = year ? on(year) : on(thisYear) >= this.today! ? on(thisYear) : on(String(Number(thisYear) + 1))
    return isDate(date) ? date : undefined
  }

  time(): string | undefined {
    const match = this.pattern(/\d{2}:\d{2}/)
    return match && isTime(match[0]) ? match[0] : undefined
  }

  /** A text that is no name: bare or quoted. */
  bare(): string | undefined {
    return this.quoted() ?? this.pattern(/[a-z0-9][a-z0-9_.:/-]*/)?.[0]
  }

  value(): FactValue | undefined {
    const text = this.quoted()
    if (text !== undefined) return text
    const date = this.date()
    if (date) return date
    if (this.word('yes')) return true
    if (this.word('no')) return false
    const number = this.pattern(/-?\d+(?:\.\d+)?(?:e[+-]?\d+)?/)
    return number ? Number(number[0]) : undefined
  }

  duration(): string | undefined {
    const found = durationUnits.map(() => '')
    for (let taken = false; ; taken = true) {
      const match = this.pattern(/(\d+)\s+(year|month|week|day|hour|minute|second)s?/)
      if (!match) return taken ? isoOf(found) : undefined
      found[durationUnits.indexOf(match[2]!.toLowerCase() as 'year')] = match[1]!
    }
  }

  money(): number | undefined {
    const match = this.pattern(/(\d+)(?:\.(\d+))?/)
    if (!match) return undefined
    const digits = this.lexicon.moneyDigits
    const decimals = (match[2] ?? '').padEnd(digits, '0')
    return decimals.length > digits ? undefined : Number(match[1]! + decimals)
  }

  comparisons(): Record<string, unknown> {
    const found: Record<string, unknown> = {}
    const value = () => this.need(this.value(), 'a value')
    if (this.word('is one of')) found.in = this.list(() => this.value(), 'a value')
    else if (this.word('is')) {
      found.is = value()
      if (this.word('is one of')) found.in = this.list(() => this.value(), 'a value')
    }
    if (this.word('at least')) found.atLeast = value()
    if (this.word('at most')) found.atMost = value()
    return found
  }
}

function isoOf(digits: string[]): string {
  const letters = ['Y', 'M', 'W', 'D', 'H', 'M', 'S']
  const written = digits.map((value, i) => (value ? value + letters[i] : ''))
  const time = written.slice(4).join('')
  return `P${written.slice(0, 4).join('')}${time ? `T${time}` : ''}`
}
