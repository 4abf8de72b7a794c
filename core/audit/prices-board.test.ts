import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyOffers } from '../../tests/support/arbitrary-offers'
import { anyGates } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { RuleSet } from '../gates/rule-set'
import type { Offer } from '../rulebook/shop-rules'
import { PlainPricing } from '../shop/plain-pricing'
import { SiteIndex } from '../site/site-index'
import { priceImpact, pricesBoard } from './prices-board'
import type { PricesBoard } from './prices-board'

const world = wexlowCase('prices')
const index = new SiteIndex(world.site)
const nowMs = Date.parse('2026-06-10T10:00:00Z')
const tiers = [
  { id: 'guest', name: 'Guest', visitor: { person: null } },
  { id: 'stockist', name: 'Stockist', visitor: { person: { id: 'p' }, roles: ['stockist'] } },
  {
    id: 'guild',
    name: 'Guild',
    visitor: { person: { id: 'q' }, levels: [{ level: 'guild', since: '2026-01-01T00:00:00Z' }] },
  },
]
const boardOf = (offers: Offer[], before?: PricesBoard, quantity = 1, site = index) =>
  pricesBoard(new CompiledRules({ ...world.book, offers }, site), tiers, { quantity, nowMs }, before)
const percent = (id: string, off: number, more: Partial<Offer> = {}): Offer => ({
  id,
  on: { categories: ['tools'] },
  bands: [{ off: { percent: off } }],
  ...more,
})

describe('the prices board', () => {
  it('equals the single quotes of the plain reading, and the rights of the gates', () => {
    fc.assert(
      fc.property(anyOffers(world), anyGates(world), fc.integer({ min: 1, max: 12 }), (offers, gates, quantity) => {
        const book = {
          ...world.book,
          offers,
          gates: gates.filter(gate => 'product' in gate.on || 'category' in gate.on),
        }
        const rules = new CompiledRules(book, index)
        const board = pricesBoard(rules, tiers, { quantity, nowMs })
        tiers.forEach(({ visitor }, t) => {
          const plain = new PlainPricing(new RuleSet(book, index), visitor, nowMs)
          const decider = new CompiledDecider(rules, visitor, nowMs)
          board.products.forEach(({ id }, p) => {
            expect(board.units[p * tiers.length + t]).toBe(plain.price(id, quantity)!.unit)
            expect(board.bits[p * tiers.length + t]).toBe(decider.bits({ kind: 'product', id }))
          })
        })
      }),
      { numRuns: 100 },
    )
  })

  it('is the same when it is made from an earlier one, whatever was changed', () => {
    fc.assert(
      fc.property(anyOffers(world), anyOffers(world), fc.nat(3000), fc.nat(9), (before, after, price, at) => {
        const products = world.site.products!.map((one, i) => (i === at ? { ...one, price } : one))
        const site = new SiteIndex({ ...world.site, products })
        const mixed = [
          ...before.filter((_, i) => i % 2),
          ...after.filter(one => !before.some(({ id }, i) => i % 2 && id === one.id)),
        ]
        for (const [offers, on] of [
          [mixed, index],
          [mixed, site],
          [before, site],
        ] as const)
          expect(boardOf([...offers], boardOf(before), 1, on).units).toEqual(
            boardOf([...offers], undefined, 1, on).units,
          )
      }),
      { numRuns: 150 },
    )
  })

  it('works out only what an edit touches', () => {
    const before = boardOf([percent('a', 5), percent('b', 10, { on: { categories: ['yarn'] } })])
    const tools = before.products.filter(one => ['bobbin', 'niddy', 'loom-kit'].includes(one.id)).length
    expect(boardOf([percent('a', 6), percent('b', 10, { on: { categories: ['yarn'] } })], before).worked).toBe(tools)
    expect(boardOf([percent('b', 10, { on: { categories: ['yarn'] } })], before).worked).toBe(tools)
    expect(boardOf([percent('a', 5), percent('b', 10, { on: { categories: ['yarn'] } })], before).worked).toBe(0)
  })
})

describe('what a change does to prices', () => {
  it('counts what moves for whom, and who pays more', () => {
    const before = boardOf([percent('a', 10, { for: { signedIn: true } })])
    const after = boardOf([percent('a', 4, { for: { role: { anyOf: ['stockist'] } } })])
    const impact = priceImpact(before, after)
    expect(impact).toMatchObject({ moved: 6, products: 3, lower: 0, higher: 6, byTier: { stockist: 3, guild: 3 } })
    expect(impact.pays[0]).toEqual({ product: 'loom-kit', tier: 'guild', before: 10_800, after: 12_000 })
    expect(impact.largest).toMatchObject({ tier: 'guild' })
    expect(priceImpact(after, before, new Map([['bobbin', 410]])).underCost).toEqual(
      [
        { product: 'bobbin', tier: 'guild', before: 450, after: 405, cost: 410 },
        { product: 'bobbin', tier: 'stockist', before: 432, after: 405, cost: 410 },
      ].reverse(),
    )
    expect(priceImpact(before, before)).toEqual({
      moved: 0,
      products: 0,
      lower: 0,
      higher: 0,
      pays: [],
      underCost: [],
      byTier: {},
    })
  })

  it('leaves out what a tier is not told', () => {
    const gates = [{ id: 'g', on: { category: 'tools' }, price: { role: { anyOf: ['stockist'] } } }]
    const make = (offers: Offer[]) =>
      pricesBoard(new CompiledRules({ ...world.book, gates, offers }, index), tiers, { nowMs })
    expect(priceImpact(make([]), make([percent('a', 10)])).byTier).toEqual({ stockist: 3 })
  })
})
