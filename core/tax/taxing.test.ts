import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyLines, anyOffers, codes } from '../../tests/support/arbitrary-offers'
import { anyVisitor } from '../../tests/support/arbitrary-rules'
import { anyAddress, anyTax } from '../../tests/support/arbitrary-tax'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { RuleSet } from '../gates/rule-set'
import type { Rulebook } from '../rulebook/rulebook'
import { offersOf } from '../shop/compiled-offers'
import { Pricer } from '../shop/pricer'
import type { Visitor } from '../visitor/visitor'
import { Fraction } from '../exact'
import { Ratio } from './ratio'
import { PlainTax } from './plain-tax'
import { Taxer } from './taxer'
import { isTaxed, sum } from './tax-trail'
import type { TaxedBasket } from './tax-trail'

const world = wexlowCase('tax')
const products = [...world.site.products!.map(one => one.id), 'nothing']
const noon = Date.parse('2026-06-10T10:00:00Z')
type Tax = NonNullable<Rulebook['tax']>

function readings(tax: Tax | undefined, visitor: Visitor, offers: Rulebook['offers'] = []) {
  const { tax: _, ...rest } = world.book
  const book: Rulebook = { ...rest, offers, ...(tax ? { tax } : {}) }
  const rules = new CompiledRules(book, world.site)
  const decider = new CompiledDecider(rules, visitor, noon)
  return { rules, decider, fast: new Taxer(decider), plain: new PlainTax(new RuleSet(book, world.site), visitor, noon) }
}
const anyDelivery = fc.option(fc.nat(2000), { nil: undefined })
const anyPlaceSent = fc.option(anyAddress, { nil: undefined })
const anyAsk = fc.record({
  tax: fc.option(anyTax(world), { nil: undefined, freq: 20 }),
  visitor: anyVisitor,
  offers: anyOffers(world),
  lines: anyLines(world),
  sentTo: anyPlaceSent,
  delivery: anyDelivery,
  codes: fc.subarray([...codes]),
})

describe('compiled taxes', () => {
  it('of baskets are those of the plain reading, with every line’s trail', () => {
    fc.assert(
      fc.property(anyAsk, ({ tax, visitor, offers, ...ask }) => {
        const { fast, plain } = readings(tax, visitor, offers)
        expect(fast.basket(ask)).toEqual(plain.basket(ask))
      }),
      { numRuns: 600 },
    )
  })

  it('of shown prices and the way they show are those of the plain reading', () => {
    fc.assert(
      fc.property(anyAsk, fc.boolean(), ({ tax, visitor, offers, sentTo }, watched) => {
        const { fast, plain, decider, rules } = readings(tax, visitor, offers)
        if (watched) decider.watch()
        const pricer = new Pricer(decider)
        expect(fast.showing).toEqual(plain.showing())
        for (const id of products) {
          const product = offersOf(rules).product(id)
          const shown = product && fast.shown(product, pricer.quickOf(product, 1).unit, sentTo && fast.at(sentTo))
          expect(shown).toEqual(plain.shown(id, 1, sentTo))
        }
      }),
      { numRuns: 300 },
    )
  })

  it('show alike to visitors who are at places that neither a rate nor a condition tells apart', () => {
    fc.assert(
      fc.property(anyTax(world), anyAddress, anyAddress, (tax, here, there) => {
        const at = ({ country, region }: typeof here) => ({
          person: null,
          request: { country, ...(region ? { region } : {}) },
        })
        const [one, other] = [readings(tax, at(here)), readings(tax, at(there))]
        if (one.fast.tax.placeKey(at(here).request) !== one.fast.tax.placeKey(at(there).request)) return
        const entries = [...(tax.exceptions ?? []), ...(tax.goods ?? []), ...(tax.shown ?? [])]
        if (entries.some(entry => one.decider.admits(entry.for) !== other.decider.admits(entry.for))) return
        for (const id of products) expect(one.plain.shown(id)).toEqual(other.plain.shown(id))
      }),
    )
  })

  it('note what they look at, where the visitor is only where a rate asks for it', () => {
    const rate = (place: object) => ({ id: 'r', tax: 'vat', place, category: 'standard', percent: '20' })
    const looks = (tax: Partial<Tax>, sentTo?: { country: string }) => {
      const settings = { typed: 'withTax' as const, origin: { country: 'IE' } }
      const { rules, decider, fast } = readings({ settings, taxes: [{ id: 'vat' }], ...tax }, { person: null })
      const facts = decider.watch()
      fast.shown(offersOf(rules).product('bobbin')!, 450, sentTo && fast.at(sentTo))
      return [...facts].sort()
    }
    expect(looks({ rates: [rate({})] })).toEqual([])
    expect(looks({ rates: [rate({ country: 'IE' })] })).toEqual(['country'])
    expect(looks({ rates: [rate({ country: 'IE' })] }, { country: 'IE' })).toEqual([])
    expect(looks({ rates: [rate({})], exceptions: [{ id: 'e', for: { signedIn: true }, rate: 'r' }] })).toEqual([
      'person',
    ])
    expect(looks({ rates: [rate({})], shown: [{ id: 's', for: { device: { in: ['phone'] } }, note: 'x' }] })).toEqual([
      'device',
    ])
  })
})

