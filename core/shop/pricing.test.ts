import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyLines, anyOffers, codes } from '../../tests/support/arbitrary-offers'
import { anyVisitor } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { validateRulebook } from '../check/validate'
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { RuleSet } from '../gates/rule-set'
import type { Gate } from '../rulebook/gate'
import type { Offer } from '../rulebook/shop-rules'
import type { Visitor } from '../visitor/visitor'
import { isPriced } from './price-trail'
import { PlainPricing } from './plain-pricing'
import { Pricer } from './pricer'
import { shared } from './shared'

const world = wexlowCase()
const products = [...world.site.products!.map(one => one.id), 'nothing']
const noon = '2026-06-10T10:00:00Z'
const gates: Gate[] = [{ id: 'g', on: { product: 'mist-lace' }, take: { basket: { category: 'tools' } } }]

interface Readings {
  fast: Pricer
  plain: PlainPricing
}
function readings(offers: Offer[], visitor: Visitor, given: readonly string[], watched = false): Readings {
  const book = { ...world.book, gates, offers }
  expect(validateRulebook(book, world.site)).toEqual([])
  const decider = new CompiledDecider(new CompiledRules(book, world.site), visitor, Date.parse(noon))
  if (watched) decider.watch()
  return {
    fast: new Pricer(decider, { codes: given }),
    plain: new PlainPricing(new RuleSet(book, world.site), visitor, Date.parse(noon), { codes: given }),
  }
}
const anyGiven = fc.subarray([...codes])
/** Uses that are kept, by the number of the offer: some with another code, some over. */
const anyKept = fc.array(
  fc.record({
    offer: fc.nat(5),
    code: fc.constantFrom(...codes),
    until: fc.constantFrom(null, '2026-06-10T10:00:01Z', '2026-06-10T09:59:59Z'),
  }),
  { maxLength: 4 },
)
const anyAsk = fc
  .record({ offers: anyOffers(world), visitor: anyVisitor, given: anyGiven, kept: anyKept, watched: fc.boolean() })
  .map(({ kept, visitor, ...ask }) => {
    const held = kept.map(one => ({ ...one, offer: ask.offers[one.offer]?.id ?? 'gone' }))
    return { ...ask, visitor: held.length ? { ...visitor, codes: held } : visitor }
  })
const someQuantity = fc.integer({ min: 1, max: 15 })

describe('compiled prices', () => {
  it('are those of the plain reading, with every step of the trail', () => {
    fc.assert(
      fc.property(anyAsk, someQuantity, ({ offers, visitor, given, watched }, quantity) => {
        const { fast, plain } = readings(offers, visitor, given, watched)
        for (const product of products) expect(fast.price(product, quantity)).toEqual(plain.price(product, quantity))
      }),
      { numRuns: 300 },
    )
  })

  it('are the same without the trail, as boards and lists ask for them', () => {
    fc.assert(
      fc.property(anyAsk, someQuantity, ({ offers, visitor, given, watched }, quantity) => {
        const { fast, plain } = readings(offers, visitor, given, watched)
        for (const product of products) {
          const { unit, regular, offers: won } = plain.price(product, quantity) ?? {}
          const quick = fast.quick(product, quantity)
          expect(quick && [quick.unit, quick.regular, quick.won.map(({ id }) => id)]).toEqual(
            unit === undefined ? null : [unit, regular, won],
          )
        }
      }),
      { numRuns: 300 },
    )
  })

  it('of baskets are those of the plain reading, line by line', () => {
    fc.assert(
      fc.property(anyAsk, anyLines(world), ({ offers, visitor, given }, lines) => {
        const { fast, plain } = readings(offers, visitor, given)
        expect(fast.basket(lines)).toEqual(plain.basket(lines))
      }),
      { numRuns: 400 },
    )
  })

  it('note the day where a sale has one, and what offers look at', () => {
    const decider = new CompiledDecider(
      new CompiledRules({ ...world.book, offers: [stockists] }, world.site),
      { person: null },
      Date.parse(noon),
    )
    const facts = decider.watch()
    const pricer = new Pricer(decider)
    pricer.quick('niddy')
    expect([...facts]).toEqual([])
    pricer.quick('fleece-roll')
    expect([...facts].sort()).toEqual(['clock', 'person'])
  })
})
const stockists: Offer = {
  id: 's',
  for: { role: { anyOf: ['stockist'] } },
  on: { categories: ['yarn'] },
  bands: [{ off: { percent: 15 } }],
}

describe('an offer', () => {
  it('never raises a price, of a piece or of a basket', () => {
    fc.assert(
      fc.property(anyAsk, anyLines(world), someQuantity, ({ offers, visitor, given }, lines, quantity) => {
        const { fast } = readings(offers, visitor, given)
        for (const product of products) {
          const trail = fast.price(product, quantity)
          if (trail) expect(trail.amount).toBeLessThanOrEqual(trail.current * quantity)
        }
        const basket = fast.basket(lines)
        for (const line of basket.lines.filter(isPriced)) {
          expect(line.amount).toBeLessThanOrEqual(line.current * line.quantity)
          expect(line.discount).toBeLessThanOrEqual(line.amount)
        }
        expect(basket.total).toBeGreaterThanOrEqual(0)
      }),
      { numRuns: 200 },
    )
  })

  it('costs no more in all in a band that takes off more', () => {
    const off = fc.integer({ min: 0, max: 100 })
    fc.assert(
      fc.property(off, off, someQuantity, (one, two, quantity) => {
        const [less, more] = [Math.min(one, two), Math.max(one, two)]
        const amount = (percent: number) =>
          readings(
            [{ id: 'o', on: { shop: true }, by: 'product', bands: [{ off: { percent } }] }],
            { person: null },
            [],
          ).fast.price('niddy', quantity)!.amount
        expect(amount(more)).toBeLessThanOrEqual(amount(less))
      }),
    )
  })

  it('is exact where doubles are not: 0.0001 % of the largest price that is typed, and beyond', () => {
    const huge = { ...world.site, products: [{ id: 'huge', categories: [], price: 9_000_000_000_000_005 }] }
    const book = {
      ...world.book,
      offers: [{ id: 'o', on: { shop: true }, bands: [{ off: { percent: '0.0001' } }] }],
    } as never
    const fast = new Pricer(new CompiledDecider(new CompiledRules(book, huge), { person: null }, 0))
    const plain = new PlainPricing(new RuleSet(book, huge), { person: null }, 0)
    expect(fast.price('huge')).toEqual(plain.price('huge'))
    expect(fast.price('huge')!.unit).toBe(8_999_991_000_000_005)
  })
})

describe('a sum shared', () => {
  it('is shared whole, and nobody gets a unit more or less than their part', () => {
    const amounts = fc.array(fc.nat(1_000_000), { minLength: 1, maxLength: 8 })
    fc.assert(
      fc.property(amounts, fc.double({ min: 0, max: 1, noNaN: true }), (list, part) => {
        const all = list.reduce((sum, one) => sum + one, 0)
        const sum = Math.floor(all * part)
        const shares = shared(sum, list)
        expect(shares.reduce((left, one) => left + one, 0)).toBe(all ? sum : 0)
        shares.forEach((share, i) => expect(Math.abs(share * all - list[i]! * sum)).toBeLessThan(all || 1))
      }),
    )
  })
})
