/**
 * One typed intention read into an offer: “stockists 15 % off yarn from 10”, “guild -5 on tools”, “classroom = 20.00 kits”.
 * Who, what, how much and from how many may stand in any order; what `sayOffer` writes is read back as it was.
 */
import { keyOf } from '../conditions/condition'
import type { Condition } from '../conditions/condition'
import { leafOf } from '../conditions/leaves/leaves'
import { issueCodes } from '../errors'
import type { IssueCode } from '../errors'
import type { Off, Offer, ShopScope } from '../rulebook/shop-rules'
import { offer as offerSchema } from '../rulebook/shop-rules'
import type { Lexicon } from './lexicon'
import { longestSentence } from './read'
import type { ReadError } from './read'
import { failedAt, SomebodyReader } from './read-somebody'
import { NotUnderstood } from './reader'

/** An offer without its id, and what of it was not said and taken for granted. */
export interface OfferRead {
  offer: Omit<Offer, 'id'>
  assumed: ('for' | 'on')[]
}
export type OfferReading = { ok: true; read: OfferRead } | { ok: false; error: ReadError }

/** `today` (`YYYY-MM-DD`) completes dates typed without a year. */
export function readOffer(text: string, lexicon: Lexicon, today?: string): OfferReading {
  if (text.length > longestSentence) return failedAt(text, longestSentence, `at most ${longestSentence} characters`)
  const reader = new OfferReader(text, lexicon, today)
  try {
    const read = reader.offer()
    const checked = offerSchema.safeParse({ id: 'read', ...read.offer })
    if (checked.success) return { ok: true, read }
    return failedAt(text, 0, saidIssue(checked.error.issues[0]!))
  } catch (error) {
    if (error instanceof NotUnderstood) return failedAt(text, error.at, error.message)
    throw error
  }
}

function saidIssue({ message, ...found }: { message: string }): string {
  const { code } = (found as { params?: { code?: string } }).params ?? {}
  return code !== undefined && Object.hasOwn(issueCodes, code) ? issueCodes[code as IssueCode] : message
}
/** Digits as typed: what they count is known only once all is read. */
interface Limits {
  from: string
  to?: string
}
const fillers = [
  'off',
  'on',
  'for',
  'less',
  'of',
  'get',
  'pay',
  'pays',
  'then',
  'and',
  'the',
  'all',
  'a',
  'each',
  'price',
  'goods',
]
/** A sum of all that is bought is meant. */
const basketWords = ['on', 'by', 'per', '']
  .flatMap(lead =>
    ['the basket', 'the order', 'baskets', 'basket', 'orders', 'order'].map(one => `${lead} ${one}`.trim()),
  )
  .toSorted((a, b) => b.length - a.length)
const fewWords = ['one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten']
const signs = [',', ';', ':', '.']

class OfferReader extends SomebodyReader {
  private who: Condition | undefined
  private categories: string[] = []
  private products: string[] = []
  private isWholeShop = false
  private readonly steps: { off: Off; limits?: Limits }[] = []
  private waiting: Limits | undefined
  private by: NonNullable<Offer['by']> | undefined
  private counts: ShopScope | undefined
  private base: Offer['base']
  private bonus: Offer['bonus']
  private code: string | undefined
  private stacks = false

  offer(): OfferRead {
    while (this.at < this.text.length)
      if (!this.something()) this.fail('who it is for, what it is on, “15 %”, “-5”, “= 20”, or “from 10”')
    return this.made()
  }

  private something(): boolean {
    return (
      this.bonusPhrase() ||
      this.countedPhrase() ||
      this.basePhrase() ||
      this.codePhrase() ||
      this.reduction() ||
      this.limitsPhrase() ||
      this.scopePhrase() ||
      this.whoPhrase() ||
      fillers.some(word => this.word(word)) ||
      signs.some(sign => this.sign(sign))
    )
  }

  private reduction(): boolean {
    const off = this.attempt(() => this.offHere())
    if (!off) return false
    this.steps.push({ off, ...(this.waiting ? { limits: this.waiting } : {}) })
    this.waiting = undefined
    return true
  }

  private offHere(): Off | undefined {
    if (this.sign('-') || this.sign('−') || this.sign('–')) {
      const amount = this.digits()
      // Some write a percentage with a sign before it.
      if (amount !== undefined && this.percentSign()) return { percent: amount }
      return amount === undefined ? this.fail('an amount, such as -5') : { amount: this.minor(amount) }
    }
    if (this.sign('=') || this.word('at'))
      return { price: this.minor(this.digits() ?? this.fail('a price, such as = 20.00')) }
    const digits = this.digits()
    if (digits === undefined) return undefined
    if (this.percentSign()) return { percent: digits }
    return this.word('off') || this.word('less') ? { amount: this.minor(digits) } : undefined
  }