describe('a basket with tax', () => {
  const property = (check: (basket: TaxedBasket, tax: Tax | undefined) => void) =>
    fc.assert(
      fc.property(anyAsk, ({ tax, visitor, offers, ...ask }) =>
        check(readings(tax, visitor, offers).fast.basket(ask), tax),
      ),
      { numRuns: 300 },
    )

  it('comes to the sum of its lines and its delivery, in whole minor units', () =>
    property(basket => {
      const taken = basket.lines.filter(isTaxed)
      const parts = [...taken, basket.delivery]
      expect(basket.net).toBe(sum(parts.map(one => one.net)))
      expect(basket.gross).toBe(sum(parts.map(one => one.gross)))
      expect(basket.tax).toBe(basket.gross - basket.net)
      for (const one of parts) {
        expect(one.net + sum(one.taxes.map(tax => tax.amount))).toBe(one.gross)
        for (const amount of [one.net, one.gross, ...one.taxes.map(tax => tax.amount)])
          expect(Number.isSafeInteger(amount)).toBe(true)
      }
      expect(sum(taken.map(one => one.discount))).toBe(basket.discount)
    }))

  it('costs at home what was typed with tax, where nobody has other terms', () =>
    fc.assert(
      fc.property(anyTax(world), anyLines(world), (tax, lines) => {
        const { origin } = tax.settings!
        const settings = { ...tax.settings!, typed: 'withTax' as const }
        const { fast } = readings({ ...tax, settings, exceptions: [], goods: [] }, { person: null })
        for (const line of fast.basket({ lines, sentTo: origin }).lines)
          if (isTaxed(line)) expect(line.gross).toBe(line.amount - line.discount)
      }),
    ))

  it('costs the same everywhere where what was typed is kept', () =>
    fc.assert(
      fc.property(anyTax(world), anyLines(world), anyAddress, anyVisitor, (tax, lines, sentTo, visitor) => {
        const settings = { ...tax.settings!, typed: 'withTax' as const, keepGross: true }
        for (const line of readings({ ...tax, settings }, visitor).fast.basket({ lines, sentTo }).lines)
          if (isTaxed(line)) expect(line.gross).toBe(line.amount - line.discount)
      }),
    ))
})

describe('a price that was typed with tax', () => {
  const tax = (keepGross: boolean): Tax => ({
    settings: { typed: 'withTax', origin: { country: 'IE' }, keepGross },
    taxes: [{ id: 'vat' }],
    rates: [
      { id: 'ie', tax: 'vat', place: { country: 'IE' }, category: 'standard', percent: '23' },
      { id: 'es', tax: 'vat', place: { country: 'ES' }, category: 'standard', percent: '21' },
    ],
  })
  const at = (keepGross: boolean, amount: number, country: string) => {
    const { fast, plain } = readings(tax(keepGross), { person: null })
    const both = plain.both('loom-kit', amount, { country })
    const [line] = fast.basket({ lines: [{ product: 'loom-kit', quantity: 1 }], sentTo: { country } }).lines
    return { ...both, line }
  }

  it('has the tax of where it goes taken out, and keeps what it costs; or has the other put on', () => {
    expect(at(true, 12_100, 'ES')).toMatchObject({ withoutTax: 10_000, withTax: 12_100 })
    expect(at(true, 12_300, 'IE')).toMatchObject({ withoutTax: 10_000, withTax: 12_300 })
    expect(at(false, 12_300, 'ES')).toMatchObject({ withoutTax: 10_000, withTax: 12_100 })
    expect(at(false, 12_300, 'IE')).toMatchObject({ withoutTax: 10_000, withTax: 12_300 })
    expect(at(true, 0, 'ES').line).toMatchObject({ gross: 12_000 })
    expect(at(false, 0, 'ES').line).toMatchObject({ gross: Math.round((12_000 / 1.23) * 1.21) })
  })
})

describe('taxes that exceptions put on top of each other', () => {
  it('build on those that are on no ring', () => {
    const rate = (tax: string) => ({ id: tax, tax, place: {}, category: 'standard', percent: '10' })
    const { fast, plain } = readings(
      {
        settings: { typed: 'withoutTax', origin: { country: 'IE' } },
        taxes: [{ id: 'vat' }, { id: 'levy', onTopOf: ['vat'] }, { id: 'duty' }],
        rates: [rate('vat'), rate('levy'), rate('duty')],
        exceptions: [{ id: 'e', for: { everyone: true }, rate: 'vat', onTopOf: ['levy', 'duty'] }],
      },
      { person: null },
    )
    const ask = { lines: [{ product: 'loom-kit', quantity: 1 }] }
    const [line] = fast.basket(ask).lines
    expect(line).toMatchObject({ net: 12_000, taxes: [{ amount: 1320 }, { amount: 1200 }, { amount: 1200 }] })
    expect(plain.basket(ask).lines[0]).toEqual(line)
  })
})

describe('a ratio', () => {
  it('of an amount is exact and rounds half up, in doubles or beyond them', () => {
    fc.assert(
      fc.property(fc.bigInt(0n, 10n ** 12n), fc.bigInt(1n, 10n ** 12n), fc.nat(2 ** 31 - 1), (n, d, amount) => {
        fc.pre(n <= d * 100n)
        const exact = (2n * BigInt(amount) * n + d) / (2n * d)
        expect(new Ratio(new Fraction(n, d)).of(amount)).toBe(Number(exact))
      }),
      { numRuns: 2000 },
    )
  })

  it('is said in percent', () => {
    const said = ([n, d]: [number, number]) => new Ratio(new Fraction(n, d)).percent
    expect(
      (
        [
          [1, 4],
          [0, 1],
          [134_375, 1_000_000],
          [3, 1],
          [1, 20_000],
        ] as [number, number][]
      ).map(said),
    ).toEqual(['25', '0', '13.4375', '300', '0.005'])
  })
})
