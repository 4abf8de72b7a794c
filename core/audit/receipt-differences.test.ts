import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyLines, anyOffers } from '../../tests/support/arbitrary-offers'
import { anyVisitor } from '../../tests/support/arbitrary-rules'
import { anyAddress, anyTax } from '../../tests/support/arbitrary-tax'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { wexlowTax } from '../../demo/wexlow/taxes'
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { quoteBasket } from '../orders/basket-quote'
import type { BasketAsk } from '../orders/basket-quote'
import type { Rulebook } from '../rulebook/rulebook'
import type { Visitor } from '../visitor/visitor'
import { receiptDifferences } from './receipt-differences'

const world = wexlowCase('tax')
const deliveries: Rulebook['deliveries'] = [
  { id: 'post', cost: { flat: 500 } },
  { id: 'sack', for: { signedIn: true }, cost: { flat: 900 } },
]
function side(book: Partial<Rulebook>, visitor: Visitor, ask: BasketAsk) {
  const rules = new CompiledRules({ ...world.book, deliveries, ...book }, world.site)
  const decider = new CompiledDecider(rules, visitor, Date.parse('2026-06-10T10:00:00Z'))
  return { decider, quote: quoteBasket(decider, ask) }
}

describe('the differences between two receipts', () => {
  it('add up to what one pays more than the other', () => {
    fc.assert(
      fc.property(
        fc.record({ tax: anyTax(world), offers: anyOffers(world), lines: anyLines(world), sentTo: anyAddress }),
        anyVisitor,
        anyVisitor,
        ({ tax, offers, ...ask }, a, b) => {
          const [one, other] = [
            side({ tax, offers }, a, { ...ask, delivery: 'post' }),
            side({ tax, offers }, b, { ...ask, delivery: 'sack' }),
          ]
          const all = receiptDifferences(one, other).reduce((sum, { amount }) => sum + amount, 0)
          expect(all).toBe(one.quote.basket.gross - other.quote.basket.gross)
        },
      ),
      { numRuns: 300 },
    )
  })

  it('say what is by the school’s rate, what by an offer, and that delivery is not taxed', () => {
    const tax = wexlowTax
    const offers: Rulebook['offers'] = [
      {
        id: 'class',
        for: { role: { anyOf: ['classroom'] } },
        on: { categories: ['tools'] },
        bands: [{ off: { amount: 105 } }],
      },
    ]
    const ask = {
      lines: [
        { product: 'heather-dk', quantity: 2 },
        { product: 'niddy', quantity: 1 },
      ],
      sentTo: { country: 'IE' },
      delivery: 'post',
    }
    const school = side({ tax, offers }, { person: { id: 'c' }, roles: ['classroom'] }, ask)
    const guest = side({ tax, offers }, { person: null }, ask)
    expect(receiptDifferences(school, guest)).toEqual([
      { about: 'tax', amount: -227 - 273, sources: [{ kind: 'exception', id: 'school-rate' }], lines: [0, 1] },
      { about: 'price', amount: -105, sources: [{ kind: 'offer', id: 'class' }], lines: [1] },
      { about: 'deliveryTax', amount: -115, sources: [{ kind: 'exception', id: 'school-rate' }], lines: [] },
    ])
    const abroad = side({ tax, offers }, { person: null }, { ...ask, sentTo: { country: 'ES', postcode: '35001' } })
    expect(receiptDifferences(abroad, guest)[0]).toMatchObject({
      about: 'tax',
      sources: [{ kind: 'place', id: 'ES 35001' }],
    })
  })
})
