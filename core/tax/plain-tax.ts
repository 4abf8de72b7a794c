/**
 * The plain reading of taxes: every rate looked at for every line, in fractions. Slow and easy to check; the compiled
 * one is tested against it.
 */
import { decimal, decimalText, Fraction, rounded } from '../exact'
import { PlainDecider } from '../gates/plain-decider'
import type { RuleSet } from '../gates/rule-set'
import type { Condition } from '../conditions/condition'
import { PlainPricing } from '../shop/plain-pricing'
import { isPriced } from '../shop/price-trail'
import type { BasketLine } from '../shop/price-trail'
import { TRUE } from '../tri'
import type { Visitor } from '../visitor/visitor'
import { ownTaxOf } from './own-tax'
import type { OwnTax } from './own-tax'
import { fitOf, isCloser } from '../site/place'
import type { Address, Fit } from '../site/place'
import { shownNote } from './shown-note'
import { readTaxSettings, taxedAt } from './tax-settings'
import type { ReadTaxSettings, Shown } from './tax-settings'
import { isTaxed, sum } from './tax-trail'
import type {
  AppliedRate,
  BasketLineTaxed,
  Both,
  DeliveryTaxed,
  From,
  GoodsTaxed,
  LeftOutRate,
  ShownPrice,
  TaxAsk,
  TaxedBasket,
  TaxTrail,
} from './tax-trail'

interface Applying extends AppliedRate {
  /** Of the price without tax. */ part: Fraction
}
interface Rates {
  applied: Applying[]
  leftOut: LeftOutRate[]
  /** One and all parts. */ factor: Fraction
}

export class PlainTax {
  private readonly decider: PlainDecider
  private readonly pricing: PlainPricing
  private readonly settings: ReadTaxSettings | undefined

  constructor(
    private readonly rules: RuleSet,
    private readonly visitor: Visitor,
    private readonly nowMs: number,
    private readonly codes: readonly string[] = [],
  ) {
    this.decider = new PlainDecider(rules, visitor, nowMs)
    this.pricing = new PlainPricing(rules, visitor, nowMs, { codes })
    const { settings } = this.book
    this.settings = settings && readTaxSettings(settings)
  }

  private get book() {
    return this.rules.rulebook.tax ?? {}
  }

  /** What is shown for so many of a product alone; null where it has no price. */
  shown(id: string, quantity = 1, sentTo?: Address): ShownPrice | null {
    const trail = this.pricing.price(id, quantity)
    if (!trail) return null
    const { unit } = trail
    if (!this.settings) return { withoutTax: unit, withTax: unit, shown: unit, note: '' }
    const both = this.both(id, unit, this.at(sentTo))
    const { list, note } = this.showing()
    return {
      ...both,
      shown: both[list === 'withTax' ? 'withTax' : 'withoutTax'],
      note: shownNote(note, both, this.rules.index.site),
    }
  }

  basket({ lines, sentTo, delivery = 0, codes = this.codes }: TaxAsk): TaxedBasket {
    return new PlainTax(this.rules, { ...this.visitor, basket: [...lines] }, this.nowMs, codes).taxed(
      lines,
      delivery,
      sentTo,
    )
  }

  /** How prices show: each part from the first entry that is for the visitor and states it, else the shop's. */
  showing(): Shown {
    const own: Shown = this.settings?.shown ?? {
      list: 'withTax',
      basket: 'withTax',
      pay: 'withTax',
      taxLines: 'summed',
      note: '',
    }
    const entries = (this.book.shown ?? []).filter(one => one.active !== false && this.isFor(one.for))
    const first = <K extends keyof Shown>(key: K) =>
      (entries.find(one => one[key] !== undefined)?.[key] ?? own[key]) as Shown[K]
    return {
      list: first('list'),
      basket: first('basket'),
      pay: first('pay'),
      taxLines: first('taxLines'),
      note: first('note'),
    }
  }

