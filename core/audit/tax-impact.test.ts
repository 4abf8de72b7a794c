import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyTax } from '../../tests/support/arbitrary-tax'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import type { Rulebook } from '../rulebook/rulebook'
import { goodsOf } from '../shop/priced-goods'
import { Taxer } from '../tax/taxer'
import { exampleAt, placesOf } from './tax-board'
import { taxImpact } from './tax-impact'

const { book, site } = wexlowCase('tax')
const tiers = [
  { id: 'guest', name: 'Guest', visitor: { person: null } },
  { id: 'stockist', name: 'Stockist', visitor: { person: { id: 's' }, roles: ['stockist'] } },
]
const nowMs = Date.parse('2026-06-10T10:00:00Z')
type Tax = NonNullable<Rulebook['tax']>
const rulesOf = (tax: Partial<Tax>, products = site.products) =>
  new CompiledRules({ ...book, tax: { ...book.tax, ...tax } }, { ...site, products })
const before = rulesOf({})
const forTrade = { role: { anyOf: ['stockist'] } }
const exception = (rest: object) => ({ exceptions: [{ id: 'e', for: forTrade, rate: 'ie-std', ...rest }] })
const told = (after: CompiledRules) => taxImpact(before, after, tiers, { nowMs })

describe('what a change does to taxes', () => {
  it('is nothing where nothing changes', () => {
    expect(told(rulesOf({}))).toEqual({ moved: 0, tiers: [], lower: 0, higher: 0, moves: [], shown: [] })
  })

  it('is told for whom, where and of how many goods, the largest first', () => {
    const { moved, tiers: whose, lower, higher, moves } = told(rulesOf(exception({ percent: '30', called: 'Trade' })))
    // Goods at the standard rate; those that are taxed for delivery only move not at all, and delivery does.
    expect([moved, whose, lower, higher]).toEqual([2, ['stockist'], 0, 2])
    expect(moves[0]).toEqual({
      tiers: ['stockist'],
      place: { country: 'IE' },
      of: null,
      before: { taxes: [{ called: 'VAT', percent: '20' }], gross: 12_000 },
      after: { taxes: [{ called: 'Trade', percent: '30' }], gross: 13_000 },
    })
    expect(moves[1]).toMatchObject({ of: { product: 'heather-dk' }, after: { gross: 10_833 } })
    const standard = site.products!.filter(one => {
      const own = one.of === undefined ? one : site.products!.find(({ id }) => id === one.of)!
      return own.taxCategory === 'standard' && own.goodsTaxed !== false && own.price !== undefined
    })
    expect(moves[1]!.of!.goods).toBe(standard.length)
  })

  it('counts another name that costs nobody more', () => {
    expect(told(rulesOf(exception({ called: 'Trade VAT' })))).toMatchObject({ moved: 2, lower: 0, higher: 0 })
  })

  it('sees goods taxed otherwise by themselves, wherever there are rates', () => {
    const products = site.products!.map(one => (one.id === 'bobbin' ? { ...one, taxCategory: 'reduced' } : one))
    const { tiers: whose, moves } = told(rulesOf({}, products))
    expect(whose).toEqual(['guest', 'stockist'])
    expect(new Set(moves.map(({ of }) => of && `${of.product} ${of.goods}`))).toEqual(new Set(['bobbin 1']))
  })

  it('tells whom prices show to otherwise', () => {
    const { moved, shown } = told(rulesOf({ shown: [{ id: 's', for: forTrade, list: 'withoutTax' }] }))
    expect([moved, shown.map(one => [one.tier, one.before.list, one.after.list])]).toEqual([
      0,
      [['stockist', 'withTax', 'withoutTax']],
    ])
  })

  it('agrees with asking of every product by itself', () => {
    const any = anyTax({ book, site })
    let seen = 0
    fc.assert(
      fc.property(any, any, (one, other) => {
        const [a, b] = [rulesOf(one), rulesOf(other)]
        const impact = taxImpact(a, b, tiers, { nowMs })
        const places = placesOf([...(one.rates ?? []), ...(other.rates ?? [])])
        const moves = tiers.flatMap(({ id, visitor }) => {
          const [x, y] = [a, b].map(rules => new Taxer(new CompiledDecider(rules, visitor, nowMs)))
          return (places.length ? places : [{}]).flatMap(place => {
            const at = exampleAt(place)
            return goodsOf(b.index).all.flatMap(product => {
              const said = [x, y].map(taxer => {
                const { applied, gross } = taxer!.taxesOn(product, 10_000, at)
                return JSON.stringify([applied.map(({ called, percent }) => [called, percent]), gross])
              })
              return said[0] === said[1] ? [] : [id]
            })
          })
        })
        seen += moves.length
        // All of it is kept only where it is little.
        const goods = impact.moves.reduce((sum, { of, tiers: whose }) => sum + (of?.goods ?? 0) * whose.length, 0)
        if (impact.moves.reduce((sum, { tiers: whose }) => sum + whose.length, 0) === impact.moved)
          expect(goods).toBe(moves.length)
        else expect(moves.length).toBeGreaterThanOrEqual(goods)
        for (const who of moves) expect(impact.tiers).toContain(who)
      }),
      { numRuns: 150 },
    )
    expect(seen).toBeGreaterThan(500)
  })
})
