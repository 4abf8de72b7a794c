/** Taxes for one visitor over compiled rates. Equal to `PlainTax`, by test. */
import type { CompiledDecider } from '../gates/compiled-decider'
import type { PricedProduct } from '../shop/priced-goods'
import { isPriced } from '../shop/price-trail'
import type { BasketLine } from '../shop/price-trail'
import { Pricer } from '../shop/pricer'
import { taxOf } from './compiled-tax'
import type { CompiledTax, GoodsEntry, Picked } from './compiled-tax'
import type { OwnTax } from './own-tax'
import type { Address } from '../site/place'
import type { Ratio } from './ratio'
import { one } from './ratio'
import { shownNote } from './shown-note'
import { untaxed } from './terms'
import type { CompiledRate, Exception, Terms } from './terms'
import { taxedAt } from './tax-settings'
import type { Shown } from './tax-settings'
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
  TaxedLine,
} from './tax-trail'

/** Terms over what a typed price holds: what is paid, of what was typed. */
interface Reckoning {
  kept: boolean
  withoutTax: Ratio
  taxes: readonly Ratio[]
  withTax: Ratio
  inside: string | undefined
}

type PricedAmounts = Pick<TaxedLine, 'unit' | 'amount' | 'discount'>

export class Taxer {
  readonly tax: CompiledTax
  private readonly terms = new Map<Picked, Terms>()
  private readonly deliveries = new Map<Picked, Terms>()
  private readonly reckonings = new Map<Terms, Map<Ratio, Reckoning>>()
  private how: Shown | undefined
  /** What was noted while these were asked: what is noted anew is asked anew. */
  private asked: object | undefined

  constructor(private readonly decider: CompiledDecider) {
    this.tax = taxOf(decider.rules)
  }

  /** Where goods are taxed for somebody who has not said where they want them. */
  at(sentTo?: Address): Address {
    const { settings, turnsOnPlace } = this.tax
    if (!settings) return sentTo ?? { country: '' }
    const isAsked = settings.place === 'destination' && !sentTo
    const request = isAsked && turnsOnPlace ? this.decider.whereabouts : isAsked ? this.decider.visitor.request : {}
    return taxedAt(settings, sentTo, request)
  }

  /** How prices show: each part from the first entry that is for the visitor and states it, else the shop's. */
  get showing(): Shown {
    this.keepUp()
    return (this.how ??= this.showingOf())
  }

  private showingOf(): Shown {
    const { settings, shown } = this.tax
    const own = settings?.shown ?? nothingSaid
    const first = <K extends keyof Shown>(key: K) =>
      (shown.find(one => one[key] !== undefined && this.decider.admits(one.for))?.[key] ?? own[key]) as Shown[K]
    return {
      list: first('list'),
      basket: first('basket'),
      pay: first('pay'),
      taxLines: first('taxLines'),
      note: first('note'),
    }
  }

  /** An amount of a product as it shows, minor units. */
  both(product: PricedProduct, amount: number, at = this.at()): Both {
    if (!this.tax.settings) return { withoutTax: amount, withTax: amount }
    const own = this.tax.ownOf(product.id)
    return bothOf(this.reckon(this.termsFor(this.goods(product, own), at), own), amount)
  }

  /** Whether a price typed with tax is no whole amount without it: what shows is rounded, and lines are reckoned on what was typed. */
  isRounded(product: PricedProduct, amount: number, at = this.at()): boolean {
    if (this.tax.settings?.typed !== 'withTax') return false
    const own = this.tax.ownOf(product.id)
    return !this.reckon(this.termsFor(this.goods(product, own), at), own).withoutTax.isWholeOf(amount)
  }

  /** What applies to a product somewhere: the same object for all it applies to alike. */
  termsOn(product: PricedProduct, at: Address): Terms {
    return this.tax.settings ? this.termsFor(this.goods(product, this.tax.ownOf(product.id)), at) : untaxed
  }

  /** The taxes on an amount of a product as typed, and what it comes to with them; minor units. */
  taxesOn(product: PricedProduct, amount: number, at = this.at()): { applied: readonly AppliedRate[]; gross: number } {
    const { tax, gross } = this.line({ unit: amount, amount, discount: 0 }, product, at)
    return { applied: tax.applied, gross }
  }

  /** What is shown of a price of a product in lists. */
  shown(product: PricedProduct, unit: number, at?: Address): ShownPrice {
    const both = this.both(product, unit, at)
    const { list, note } = this.showing
    const { site } = this.decider.rules.index
    return { ...both, shown: both[list], note: note && shownNote(note, both, site) }
  }

  /** The same visitor, with these lines in the basket: what it comes to, delivery included. */
  basket({ lines, sentTo, delivery = 0, codes = [] }: TaxAsk): TaxedBasket {
    const holding = this.decider.withBasket([...lines])
    return new Taxer(holding).taxed(new Pricer(holding, { codes }), lines, delivery, sentTo)
  }

  private taxed(pricer: Pricer, asked: readonly BasketLine[], delivery: number, sentTo?: Address): TaxedBasket {
    const priced = pricer.priceBasket(asked)
    const at = this.at(sentTo)
    const lines = priced.lines.map((line): BasketLineTaxed => {
      if (!isPriced(line)) return line
      return Object.assign(line, this.line(line, pricer.offers.product(line.product)!, at))
    })
    return this.withDelivery({ lines, discount: priced.discount }, delivery, sentTo)
  }