  private taxed(asked: readonly BasketLine[], delivery: number, sentTo: Address | undefined): TaxedBasket {
    const priced = this.pricing.basket(asked)
    const at = this.at(sentTo)
    const lines = priced.lines.map((line): BasketLineTaxed => {
      if (!isPriced(line)) return line
      const { product, unit, amount, discount } = line
      const shown = { each: this.both(product, unit, at), before: this.both(product, amount, at) }
      return { ...line, ...shown, ...this.line(product, amount - discount, at) }
    })
    const taken = lines.filter(isTaxed)
    const sent = this.delivery(
      delivery,
      taken.some(line => line.tax.deliveryTaxed.is),
      at,
    )
    return {
      lines,
      delivery: sent,
      discount: priced.discount,
      net: sum(taken.map(line => line.net)) + sent.net,
      tax: sum([...taken, sent].flatMap(one => one.taxes.map(tax => tax.amount))),
      gross: sum(taken.map(line => line.gross)) + sent.gross,
    }
  }

  /** An amount of a product as it shows. Default: where the visitor is. */
  both(id: string, amount: number, at = this.at(undefined)): Both {
    if (!this.settings) return { withoutTax: amount, withTax: amount }
    const { typed, keepGross } = this.settings
    const { factor } = this.ratesFor(this.goods(id), at)
    const inside = this.inside(id)
    const isSame = typed === 'withTax' && (keepGross || factor.equals(inside))
    const exact = typed === 'withoutTax' ? new Fraction(amount) : new Fraction(amount).div(keepGross ? factor : inside)
    return { withoutTax: rounded(exact), withTax: isSame ? amount : rounded(exact.mul(factor)) }
  }

  private line(id: string, amount: number, at: Address) {
    const goods = this.goods(id)
    if (!this.settings)
      return { net: amount, taxes: [], gross: amount, tax: { ...goods, at, applied: [], leftOut: [], kept: true } }
    const { typed, keepGross } = this.settings
    const rates = this.ratesFor(goods, at)
    const { factor, leftOut } = rates
    const inside = this.inside(id)
    const kept = typed === 'withTax' && (keepGross || factor.equals(inside))
    const exact = typed === 'withoutTax' ? new Fraction(amount) : new Fraction(amount).div(keepGross ? factor : inside)
    const taxes = rates.applied.map(({ rate, part }) => ({ rate, amount: rounded(exact.mul(part)) }))
    const all = sum(taxes.map(one => one.amount))
    const gross = typed === 'withoutTax' ? amount + all : kept ? amount : rounded(exact.mul(factor))
    const tax: TaxTrail = {
      ...goods,
      at,
      applied: told(rates),
      leftOut,
      ...(typed === 'withTax' ? { inside: percentOf((keepGross ? factor : inside).sub(1)) } : {}),
      kept,
    }
    return { net: gross - all, taxes, gross, tax }
  }

  private delivery(net: number, isTaxed: boolean, at: Address): DeliveryTaxed {
    if (!this.settings || !isTaxed) return { net, taxes: [], gross: net, trail: null }
    const rates = this.rates(this.settings.deliveryCategory, at, 'delivery')
    const taxes = rates.applied.map(({ rate, part }) => ({ rate, amount: rounded(part.mul(net)) }))
    return {
      net,
      taxes,
      gross: net + sum(taxes.map(one => one.amount)),
      trail: { at, applied: told(rates), leftOut: rates.leftOut },
    }
  }

  private at(sentTo: Address | undefined): Address {
    return this.settings ? taxedAt(this.settings, sentTo, this.visitor.request) : (sentTo ?? { country: '' })
  }

  /** What a typed price holds: the rates at home, by the product's own category and flags, nobody's exceptions. */
  private inside(id: string): Fraction {
    const { goodsTaxed, category } = this.own(id)
    return goodsTaxed ? this.rates(category, this.settings!.origin, 'inside').factor : new Fraction(1)
  }

  private ratesFor({ goodsTaxed, category }: GoodsTaxed, at: Address): Rates {
    return goodsTaxed.is ? this.rates(category.is, at, 'goods') : { applied: [], leftOut: [], factor: new Fraction(1) }
  }

  private own(id: string): OwnTax {
    const { index } = this.rules
    return ownTaxOf(index.get('product', id) ?? { id }, index)
  }