  private percentSign(): boolean {
    return this.sign('%') || this.word('percent') || this.word('per cent')
  }

  private limitsPhrase(): boolean {
    const limits = this.attempt(() => this.limitsHere())
    if (!limits) return false
    const last = this.steps.at(-1)
    if (last && !last.limits) last.limits = limits
    else this.waiting = limits
    return true
  }

  private limitsHere(): Limits | undefined {
    // A day or a time begins with a number too, and belongs to whom it is for.
    if (this.isWhen()) return undefined
    const isNamed = ['from', 'over', 'once', 'above', 'at least'].some(word => this.word(word))
    const from = this.digits()
    if (from === undefined) return isNamed ? this.fail('a number, such as from 10') : undefined
    if (this.sign('+') || this.word('or more') || this.word('and more')) return { from }
    if (this.sign('-') || this.sign('–') || this.word('to')) {
      const to = this.digits() ?? this.fail('where it ends')
      return { from, to }
    }
    return isNamed ? { from } : undefined
  }

  private isWhen(): boolean {
    const start = this.at
    this.word('from')
    const found = this.date() !== undefined || this.time() !== undefined
    this.at = start
    return found
  }

  /** In digits, or in a word. */
  private few(): number | undefined {
    const said = fewWords.findIndex(word => this.word(word))
    const digits = said < 0 ? this.pattern(/\d+/)?.[0] : undefined
    return said < 0 ? (digits === undefined ? undefined : Number(digits)) : said + 1
  }

  /** “3 for 2”: the one more comes with those that are paid. */
  private forPhrase(): boolean {
    const found = this.attempt(() => {
      const all = this.few()
      const paid = all !== undefined && this.word('for') ? this.few() : undefined
      return paid !== undefined && paid >= 1 && paid < all! && !this.isAmount() ? { all: all!, paid } : undefined
    })
    if (!found) return false
    this.bonus = { buy: found.paid, get: found.all - found.paid }
    this.steps.push({ off: { percent: 100 } })
    return true
  }
  private isAmount = () => /^\s*[.,]\d|^\s*%/.test(this.text.slice(this.at))

  private bonusPhrase(): boolean {
    if (!this.word('buy')) return this.forPhrase()
    const buy = this.few() ?? this.fail('how many are bought')
    for (const sign of signs) this.sign(sign)
    if (!this.word('get')) this.fail('“get” and how many come with them')
    const get = this.few() ?? this.fail('how many come with them')
    this.bonus = { buy, get }
    if (this.word('free')) this.steps.push({ off: { percent: 100 } })
    return true
  }

  private countedPhrase(): boolean {
    if (!this.isSomebody() && basketWords.some(words => this.word(words))) {
      this.by = 'spend'
      return true
    }
    if (!this.word('counted over') && !this.word('counting')) return false
    if (this.word('all colours') || this.word('all its colours') || this.word('all variants')) this.by = 'product'
    else if (this.word('each colour') || this.word('this colour') || this.word('each variant')) this.by = 'variant'
    else {
      this.counts = this.attempt(() => this.scopeHere()) ?? this.fail('a category, “all colours” or “each colour”')
      while (this.attempt(() => (this.sign(',') ? this.moreOf(this.counts!) : undefined)));
      if (this.by !== 'spend') this.by = 'category'
    }
    return true
  }

  private moreOf(scope: ShopScope): true | undefined {
    const more = this.scopeHere()
    if (!more || 'shop' in more) return undefined
    if ('categories' in scope && 'categories' in more) scope.categories.push(...more.categories)
    else if ('products' in scope && 'products' in more) scope.products.push(...more.products)
    else return undefined
    return true
  }

  private basePhrase(): boolean {
    if (this.word('off the regular price') || this.word('of the regular price')) this.base = 'regular'
    else if (
      ['not on goods on sale', 'not on sale', 'unless on sale', 'nothing on sale'].some(words => this.word(words))
    )
      this.base = 'unlessOnSale'
    else if (this.word('on top of others')) this.stacks = true
    else return false
    return true
  }

  private codePhrase(): boolean {
    if (!this.word('with code') && !this.word('with the code') && !this.word('code')) return false
    this.code = this.quoted() ?? this.pattern(/[\p{L}\p{N}_-]+/u)?.[0] ?? this.fail('a code')
    return true
  }

