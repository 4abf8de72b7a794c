/**
 * One typed way of sending read into a rule: “by carrier in sacks to Ireland, up to 5 kg 7.80, up to 40 kg 16.50, free from
 * 450, for stockists”. What it is called comes first; the rest in any order. What `sayDelivery` writes is read back as it was.
 */
import type { Condition } from '../conditions/condition'
import type { Delivery } from '../rulebook/shop-rules'
import { delivery as deliverySchema } from '../rulebook/shop-rules'
import type { Lexicon } from './lexicon'
import { longestSentence } from './read'
import type { ReadError } from './read'
import { failedAt, SomebodyReader } from './read-somebody'
import { NotUnderstood } from './reader'
import { countries, deliveryNameEnds } from './words'

export interface DeliveryRead {
  way: Omit<Delivery, 'id'>
  /** What was not said and taken for granted. */ assumed: ('to' | 'for')[]
}
export type DeliveryReading = { ok: true; read: DeliveryRead } | { ok: false; error: ReadError }

/** `today` (`YYYY-MM-DD`) completes dates typed without a year. */
export function readDelivery(text: string, lexicon: Lexicon, today?: string): DeliveryReading {
  if (text.length > longestSentence) return failedAt(text, longestSentence, `at most ${longestSentence} characters`)
  try {
    const read = new DeliveryReader(text, lexicon, today).delivery()
    const checked = deliverySchema.safeParse({ id: 'read', ...read.way })
    if (checked.success) return { ok: true, read }
    return failedAt(text, 0, checked.error.issues[0]!.message)
  } catch (error) {
    if (error instanceof NotUnderstood) return failedAt(text, error.at, error.message)
    throw error
  }
}

const heaviest = 10_000_000
const longestName = 120
const mostSteps = 100
const fillers = ['and', 'then', 'it', 'on', 'only', 'each']
const signs = [',', ';', ':', '.']

class DeliveryReader extends SomebodyReader {
  private places: { country: string; region?: string; startsWith?: string[] }[] | undefined
  private isAnywhere = false
  private flat: number | undefined
  private readonly steps: { upTo?: number; cost: number }[] = []
  private freeFrom: number | undefined
  private who: Condition | undefined
  private note: string | undefined

  delivery(): DeliveryRead {
    const isOff = this.word('switched off')
    if (isOff) this.sign(':')
    const name = this.calledHere()
    while (this.at < this.text.length)
      if (!this.something())
        this.fail(
          'where it goes (“to Ireland”), what it costs (“costs 5”, “up to 2 kg 7.80”), “free from 90” or “for” whom',
        )
    if (this.flat !== undefined && this.steps.length) this.fail('either what it always costs, or steps by weight')
    if (this.flat === undefined && !this.steps.length) this.fail('what it costs: “costs 5”, or “up to 2 kg 7.80”')
    return {
      way: {
        name,
        ...(this.places ? { to: this.places } : {}),
        cost: this.flat === undefined ? { byWeight: this.steps } : { flat: this.flat },
        ...(this.freeFrom === undefined ? {} : { freeFrom: this.freeFrom }),
        ...(this.who === undefined ? {} : { for: this.who }),
        ...(this.note === undefined ? {} : { note: this.note }),
        ...(isOff ? { active: false } : {}),
      },
      assumed: [
        ...(this.places || this.isAnywhere ? [] : (['to'] as const)),
        ...(this.who === undefined ? (['for'] as const) : []),
      ],
    }
  }

