/** Prices for one visitor over compiled offers. Equal to `PlainPricing`, by test. */
import type { Condition } from '../conditions/condition'
import type { CompiledDecider } from '../gates/compiled-decider'
import { rightBit } from '../gates/verdict'
import { offersOf } from './compiled-offers'
import type { CompiledOffer, CompiledOffers, OfferWeave } from './compiled-offers'
import { foldedCode } from '../visitor/given-code'
import type { PricedProduct } from './priced-goods'
import { bandAbove, bandAt } from './offer'
import type { PricingOptions } from './plain-pricing'
import { saleRuns } from './prices-of'
import type { Prices, Sale } from './prices-of'
import type { BasketLine, Outcome, PricedBasket, PricedLine, PriceTrail, TrailStep } from './price-trail'
import { discountOn, reducedPrice } from './reduction'
import { shared } from './shared'
import { winners, pickedUnit, stepOf, amountOf } from './picked'
import type { Picked, Applying } from './picked'

/** What may still come of an offer before it is looked at with a product. */
type Standing = 'inactive' | 'notForVisitor' | 'codeMissing' | 'eligible'

export interface QuickPrice {
  /** Minor units. */ unit: number
  regular: number
  onSale: boolean
  /** The offers that made it. */
  won: readonly CompiledOffer[]
}

/** What offers look at of the basket around a line. */
interface Basket {
  ofVariant(product: PricedProduct): number
  ofRoot(root: string): number
  ofCategory(offer: CompiledOffer): number
}

/** Kept apart for each, no more at once. */
const mostQuantities = 64

export class Pricer {
  readonly offers: CompiledOffers
  private readonly codes: ReadonlySet<string>
  /** By quantity, then by weave. */
  private readonly picked = new Map<number, (Picked | undefined)[]>()
  /** By number of the offer. */
  private standings: (Standing | undefined)[] = []
  /** What was noted while these were asked: what is noted anew is asked anew. */
  private asked: object | undefined

  constructor(
    private readonly decider: CompiledDecider,
    private readonly options: PricingOptions = {},
  ) {
    this.offers = offersOf(decider.rules)
    this.codes = new Set((options.codes ?? []).map(foldedCode))
  }

  /** The unit price shown for so many of a product alone, without its trail; null where it has none. Who may know it is not asked. */
  quick(id: string, quantity = 1): QuickPrice | null {
    const product = this.offers.product(id)
    return product && this.quickOf(product, quantity)
  }

  /** The local date sales are read at. */
  get day(): string {
    return this.decider.asker.clock.date
  }

  /** Whether the visitor gets an offer, once enough is bought. */
  has(offer: CompiledOffer): boolean {
    return this.standing(offer) === 'eligible'
  }

  currentOf({ regular, sale }: Prices): number {
    return this.isOnSale(sale) ? sale!.price : regular
  }

  quickOf(product: PricedProduct, quantity: number): QuickPrice {
    const { regular, sale } = product.prices
    const onSale = this.isOnSale(sale)
    const current = onSale ? sale!.price : regular
    const picked = this.pick(this.offers.weaveOf(product), quantity)
    const won = winners(picked, regular, current, quantity)
    return { unit: pickedUnit(picked, regular, current, quantity), regular, onSale, won }
  }

  /** Unit prices by how many are bought of it alone: each step holds from its quantity on. Empty where it has no price. */
  ladder(id: string): { from: number; unit: number }[] {
    const product = this.offers.product(id)
    if (!product) return []
    const starts = new Set([1])
    for (const { by, bands } of this.offers.weaveOf(product).ofLine)
      if (by !== 'each')
        for (const { from, to } of bands) {
          starts.add(from)
          if (Number.isFinite(to)) starts.add(to + 1)
        }
    const steps: { from: number; unit: number }[] = []
    for (const from of [...starts].sort((a, b) => a - b)) {
      const { unit } = this.quickOf(product, from)
      if (steps.at(-1)?.unit !== unit) steps.push({ from, unit })
    }
    return steps
  }

  /** What is shown for so many of a product alone, and how it came about. */
  price(id: string, quantity = 1): PriceTrail | null {
    const product = this.offers.product(id)
    if (!product) return null
    const trail = this.trail(product, quantity, this.alone(product, quantity))
    for (const offer of this.offers.weaveOf(product).ofBasket)
      trail.steps.push(this.spendStep(offer, isRunning(trail), undefined))
    return trail
  }

  /** A line the visitor cannot take counts for nothing; in conditions it stands for their basket all the same. */
  basket(lines: readonly BasketLine[]): PricedBasket {
    return new Pricer(this.decider.withBasket([...lines]), this.options).priceBasket(lines)
  }