  private scopePhrase(): boolean {
    const scope = this.attempt(() => {
      // What stands before a name of goods says nothing besides.
      while (['on', 'off', 'all', 'for', 'of'].some(word => this.word(word)));
      return this.scopeHere()
    })
    if (!scope) return false
    if ('shop' in scope) this.isWholeShop = true
    else if ('categories' in scope) this.categories.push(...scope.categories)
    else this.products.push(...scope.products)
    return true
  }

  /** Somebody called by more words than the goods beginning alike, such as a role “Shop hand”. */
  private isSomebody(): boolean {
    const start = this.at
    let end = start
    try {
      this.rule()
      end = this.at
    } catch (error) {
      if (!(error instanceof NotUnderstood)) throw error
    }
    this.at = start
    return end > start
  }

  private scopeHere(): ShopScope | undefined {
    if (this.isSomebody()) return undefined
    if (['the whole shop', 'whole shop', 'the shop', 'shop', 'everything'].some(words => this.word(words)))
      return { shop: true }
    const { category, product } = this.lexicon.things
    if (this.word('only')) return { products: [this.oneOf(product) ?? this.fail('a product')] }
    const found = this.attempt(() => this.oneOf(category))
    if (found !== undefined) return { categories: [found] }
    const one = this.attempt(() => this.oneOf(product))
    return one === undefined ? undefined : { products: [one] }
  }

  private whoPhrase(): boolean {
    const who = this.attempt(() => {
      this.word('for')
      try {
        return this.alternatives()
      } catch (error) {
        if (error instanceof NotUnderstood) return undefined
        throw error
      }
    })
    if (!who) return false
    if (this.who && !isAbout(who)) this.fail('“and” or “or” between those it is for')
    this.who = this.who ? { all: [this.who, who] } : who
    return true
  }

  private made(): OfferRead {
    if (this.categories.length && this.products.length) this.fail('either categories or products')
    if (!this.steps.length) this.fail('what comes off: “15 %”, “-5” or “= 20”')
    if (this.waiting) this.fail(`what comes off from ${this.waiting.from}`)
    const on: ShopScope = this.products.length
      ? { products: this.products }
      : this.categories.length
        ? { categories: this.categories }
        : { shop: true }
    const by = this.by ?? (this.steps.some(step => step.limits) ? 'product' : 'each')
    return {
      offer: {
        ...(this.who && !isEveryone(this.who) ? { for: this.who } : {}),
        on,
        ...(this.counts && JSON.stringify(this.counts) !== JSON.stringify(on) ? { counts: this.counts } : {}),
        ...(this.code === undefined ? {} : { code: this.code }),
        ...(by === 'each' ? {} : { by }),
        ...(this.base ? { base: this.base } : {}),
        bands: this.bands(by),
        ...(this.bonus ? { bonus: this.bonus } : {}),
        ...(this.stacks ? { combine: 'stack' as const } : {}),
      },
      assumed: [
        ...(this.who ? [] : (['for'] as const)),
        ...(this.isWholeShop || this.products.length || this.categories.length ? [] : (['on'] as const)),
      ],
    }
  }

  /** Each ends where the next begins, where nothing else is said. */
  private bands(by: NonNullable<Offer['by']>): Offer['bands'] {
    const count = (digits: string) => {
      if (by === 'spend') return this.minor(digits)
      return /^\d+$/.test(digits) ? Number(digits) : this.fail('whole pieces')
    }
    const bands = this.steps.map(({ off, limits }) => ({
      from: limits ? count(limits.from) : 1,
      to: limits?.to === undefined ? undefined : count(limits.to),
      off,
    }))
    bands.sort((a, b) => a.from - b.from)
    if (by === 'each') {
      if (bands.length > 1) this.fail('from how many each of these holds')
      return [{ off: bands[0]!.off }]
    }
    return bands.map(({ from, to, off }, i) => {
      const end = to ?? (bands[i + 1] ? bands[i + 1]!.from - 1 : undefined)
      return { from, ...(end === undefined ? {} : { to: end }), off }
    })
  }
}

/** It says when, where or how, and not who. */
function isAbout(condition: Condition): boolean {
  const [key] = keyOf(condition)
  return leafOf(key) !== undefined && !leafOf(key)!.held && key !== 'signedIn' && key !== 'audience'
}
const isEveryone = (condition: Condition) => 'everyone' in condition