  /** In quotes, or all words up to one that begins what comes after; it begins with a capital, as names do. */
  private calledHere(): string {
    const name = this.quoted()?.trim()
    if (name) return name.slice(0, longestName)
    const words: string[] = []
    while (!deliveryNameEnds.has((/^[\p{L}\p{N}'’&-]+/u.exec(this.text.slice(this.at))?.[0] ?? '').toLowerCase())) {
      const word = /\d/.test(this.text[this.at] ?? '') && words.length ? undefined : this.pattern(/[^\s,;:."()]+/)
      if (!word) break
      words.push(word[0])
    }
    const said = words.join(' ')
    if (!said) return this.fail('what it is called, such as “by post”')
    return (said[0]!.toUpperCase() + said.slice(1)).slice(0, longestName)
  }

  private something(): boolean {
    return (
      this.freePhrase() ||
      this.stepPhrase() ||
      this.costPhrase() ||
      this.placesPhrase() ||
      this.notePhrase() ||
      this.whoPhrase() ||
      fillers.some(word => this.word(word)) ||
      signs.some(sign => this.sign(sign))
    )
  }

  private amount(): number {
    if (this.word('nothing')) return 0
    this.sign('€')
    const digits = this.digits()
    return digits === undefined ? this.fail('an amount, such as 7.80') : this.minor(digits)
  }

  private freePhrase(): boolean {
    const isFree = ['free from', 'nothing from', 'free over', 'free above'].some(words => this.word(words))
    if (isFree) this.freeFrom = this.amount()
    else if (this.word('free')) this.flat = 0
    else return false
    return true
  }

  private stepPhrase(): boolean {
    if (['heavier', 'above', 'anything heavier', 'more'].some(words => this.word(words))) return this.step(undefined)
    if (!this.word('up to')) return false
    const kilos = this.pattern(/(\d+(?:[.,]\d+)?)\s*(kg|g|kilos?|kilograms?|grams?)/)
    if (!kilos) return this.fail('a weight, such as 2 kg')
    const grams = Math.round(Number(kilos[1]!.replace(',', '.')) * (/^k/i.test(kilos[2]!) ? 1000 : 1))
    if (!(grams >= 1 && grams <= heaviest)) this.fail('a weight from 1 g to 10000 kg')
    return this.step(grams)
  }

  private step(upTo: number | undefined): true {
    if (this.steps.some(one => one.upTo === upTo)) this.fail('another weight: that one was said already')
    if (this.steps.length >= mostSteps) this.fail(`at most ${mostSteps} steps`)
    for (const word of ['costs', 'for', 'at', 'is']) this.word(word)
    this.steps.push({ ...(upTo === undefined ? {} : { upTo }), cost: this.amount() })
    return true
  }

  private costPhrase(): boolean {
    const isSaid = ['costs', 'always', 'costs always', 'always costs'].some(words => this.word(words))
    if (isSaid && /^(up to|heavier)\b/i.test(this.text.slice(this.at))) return true
    if (!isSaid && !/^[€\d]/.test(this.text.slice(this.at))) return false
    const amount = this.amount()
    if (this.flat !== undefined) this.fail('one amount, or a weight before each')
    this.flat = amount
    return true
  }

  private placesPhrase(): boolean {
    if (['to anywhere', 'anywhere', 'everywhere', 'to everywhere'].some(words => this.word(words))) {
      this.isAnywhere = true
      return true
    }
    if (!this.word('to')) return false
    this.places ??= []
    do this.places.push(this.placeHere() ?? this.fail('a country, a region such as US-OR, or “anywhere”'))
    while (this.attempt(() => this.nextPlace()))
    return true
  }

  /** A comma or an “and” goes on with the list only where another place follows. */
  private nextPlace(): true | undefined {
    if (!['and', 'or'].some(word => this.word(word)) && ![',', ';'].some(sign => this.sign(sign))) return undefined
    const start = this.at
    const isPlace = this.placeHere() !== undefined
    this.at = start
    return isPlace || undefined
  }

  private placeHere(): { country: string; region?: string; startsWith?: string[] } | undefined {
    this.word('the')
    const region = this.pattern(/([A-Za-z]{2})-([A-Za-z0-9]{1,3})/)
    const country = region ? region[1]!.toUpperCase() : this.countryHere()
    if (country === undefined || !countries().some(one => one.id === country)) return undefined
    const startsWith = this.postcodesHere()
    return {
      country,
      ...(region ? { region: region[0].toUpperCase() } : {}),
      ...(startsWith.length ? { startsWith } : {}),
    }
  }

  private countryHere(): string | undefined {
    const found = countriesByLength().find(one => this.word(one.name))?.id
    return found ?? countries().find(one => this.word(one.id))?.id
  }

  private postcodesHere(): string[] {
    const found: string[] = []
    const start = this.at
    this.sign(',')
    if (!['postcodes', 'postcode'].some(word => this.word(word))) {
      this.at = start
      return found
    }
    const one = () => {
      // An amount, a weight, a country or the next phrase is none.
      if (/^(\d+[.,]\d|\d+ *kg\b)/i.test(this.text.slice(this.at)) || this.beginsSomething()) return undefined
      return this.quoted() ?? this.pattern(/[A-Z\d]{1,10}(?!-)/)?.[0]
    }
    const code = one() ?? this.fail('beginnings of postcodes, such as 35, 38')
    found.push(code)
    for (;;) {
      const next = this.attempt(() => {
        this.sign(',')
        return one()
      })
      if (next === undefined) return found
      found.push(next)
    }
  }

  private beginsSomething(): boolean {
    const start = this.at
    const isWord = deliveryNameEnds.has((/^\p{L}+/u.exec(this.text.slice(start))?.[0] ?? '').toLowerCase())
    const isCountry = !isWord && countriesByLength().some(one => this.word(one.name))
    this.at = start
    return isWord || isCountry
  }

  private notePhrase(): boolean {
    if (!this.word('saying') && !this.word('note')) return false
    this.note = this.quoted() ?? this.fail('words in quotes')
    return true
  }

  private whoPhrase(): boolean {
    if (!this.word('for') && !this.word('only for')) return false
    const who = this.alternatives()
    if (this.who) this.fail('“and” or “or” between those it is for')
    if (!('everyone' in who)) this.who = who
    return true
  }
}

let byLength: { id: string; name: string }[] | undefined
const countriesByLength = () => (byLength ??= countries().toSorted((a, b) => b.name.length - a.name.length))
