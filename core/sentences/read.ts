/** Sentences back into conditions: the phrases `say` writes, typed or pasted by a person. */
import { durationUnits, isDate, isTime, weekdays } from '../calendar'
import { condition as conditionSchema } from '../conditions/condition'
import type { Condition, FactValue } from '../conditions/condition'
import type { Kind } from '../rulebook/kinds'
import { kinds } from '../rulebook/kinds'
import type { Lexicon, Named } from './lexicon'
import { isPlain, plural } from './lexicon'
import { countries, kindNames, monthNames, weekdayNames } from './words'

export interface ReadError {
  /** Position in the text, in UTF-16 code units, and how much of it is meant. */
  at: number
  length: number
  /** What could stand there. */
  expected: string
}
export type ReadResult = { ok: true; condition: Condition } | { ok: false; error: ReadError }

/** Reads a whole sentence. `today` (`YYYY-MM-DD`) completes dates typed without a year; default: they are not understood. */
export function read(text: string, lexicon: Lexicon, today?: string): ReadResult {
  const reader = new Reader(text, lexicon, today)
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

class NotUnderstood extends Error {
  constructor(
    readonly at: number,
    expected: string,
  ) {
    super(expected)
  }
}

type Phrase = (reader: Reader) => Condition | undefined

class Reader {
  private at = 0

  constructor(
    private readonly text: string,
    readonly lexicon: Lexicon,
    private readonly today: string | undefined,
  ) {
    this.space()
  }

  whole(): Condition {
    const condition = this.alternatives()
    if (this.at < this.text.length) this.fail('“and”, “or” or the end')
    return condition
  }

  fail(expected: string): never {
    throw new NotUnderstood(this.at, expected)
  }

  private alternatives(): Condition {
    const parts = [this.conjunction()]
    while (this.word('or')) parts.push(this.conjunction())
    return parts.length === 1 ? parts[0]! : { any: parts }
  }

  private conjunction(): Condition {
    const parts = [this.part()]
    while (this.word('and')) parts.push(this.part())
    return parts.length === 1 ? parts[0]! : { all: parts }
  }

  private part(depth = 0): Condition {
    if (depth > 60) this.fail('fewer “not”s')
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
    const inner = this.alternatives()
    if (!this.sign(')')) this.fail('a closing bracket')
    return inner
  }

  private leaf(): Condition {
    const start = this.at
    for (const phrase of phrases) {
      const found = phrase(this)
      if (found) return found
      this.at = start
    }
    return this.fail('a level, a role, a date or another rule')
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
      const found = list.filter(one => one.name.toLowerCase() === quotedName.toLowerCase())
      if (found.length === 1) return found[0]!.id
      this.at = start
      return undefined
    }
    const candidates = list
      .filter(one => isPlain(one.name))
      .flatMap(one => forms(one.name).map(text => ({ text, id: one.id })))
    candidates.sort((a, b) => b.text.length - a.text.length)
    return candidates.find(one => this.word(one.text))?.id
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

const kindByName = (reader: Reader): Kind | undefined => kinds.find(kind => reader.word(kindNames[kind]))
const either = <T extends string>(
  reader: Reader,
  words: readonly T[],
  read: (word: T) => string = word => word,
): T | undefined => words.find(word => reader.word(read(word)))

/** Tried in order; each takes its phrase or leaves the reader to the next. */
const phrases: Phrase[] = [
  reader => (reader.word('everyone') ? { everyone: true } : undefined),
  reader => (reader.word('nobody') ? { nobody: true } : undefined),
  reader => (reader.word('signed-in visitors') || reader.word('signed in') ? { signedIn: true } : undefined),
  reader => (reader.word('guests') ? { signedIn: false } : undefined),
  reader =>
    reader.word('audience')
      ? { audience: reader.need(reader.name(reader.lexicon.audiences), 'the name of an audience') }
      : undefined,
  reader =>
    reader.word('up to')
      ? { level: { atMost: reader.need(reader.name(reader.lexicon.levels), 'the name of a level') } }
      : undefined,
  reader =>
    reader.word('holds')
      ? { level: { in: reader.list(() => reader.name(reader.lexicon.levels), 'the name of a level') } }
      : undefined,
  reader =>
    reader.word('any role of')
      ? { role: { anyOf: reader.list(() => reader.name(reader.lexicon.roles), 'the name of a role') } }
      : undefined,
  reader =>
    reader.word('all roles of')
      ? { role: { allOf: reader.list(() => reader.name(reader.lexicon.roles), 'the name of a role') } }
      : undefined,
  reader =>
    reader.word('role')
      ? { role: { anyOf: [reader.need(reader.name(reader.lexicon.roles), 'the name of a role')] } }
      : undefined,
  reader =>
    reader.word('may')
      ? { permission: reader.need(reader.name(reader.lexicon.permissions), 'the name of a permission') }
      : undefined,
  reader =>
    reader.word('person')
      ? { person: { in: reader.list(() => reader.name(reader.lexicon.people), 'the name of a person') } }
      : undefined,
  reader =>
    reader.word('firm')
      ? { firm: { in: reader.list(() => reader.name(reader.lexicon.firms), 'the name of a firm') } }
      : undefined,
  reader =>
    reader.word('bought from')
      ? { bought: { category: reader.need(reader.name(reader.lexicon.things.category), 'the name of a category') } }
      : undefined,
  reader =>
    reader.word('bought')
      ? { bought: { product: reader.need(reader.name(reader.lexicon.things.product), 'the name of a product') } }
      : undefined,
  reader => {
    if (!reader.word('ordered at least')) return undefined
    const times = Number(reader.need(reader.pattern(/\d+/), 'a number')[0])
    if (!reader.word('times') && !reader.word('time')) reader.fail('“times”')
    return { orders: { atLeast: times } }
  },
  reader =>
    reader.word('spent at least')
      ? { spent: { atLeast: reader.need(reader.money(), 'an amount of money') } }
      : undefined,
  reader => {
    if (!reader.word('member for')) return undefined
    const atLeast = reader.need(reader.duration(), 'a time such as 30 days')
    return {
      memberFor: {
        atLeast,
        ...(reader.word('as') ? { level: reader.need(reader.name(reader.lexicon.levels), 'the name of a level') } : {}),
      },
    }
  },
  reader =>
    reader.word('basket holds from')
      ? { basket: { category: reader.need(reader.name(reader.lexicon.things.category), 'the name of a category') } }
      : undefined,
  reader =>
    reader.word('basket holds')
      ? { basket: { product: reader.need(reader.name(reader.lexicon.things.product), 'the name of a product') } }
      : undefined,
  reader => {
    if (!reader.word('can open')) return undefined
    const kind = reader.need(kindByName(reader), 'a kind of thing, such as page')
    return {
      opens: { [kind]: reader.need(reader.name(reader.lexicon.things[kind]), `the name of a ${kindNames[kind]}`) },
    }
  },
  reader => {
    if (!reader.word('from')) return undefined
    const from = reader.need(reader.date(), 'a date such as 1 Nov 2026')
    return {
      date: {
        from,
        ...(reader.word('until') ? { until: reader.need(reader.date(), 'a date such as 1 Nov 2026') } : {}),
      },
    }
  },
  reader =>
    reader.word('until') ? { date: { until: reader.need(reader.date(), 'a date such as 1 Nov 2026') } } : undefined,
  reader => {
    if (!reader.word('on')) return undefined
    const date = reader.date()
    if (date) return { date: { from: date, until: date } }
    const device = () => either(reader, ['phone', 'tablet', 'desktop'] as const)
    const first = device()
    if (first) return { device: { in: [first, ...(reader.sign(',') ? reader.list(device, 'a device') : [])] } }
    return {
      weekday: {
        in: reader.list(
          () =>
            either(reader, weekdays, day => weekdayNames[day]) ??
            either(reader, weekdays, day => `${weekdayNames[day]}s`),
          'a date, a weekday or a device',
        ),
      },
    }
  },
  reader => {
    if (!reader.word('between')) return undefined
    const from = reader.need(reader.time(), 'a time such as 09:00')
    if (!reader.word('and')) reader.fail('“and”')
    return { time: { from, until: reader.need(reader.time(), 'a time such as 17:00') } }
  },
  reader =>
    reader.word('browser') ? { browser: { in: reader.list(() => reader.bare(), 'the name of a browser') } } : undefined,
  reader =>
    reader.word('in region')
      ? {
          region: {
            in: reader.list(
              () => reader.pattern(/[a-z]{2}-[a-z0-9]{1,3}/)?.[0].toUpperCase(),
              'a region such as ES-CT',
            ),
          },
        }
      : undefined,
  reader =>
    reader.word('in')
      ? {
          country: {
            in: reader.list(
              () => (reader.word('country') ? reader.pattern(/[a-z]{2}/)?.[0].toUpperCase() : reader.name(countries())),
              'the name of a country',
            ),
          },
        }
      : undefined,
  reader =>
    reader.word('reading')
      ? {
          language: {
            in: reader.list(() => reader.pattern(/[a-z]{1,8}(?:-[a-z0-9]{1,8})*/)?.[0], 'a language such as en'),
          },
        }
      : undefined,
  reader =>
    reader.word('network')
      ? {
          address: {
            in: reader.list(() => reader.pattern(/[0-9a-f:.]+\/\d{1,3}/)?.[0], 'a network such as 192.0.2.0/24'),
          },
        }
      : undefined,
  reader =>
    reader.word('coming from')
      ? {
          referrer: {
            in: reader.list(
              () => reader.pattern(/[a-z0-9](?:[a-z0-9.-]*[a-z0-9])?/)?.[0],
              'a host such as example.org',
            ),
          },
        }
      : undefined,
  reader => {
    if (!reader.word('address carries')) return undefined
    const name = reader.need(reader.bare(), 'the name of a parameter')
    return { query: { name, ...(reader.word('as') ? { in: reader.list(() => reader.bare(), 'a value') } : {}) } }
  },
  reader =>
    reader.word('fact')
      ? {
          fact: { name: reader.need(reader.name(reader.lexicon.facts), 'the name of a fact'), ...reader.comparisons() },
        }
      : undefined,
  reader => (reader.word('its owner') ? { mine: true } : undefined),
  reader =>
    reader.word('assigned as')
      ? { assigned: reader.need(reader.name(reader.lexicon.fields), 'the name of a field') }
      : undefined,
  reader =>
    reader.word('record')
      ? {
          record: {
            field: reader.need(reader.name(reader.lexicon.fields), 'the name of a field'),
            ...reader.comparisons(),
          } as never,
        }
      : undefined,
  reader => {
    reader.word('level')
    const level = reader.name(reader.lexicon.levels)
    return level !== undefined && reader.word('or above') ? { level: { atLeast: level } } : undefined
  },
  reader => {
    const role = reader.name(reader.lexicon.roles, name => [plural(name), name])
    return role === undefined ? undefined : { role: { anyOf: [role] } }
  },
]
