import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyLines } from '../../tests/support/arbitrary-offers'
import { anyVisitor } from '../../tests/support/arbitrary-rules'
import { anyAddress, anyTax } from '../../tests/support/arbitrary-tax'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import type { Rulebook } from '../rulebook/rulebook'
import { Taxer } from '../tax/taxer'
import type { Visitor } from '../visitor/visitor'
import { basketReductions, quoteBasket, roundedFrom } from './basket-quote'

const world = wexlowCase('tax')
const noon = Date.parse('2026-06-10T10:00:00Z')
const deliveries = [
  { id: 'door', cost: { flat: 0 } },
  { id: 'post', cost: { flat: 500 } },
  { id: 'cart', cost: { byWeight: [{ upTo: 2000, cost: 333 }, { cost: 1299 }] } },
]
const deciderOf = (tax: Rulebook['tax'], visitor: Visitor) => {
  const { tax: _, ...rest } = world.book
  const book: Rulebook = { ...rest, deliveries, ...(tax ? { tax } : {}) }
  return new CompiledDecider(new CompiledRules(book, world.site), visitor, noon)
}

describe('a basket that is paid for', () => {
  it('costs to send what its way showed before it was chosen, whatever taxes there are', () => {
    let taxed = 0
    fc.assert(
      fc.property(anyTax(world), anyVisitor, anyLines(world), anyAddress, (tax, visitor, lines, sentTo) => {
        const decider = deciderOf(tax, visitor)
        const before = quoteBasket(decider, { lines, sentTo, when: 'pay' })
        expect([before.chosen, before.ways.length]).toEqual([null, before.sent ? deliveries.length : 0])
        for (const { id, cost, shows } of before.ways) {
          const after = quoteBasket(decider, { lines, sentTo, delivery: id, when: 'pay' })
          expect([after.chosen?.id, after.receipt.delivery]).toEqual([id, shows])
          expect(after.basket).toEqual(new Taxer(decider).basket({ lines, sentTo, delivery: cost }))
          if (shows > cost) taxed++
        }
      }),
      { numRuns: 200 },
    )
    expect(taxed).toBeGreaterThan(0)
  })

  it('tells why it costs less, and what lines are reckoned on where a price shows rounded', () => {
    const [product] = world.site.products!.filter(one => one.price !== undefined && one.of === undefined)
    const tax: Rulebook['tax'] = {
      settings: { typed: 'withTax', origin: { country: 'IE' }, shown: { basket: 'withoutTax', pay: 'withTax' } },
      taxes: [{ id: 'vat' }],
      rates: [{ id: 'all', tax: 'vat', place: {}, category: 'standard', percent: '23' }],
    }
    const offers: Rulebook['offers'] = [
      { id: 'some', on: { shop: true }, by: 'product', bands: [{ from: 3, off: { percent: '10' } }] },
      { id: 'big', on: { shop: true }, by: 'spend', bands: [{ off: { percent: '4' } }] },
    ]
    const priced = { ...product!, price: 690, sale: undefined, taxCategory: 'standard' }
    const site = { ...world.site, products: [priced] }
    const decider = new CompiledDecider(
      new CompiledRules({ bravik: 'rulebook/1', tax, offers }, site as typeof world.site),
      {},
      noon,
    )
    const lines = [{ product: priced.id, quantity: 4 }]
    const quote = quoteBasket(decider, { lines })
    expect(basketReductions(quote.basket, decider.rules)).toEqual({
      lines: [[{ is: 'percent', percent: '10', from: 3 }]],
      basket: { is: 'percent', percent: '4' },
    })
    // 6.21 with tax are 5.0488 without: four of them are not four times 5.05.
    expect([roundedFrom(decider, quote), quote.receipt.lines[0]]).toMatchObject([[621], { each: 505, amount: 2020 }])
    expect(roundedFrom(decider, quoteBasket(decider, { lines, when: 'pay' }), 'pay')).toEqual([null])
  })
})
