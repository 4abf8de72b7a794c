/**
 * The plain reading of offers: everything looked up and worked out anew for every question, in exact decimals. Slow and
 * easy to check; the compiled one is held to it by test.
 */
import { decimal, Fraction, rounded } from '../exact'
import { PlainDecider } from '../gates/plain-decider'
import type { RuleSet } from '../gates/rule-set'
import type { Product } from '../kinds/product'
import type { Off, ShopScope } from '../rulebook/shop-rules'
import { TRUE } from '../tri'
import type { Visitor } from '../visitor/visitor'
import { foldedCode, gaveCode } from '../visitor/given-code'
import { coversProduct } from './covers-product'
import { bandAbove, bandAt, offersInOrder } from './offer'
import type { ReadOffer } from './offer'
import { familyOf, pricesOf, saleRuns } from './prices-of'
import { isPriced } from './price-trail'
import type { BasketLine, Outcome, PricedBasket, PricedLine, PriceTrail, TrailStep } from './price-trail'
import { shared } from './shared'

export interface PricingOptions {
  /** Codes that were given besides those the visitor holds. */ codes?: readonly string[]
}

/** A line whose product has a price and may be taken, with what offers look at. */
interface Line {
  product: Product
  quantity: number
  regular: number
  current: number
  onSale: boolean
  trail: PriceTrail
}

/** The whole basket an offer is measured on; of a shown price the product alone. */
type Measured = readonly Pick<Line, 'product' | 'quantity' | 'onSale'>[]

export class PlainPricing {
  private readonly decider: PlainDecider
  private readonly offers: ReadOffer[]
  private readonly codes: Set<string>

  /** `nowMs` (milliseconds since 1970) counts where the visitor names no time. */
  constructor(
    private readonly rules: RuleSet,
    private readonly visitor: Visitor,
    private readonly nowMs: number,
    private readonly options: PricingOptions = {},
  ) {
    this.decider = new PlainDecider(rules, visitor, nowMs)
    this.offers = offersInOrder(rules.rulebook.offers ?? [])
    this.codes = new Set((options.codes ?? []).map(foldedCode))
  }

  /** What is shown for so many of a product alone; null where it is not there or has no price. Who may know it is not asked. */
  price(product: string, quantity = 1): PriceTrail | null {
    const line = this.line({ product, quantity })
    if (!line) return null
    this.applyTo(line, [line])
    const spend = this.inScope(line.product).filter(offer => offer.by === 'spend')
    line.trail.steps.push(...spend.map(offer => this.spendStep(offer, line, undefined)))
    return line.trail
  }

  /** A line the visitor cannot take counts for nothing; in conditions it stands for their basket all the same. */
  basket(lines: readonly BasketLine[]): PricedBasket {
    const holding = new PlainPricing(this.rules, { ...this.visitor, basket: [...lines] }, this.nowMs, this.options)
    return holding.priceBasket(lines)
  }

  private priceBasket(asked: readonly BasketLine[]): PricedBasket {
    const taken = asked.map(line =>
      this.decider.decide({ kind: 'product', id: line.product }).take ? this.line(line) : null,
    )
    const lines = taken.filter(line => line !== null)
    for (const line of lines) this.applyTo(line, lines)
    const discounts = this.spend(lines)
    const priced = taken.map((line, i): PricedLine =>
      line ? { ...line.trail, discount: discounts[lines.indexOf(line)]! } : { refused: true, ...asked[i]! },
    )
    const discount = sum(discounts)
    return { lines: priced, discount, total: sum(priced.filter(isPriced).map(line => line.amount)) - discount }
  }

  private line({ product: id, quantity }: BasketLine): Line | null {
    const { index } = this.rules
    const product = index.get('product', id)
    const prices = product && pricesOf(product, index)
    if (!prices) return null
    const { regular, sale } = prices
    const onSale = sale !== undefined && saleRuns(sale, this.decider.asker.clock.date)
    const current = onSale ? sale.price : regular
    const trail: PriceTrail = {
      product: id,
      quantity,
      regular,
      ...(sale ? { sale: { ...sale, runs: onSale } } : {}),
      current,
      steps: [],
      unit: current,
      amount: current * quantity,
      offers: [],
    }
    return { product, quantity, regular, current, onSale, trail }
  }

  private inScope(product: Product): ReadOffer[] {
    return this.offers.filter(offer => this.covers(offer.on, product))
  }

  covers(scope: ShopScope, product: Product): boolean {
    return coversProduct(scope, product, this.rules.index)
  }

  /** Everything but a discount on the basket. */
  private applyTo(line: Line, basket: Measured): void {
    const { trail, quantity } = line
    const offers = this.inScope(line.product).filter(offer => offer.by !== 'spend')
    let stacked = line.current
    trail.steps = offers.map((offer): TrailStep => {
      const measure = this.measure(offer, line, basket)
      const band = bandAt(offer.bands, measure)
      const outcome = this.outcome(offer, line, offer.by !== 'each' && band < 0)
      const isNext = offer.stacks && outcome === 'beaten'
      const at = offer.by === 'each' ? 0 : band >= 0 ? band : bandAbove(offer.bands, measure)
      const step: TrailStep = { offer: offer.id, outcome, ...(offer.by === 'each' ? {} : { measure }) }
      if (at < 0) return step
      const unit = reduced(
        isNext ? stacked : offer.base === 'regular' ? line.regular : line.current,
        offer.bands[at]!.off,
      )
      if (isNext) stacked = unit
      return { ...step, band: at, unit, amount: amountOf(offer, unit, line.current, quantity) }
    })
    this.choose(line, offers, stacked)
  }