  /** The same where they are the visitor's basket already. */
  priceBasket(asked: readonly BasketLine[]): PricedBasket {
    const taken = asked.map(({ product }) =>
      this.decider.bits({ kind: 'product', id: product }) & rightBit.take ? this.offers.product(product) : null,
    )
    const counted = this.counted(asked, taken)
    const trails = taken.map((product, i) => product && this.trail(product, asked[i]!.quantity, counted))
    const discounts = this.spend(taken, trails)
    const lines = trails.map((trail, i): PricedLine =>
      trail ? { ...trail, discount: discounts[i]! } : { refused: true, ...asked[i]! },
    )
    const discount = discounts.reduce((all, one) => all + one, 0)
    const total = trails.reduce((all, trail) => all + (trail?.amount ?? 0), 0) - discount
    return { lines, discount, total }
  }

  /** A sale that begins or ends makes the price depend on the day. */
  private isOnSale(sale: Sale | undefined): boolean {
    if (!sale) return false
    if (sale.from === undefined && sale.until === undefined) return true
    return this.decider.watching ? this.decider.admits(datesOf(sale)) : saleRuns(sale, this.decider.asker.clock.date)
  }

  private standing(offer: CompiledOffer): Standing {
    this.keepUp()
    return (this.standings[offer.number] ??= this.standingOf(offer))
  }

  private standingOf(offer: CompiledOffer): Standing {
    if (!offer.active) return 'inactive'
    if (!this.decider.admits(offer.for)) return 'notForVisitor'
    const { code, id } = offer
    const isGiven = code === undefined || this.codes.has(code) || this.decider.gaveCode(id, code)
    return isGiven ? 'eligible' : 'codeMissing'
  }

  private keepUp(): void {
    const { watching } = this.decider
    if (this.asked === watching) return
    this.asked = watching
    this.standings = []
    this.picked.clear()
  }

  /** What the visitor gets of whatever shares these offers, at a quantity. */
  pick(weave: OfferWeave, quantity: number): Picked {
    this.keepUp()
    let ofQuantity = this.picked.get(quantity)
    if (!ofQuantity) {
      if (this.picked.size >= mostQuantities) this.picked.clear()
      this.picked.set(quantity, (ofQuantity = []))
    }
    return (ofQuantity[weave.number] ??= this.pickOf(weave, quantity))
  }

  private pickOf(weave: OfferWeave, quantity: number): Picked {
    const best: Applying[] = []
    const stack: Applying[] = []
    for (const offer of weave.ofLine) {
      if (this.standing(offer) !== 'eligible') continue
      // What is on sale is left out by whoever looks at one product: the weave has others.
      const measure = offer.by === 'category' && !weave.counts.has(offer.number) ? 0 : quantity
      const band = offer.by === 'each' ? 0 : bandAt(offer.bands, measure)
      if (band >= 0) (offer.stacks ? stack : best).push({ offer, reduction: offer.reductions[band]! })
    }
    return { best, stack }
  }

  /** So many of a product and nothing else: what does not count towards an offer counts as none. */
  private alone(product: PricedProduct, quantity: number): Basket {
    return {
      ofVariant: () => quantity,
      ofRoot: () => quantity,
      ofCategory: offer => (this.counts(offer, product) ? quantity : 0),
    }
  }

  private counted(asked: readonly BasketLine[], taken: readonly (PricedProduct | null)[]): Basket {
    const [variants, roots] = [new Map<string, number>(), new Map<string, number>()]
    const add = (map: Map<string, number>, key: string, more: number) => map.set(key, (map.get(key) ?? 0) + more)
    taken.forEach((product, i) => {
      if (!product) return
      add(variants, product.id, asked[i]!.quantity)
      add(roots, product.root, asked[i]!.quantity)
    })
    return {
      ofVariant: ({ id }) => variants.get(id) ?? 0,
      ofRoot: root => roots.get(root) ?? 0,
      ofCategory: offer =>
        taken.reduce((all, product, i) => all + (product && this.counts(offer, product) ? asked[i]!.quantity : 0), 0),
    }
  }

  private counts(offer: CompiledOffer, product: PricedProduct): boolean {
    const { prices } = product
    return (
      this.offers.weaveOf(product).counts.has(offer.number) &&
      !(offer.base === 'unlessOnSale' && this.isOnSale(prices.sale))
    )
  }