  private goods(id: string): GoodsTaxed {
    const product = this.rules.index.get('product', id)
    const entries = (this.book.goods ?? []).filter(
      one => one.active !== false && product && this.pricing.covers(one.on, product) && this.isFor(one.for),
    )
    const own = this.own(id)
    const first = <K extends keyof OwnTax>(key: K): From<OwnTax[K]> => {
      const entry = entries.find(one => one[key] !== undefined)
      return entry ? { is: entry[key] as OwnTax[K], entry: entry.id } : { is: own[key] }
    }
    return { goodsTaxed: first('goodsTaxed'), deliveryTaxed: first('deliveryTaxed'), category: first('category') }
  }

  private rates(category: string, at: Address, what: 'goods' | 'delivery' | 'inside'): Rates {
    const { taxes = [], rates = [] } = this.book
    const leftOut: LeftOutRate[] = []
    const left = taxes.flatMap(tax => {
      let best: { rate: (typeof rates)[number]; fit: Fit } | undefined
      for (const rate of rates) {
        const fit = rate.tax === tax.id && rate.category === category ? fitOf(rate.place, at) : null
        if (fit && (!best || isCloser(fit, best.fit))) best = { rate, fit }
      }
      if (!best) return []
      const { rate } = best
      const exception = what === 'inside' ? undefined : this.exceptionOf(rate.id)
      const named = {
        ...(exception && { exception: exception.id }),
        ...(exception?.owedBy && !exception.none && { owedBy: exception.owedBy }),
        ...(exception?.reason && { reason: exception.reason }),
      }
      const isFree = what === 'delivery' && (exception?.delivery ?? rate.delivery) === 'free'
      if (exception?.none || isFree) {
        leftOut.push({ rate: rate.id, tax: tax.id, why: exception?.none ? 'dropped' : 'deliveryFree', ...named })
        return []
      }
      const percent = exception?.owedBy ? '0' : String(exception?.percent ?? rate.percent)
      const called = exception?.called ?? tax.name ?? tax.id
      return [{ rate: rate.id, tax: tax.id, called, percent, on: exception?.onTopOf ?? tax.onTopOf ?? [], named }]
    })
    const parts = new Map<string, Fraction>()
    const below = ({ on }: (typeof left)[number]) => left.filter(other => on.includes(other.tax))
    const counted = new Map<string, string[]>()
    for (let waiting = left; waiting.length;) {
      const ready = waiting.filter(one => below(one).every(other => parts.has(other.rate)))
      // Exceptions together may make a ring, which no rulebook has by itself: what is on it builds on what is not.
      const now = ready.length ? ready : waiting
      const made = now.map(one => {
        const known = below(one).filter(other => parts.has(other.rate))
        counted.set(
          one.rate,
          known.map(other => other.rate),
        )
        const base = known.reduce((all, other) => all.add(parts.get(other.rate)!), new Fraction(1))
        return [one.rate, base.mul(new Fraction(one.percent)).div(100)] as const
      })
      for (const [rate, part] of made) parts.set(rate, part)
      waiting = waiting.filter(one => !now.includes(one))
    }
    const applied = left.map(({ rate, tax, called, percent, named }): Applying => {
      const part = parts.get(rate)!
      const onTopOf = counted.get(rate)!
      return {
        rate,
        tax,
        called,
        percent: decimalText(decimal(percent)),
        onTopOf,
        contribution: percentOf(part),
        ...named,
        part,
      }
    })
    return { applied, leftOut, factor: applied.reduce((all, { part }) => all.add(part), new Fraction(1)) }
  }

  private exceptionOf(rate: string) {
    return (this.book.exceptions ?? []).find(one => one.active !== false && one.rate === rate && this.isFor(one.for))
  }

  private isFor(condition: Condition): boolean {
    return this.decider.condition(condition) === TRUE
  }
}

const told = ({ applied }: Rates): AppliedRate[] => applied.map(({ part: _, ...rate }) => rate)

const percentOf = (part: Fraction): string => decimalText(part.mul(100))