  /** What a basket that this visitor has comes to when sending it costs as much: minor units, without tax. */
  withDelivery(
    { lines, discount }: Pick<TaxedBasket, 'lines' | 'discount'>,
    delivery: number,
    sentTo?: Address,
  ): TaxedBasket {
    const taken = lines.filter(isTaxed)
    const sent = this.delivery(
      delivery,
      taken.some(line => line.tax.deliveryTaxed.is),
      this.at(sentTo),
    )
    return {
      lines,
      delivery: sent,
      discount,
      net: sum(taken.map(line => line.net)) + sent.net,
      tax: taken.reduce((all, line) => all + line.gross - line.net, sent.gross - sent.net),
      gross: sum(taken.map(line => line.gross)) + sent.gross,
    }
  }

  private line({ unit, amount: before, discount }: PricedAmounts, product: PricedProduct, at: Address) {
    const own = this.tax.ownOf(product.id)
    const goods = this.goods(product, own)
    const amount = before - discount
    if (!this.tax.settings)
      return { ...taxless(unit, before, amount), tax: { ...goods, at, applied: [], leftOut: [], kept: true } }
    const terms = this.termsFor(goods, at)
    const reckoning = this.reckon(terms, own)
    const { kept, taxes: parts, withTax, inside } = reckoning
    const taxes = parts.map((part, i) => ({ rate: terms.applied[i]!.rate, amount: part.of(amount) }))
    const all = taxes.reduce((all, one) => all + one.amount, 0)
    const gross = this.tax.settings.typed === 'withoutTax' ? amount + all : withTax.of(amount)
    const { applied, leftOut } = terms
    const tax = {
      ...goods,
      at,
      applied: applied as AppliedRate[],
      leftOut: leftOut as LeftOutRate[],
      ...(inside === undefined ? {} : { inside }),
      kept,
    }
    return { each: bothOf(reckoning, unit), before: bothOf(reckoning, before), net: gross - all, taxes, gross, tax }
  }

  private delivery(net: number, isDue: boolean, at: Address): DeliveryTaxed {
    if (!this.tax.settings || !isDue) return { net, taxes: [], gross: net, trail: null }
    const { applied, leftOut, parts } = this.ratesAt(this.tax.settings.deliveryCategory, at, true)
    const taxes = parts.map((part, i) => ({ rate: applied[i]!.rate, amount: part.of(net) }))
    const trail = { at, applied: applied as AppliedRate[], leftOut: leftOut as LeftOutRate[] }
    return { net, taxes, gross: net + sum(taxes.map(one => one.amount)), trail }
  }

  /** What applies to goods of a category at an address, or to delivery. */
  ratesAt(category: string, at: Address, isDelivery = false): Terms {
    return this.termsOf(this.tax.pick(category, at), isDelivery)
  }

  /** The same where the rates are picked already. */
  termsOf(picked: Picked, isDelivery = false): Terms {
    if (!picked.hasExceptions) return this.tax.termsOf(picked, isDelivery)
    this.keepUp()
    const known = isDelivery ? this.deliveries : this.terms
    let terms = known.get(picked)
    if (!terms) known.set(picked, (terms = this.tax.termsOf(picked, isDelivery, picked.rates.map(this.exceptionOf))))
    return terms
  }

  private termsFor({ goodsTaxed, category }: GoodsTaxed, at: Address): Terms {
    return goodsTaxed.is ? this.ratesAt(category.is, at) : untaxed
  }

  private readonly exceptionOf = ({ exceptions }: CompiledRate): Exception | undefined => {
    for (let i = 0; i < exceptions.length; i++) if (this.decider.admits(exceptions[i]!.for)) return exceptions[i]
    return undefined
  }

  private reckon(terms: Terms, own: OwnTax): Reckoning {
    const { typed, keepGross } = this.tax.settings!
    const inside = typed === 'withoutTax' ? one : keepGross ? terms.factor : this.tax.inside(own)
    let ofTerms = this.reckonings.get(terms)
    if (!ofTerms) this.reckonings.set(terms, (ofTerms = new Map()))
    let made = ofTerms.get(inside)
    if (!made) {
      const withoutTax = inside.inverse()
      const kept = typed === 'withTax' && terms.factor.equals(inside)
      made = {
        kept,
        withoutTax,
        taxes: terms.parts.map(part => part.times(withoutTax)),
        withTax: terms.factor.times(withoutTax),
        inside: typed === 'withTax' ? inside.minus(one).percent : undefined,
      }
      ofTerms.set(inside, made)
    }
    return made
  }

  private goods(product: PricedProduct, own: OwnTax): GoodsTaxed {
    const entries = this.tax.goods.filter(({ covers }) => covers(product)).map(({ entry }) => entry)
    const first = <K extends keyof OwnTax>(key: K): From<OwnTax[K]> => {
      const entry = entries.find(one => one[key] !== undefined && this.admitted(one))
      return entry ? { is: entry[key] as OwnTax[K], entry: entry.id } : { is: own[key] }
    }
    return { goodsTaxed: first('goodsTaxed'), deliveryTaxed: first('deliveryTaxed'), category: first('category') }
  }

  private admitted(entry: GoodsEntry): boolean {
    return this.decider.admits(entry.for)
  }

  private keepUp(): void {
    const { watching } = this.decider
    if (this.asked === watching) return
    this.asked = watching
    this.terms.clear()
    this.deliveries.clear()
    this.reckonings.clear()
    this.how = undefined
  }
}

/** Where nothing is said of tax, prices are what they are. */
const nothingSaid: Shown = { list: 'withTax', basket: 'withTax', pay: 'withTax', taxLines: 'summed', note: '' }

const bothOf = ({ withoutTax, withTax }: Reckoning, amount: number): Both => ({
  withoutTax: withoutTax.of(amount),
  withTax: withTax.of(amount),
})

const same = (amount: number): Both => ({ withoutTax: amount, withTax: amount })
const taxless = (unit: number, before: number, amount: number) => ({
  each: same(unit),
  before: same(before),
  net: amount,
  taxes: [],
  gross: amount,
})