  private trail(product: PricedProduct, quantity: number, basket: Basket): PriceTrail {
    const { prices, id } = product
    const weave = this.offers.weaveOf(product)
    const { regular, sale } = prices
    const onSale = this.isOnSale(sale)
    const current = onSale ? sale!.price : regular
    let stacked = current
    let amount = current * quantity
    let unit = current
    let winner: TrailStep | undefined
    const stack: TrailStep[] = []
    const steps: TrailStep[] = []
    for (const offer of weave.ofLine) {
      const { by, bands } = offer
      const onSaleHere = offer.base === 'unlessOnSale' && onSale
      const measure = by === 'each' ? 0 : measured(offer, product, basket)
      const band = by === 'each' ? 0 : bandAt(bands, measure)
      const standing = this.standing(offer)
      const outcome: Outcome =
        standing !== 'eligible' ? standing : onSaleHere ? 'notOnSaleItems' : band < 0 ? 'bandNotReached' : 'beaten'
      const at = band >= 0 ? band : bandAbove(bands, measure)
      const isNext = offer.stacks && outcome === 'beaten'
      const base = isNext ? stacked : offer.base === 'regular' ? regular : current
      const made = at < 0 ? 0 : reducedPrice(base, offer.reductions[at]!)
      const step = stepOf(offer, outcome, { measure, at, made, all: amountOf(offer, made, current, quantity) })
      steps.push(step)
      if (outcome !== 'beaten') continue
      if (isNext) {
        stacked = made
        stack.push(step)
      } else if (step.amount! < amount) {
        amount = step.amount!
        unit = offer.bonus ? current : made
        winner = step
      }
    }
    const isStack = stack.length > 0 && stacked * quantity < amount
    const won = isStack ? stack : winner ? [winner] : []
    for (const step of won) step.outcome = 'applied'
    if (isStack) {
      unit = stacked
      amount = stacked * quantity
    }
    const offers = won.map(step => step.offer)
    const told = sale ? { sale: { ...sale, runs: onSale } } : {}
    return { product: id, quantity, regular, ...told, current, steps, unit, amount, offers }
  }

  /** What is taken off each line: the one discount on the basket that takes off the most. */
  private spend(products: readonly (PricedProduct | null)[], trails: readonly (PriceTrail | null)[]): number[] {
    const offers = this.offers.offers.filter(offer => offer.by === 'spend')
    const none = trails.map(() => 0)
    if (!offers.length) return none
    const sumOf = (offer: CompiledOffer, isIn: (weave: OfferWeave) => boolean) =>
      trails.reduce((all, trail, i) => {
        const product = products[i]
        const isOut =
          !trail ||
          !product ||
          !isIn(this.offers.weaveOf(product)) ||
          (offer.base === 'unlessOnSale' && isRunning(trail))
        return isOut ? all : all + trail.amount
      }, 0)
    const made = offers.map(offer => {
      const measure = sumOf(offer, weave => weave.counts.has(offer.number))
      const band = bandAt(offer.bands, measure)
      const base = sumOf(offer, weave => weave.ofBasket.includes(offer))
      const isEligible = band >= 0 && this.standing(offer) === 'eligible'
      return { offer, measure, band, reduction: isEligible ? discountOn(base, offer.reductions[band]!) : 0 }
    })
    const isOn = (offer: CompiledOffer, product: PricedProduct | null | undefined) =>
      product != null && this.offers.weaveOf(product).ofBasket.includes(offer)
    let best: (typeof made)[number] | undefined
    for (const one of made) if (one.reduction > (best?.reduction ?? 0)) best = one
    const takesOff = (i: number) =>
      best !== undefined &&
      isOn(best.offer, products[i]) &&
      !(best.offer.base === 'unlessOnSale' && isRunning(trails[i]!))
    const shares = best
      ? shared(
          best.reduction,
          trails.map((trail, i) => (takesOff(i) ? trail!.amount : 0)),
        )
      : none
    trails.forEach((trail, i) => {
      if (!trail) return
      for (const one of made) {
        if (!isOn(one.offer, products[i])) continue
        trail.steps.push(this.spendStep(one.offer, isRunning(trail), { ...one, won: one === best, share: shares[i]! }))
        if (one === best && takesOff(i)) trail.offers.push(one.offer.id)
      }
    })
    return shares
  }

  private spendStep(
    offer: CompiledOffer,
    onSale: boolean,
    made: { measure: number; band: number; won: boolean; share: number } | undefined,
  ): TrailStep {
    const { measure = 0, band = -1, won = false, share = 0 } = made ?? {}
    const standing = this.standing(offer)
    const isLeftOut = offer.base === 'unlessOnSale' && onSale
    const outcome: Outcome =
      standing !== 'eligible'
        ? standing
        : isLeftOut
          ? 'notOnSaleItems'
          : band < 0
            ? 'bandNotReached'
            : won
              ? 'applied'
              : 'beaten'
    const at = band >= 0 ? band : bandAbove(offer.bands, measure)
    return {
      offer: offer.id,
      outcome,
      measure,
      ...(at < 0 ? {} : { band: at }),
      ...(outcome === 'applied' ? { amount: share } : {}),
    }
  }
}

const isRunning = ({ sale }: PriceTrail) => sale?.runs === true

function measured(offer: CompiledOffer, product: PricedProduct, basket: Basket): number {
  if (offer.by === 'variant') return basket.ofVariant(product)
  return offer.by === 'product' ? basket.ofRoot(product.root) : basket.ofCategory(offer)
}

/** The days of a sale as a condition, one object for each: what it was asked about is known by it. */
const dates = new WeakMap<Sale, Condition>()

function datesOf(sale: Sale): Condition {
  let condition = dates.get(sale)
  if (!condition) {
    const { from, until } = sale
    condition = { date: { ...(from ? { from } : {}), ...(until ? { until } : {}) } } as Condition
    dates.set(sale, condition)
  }
  return condition
}