  private measure(offer: ReadOffer, { product }: Pick<Line, 'product'>, basket: Measured): number {
    const { index } = this.rules
    const root = (one: Product) => familyOf(one, index).at(-1)!.id
    const counted: Record<ReadOffer['by'], (one: Measured[number]) => boolean> = {
      each: () => false,
      spend: () => false,
      variant: one => one.product.id === product.id,
      product: one => root(one.product) === root(product),
      category: one => this.covers(offer.counts, one.product) && !(offer.base === 'unlessOnSale' && one.onSale),
    }
    return sum(basket.filter(counted[offer.by]).map(one => one.quantity))
  }

  /** What becomes of it before it is compared with others. */
  private outcome(offer: ReadOffer, { onSale }: Pick<Line, 'onSale'>, isOutside: boolean): Outcome {
    if (!offer.active) return 'inactive'
    if (this.decider.condition(offer.for) !== TRUE) return 'notForVisitor'
    if (offer.code !== undefined && !this.isGiven(offer.id, offer.code)) return 'codeMissing'
    if (offer.base === 'unlessOnSale' && onSale) return 'notOnSaleItems'
    return isOutside ? 'bandNotReached' : 'beaten'
  }

  private isGiven(offer: string, code: string): boolean {
    return this.codes.has(code) || gaveCode(this.visitor, this.decider.asker.at, offer, code)
  }

  /** The lowest amount wins; on a tie no offer, then the earlier one, then the stack. */
  private choose(line: Line, offers: readonly ReadOffer[], stacked: number): void {
    const { trail } = line
    const eligible = trail.steps.flatMap((step, i) => (step.outcome === 'beaten' ? [{ step, offer: offers[i]! }] : []))
    let won: TrailStep[] = []
    for (const { step, offer } of eligible)
      if (!offer.stacks && step.amount! < trail.amount) {
        won = [step]
        trail.amount = step.amount!
        trail.unit = offer.bonus ? line.current : step.unit!
      }
    const stack = eligible.filter(({ offer }) => offer.stacks).map(({ step }) => step)
    if (stack.length && stacked * line.quantity < trail.amount) {
      won = stack
      trail.amount = stacked * line.quantity
      trail.unit = stacked
    }
    for (const step of won) step.outcome = 'applied'
    trail.offers = won.map(step => step.offer)
  }

  /** What is taken off each line: the one discount on the basket that takes off the most. */
  private spend(lines: readonly Line[]): number[] {
    const offers = this.offers.filter(offer => offer.by === 'spend')
    const made = offers.map(offer => ({ offer, ...this.reduction(offer, lines) }))
    let best: (typeof made)[number] | undefined
    for (const one of made) if (one.eligible && one.reduction > (best?.reduction ?? 0)) best = one
    const shares = best
      ? shared(
          best.reduction,
          lines.map(line => (this.takesOff(best.offer, line) ? line.trail.amount : 0)),
        )
      : []
    for (const [i, line] of lines.entries()) {
      for (const one of made) {
        if (!this.covers(one.offer.on, line.product)) continue
        line.trail.steps.push(this.spendStep(one.offer, line, { ...one, won: one === best, share: shares[i] ?? 0 }))
        if (one === best && this.takesOff(one.offer, line)) line.trail.offers.push(one.offer.id)
      }
    }
    return lines.map((_, i) => shares[i] ?? 0)
  }

  private takesOff(offer: ReadOffer, { product, onSale }: Line): boolean {
    return this.covers(offer.on, product) && !(offer.base === 'unlessOnSale' && onSale)
  }

  private reduction(offer: ReadOffer, lines: readonly Line[]) {
    const amounts = (scope: ShopScope) =>
      sum(
        lines
          .filter(line => this.covers(scope, line.product) && !(offer.base === 'unlessOnSale' && line.onSale))
          .map(line => line.trail.amount),
      )
    const measure = amounts(offer.counts)
    const band = bandAt(offer.bands, measure)
    const outcome = this.outcome(offer, { onSale: false }, band < 0)
    const base = amounts(offer.on)
    const reduction = band < 0 ? 0 : takenOff(base, offer.bands[band]!.off)
    return { measure, band, eligible: outcome === 'beaten', reduction }
  }

  private spendStep(
    offer: ReadOffer,
    line: Line,
    made: { measure: number; band: number; won: boolean; share: number } | undefined,
  ): TrailStep {
    const { measure = 0, band = -1, won = false, share = 0 } = made ?? {}
    const outcome = this.outcome(offer, line, band < 0)
    const at = band >= 0 ? band : bandAbove(offer.bands, measure)
    return {
      offer: offer.id,
      outcome: won && outcome === 'beaten' ? 'applied' : outcome,
      measure,
      ...(at < 0 ? {} : { band: at }),
      ...(won && outcome === 'beaten' ? { amount: share } : {}),
    }
  }
}

const sum = (list: readonly number[]) => list.reduce((all, one) => all + one, 0)

/** A price after a reduction, in whole minor units, half rounded up. */
function reduced(base: number, off: Off): number {
  if ('price' in off) return off.price
  if ('amount' in off) return Math.max(0, base - off.amount)
  return rounded(new Fraction(100).sub(decimal(off.percent)).div(100).mul(base))
}

/** What a discount on the basket takes off a sum, in whole minor units, half rounded up; no more than there is. */
function takenOff(sum: number, off: Off): number {
  if ('percent' in off) return rounded(decimal(off.percent).div(100).mul(sum))
  return sum - reduced(sum, off)
}

/** With a bonus, of every full `buy + get` units `get` are at its unit and the rest at the current price. */
function amountOf({ bonus }: ReadOffer, unit: number, current: number, quantity: number): number {
  if (!bonus) return unit * quantity
  const given = Math.floor(quantity / (bonus.buy + bonus.get)) * bonus.get
  return unit * given + current * (quantity - given)
}
