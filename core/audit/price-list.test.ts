import { describe, expect, it } from 'vitest'
import { wexlowSite } from '../../tests/support/wexlow-site'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import type { Visitor } from '../visitor/visitor'
import { priceList } from './price-list'

const rules = new CompiledRules(wexlowRulebook, wexlowSite)
const listOf = (visitor: Visitor) =>
  new Map(
    priceList(new CompiledDecider(rules, visitor, Date.parse('2026-11-27T10:00:00Z'))).rows.map(row => [
      row.product,
      row,
    ]),
  )

describe('a price list', () => {
  it('holds what somebody can buy, at what it costs them by quantity, variants in place of their product', () => {
    const list = listOf({ person: { id: 'p' }, roles: ['stockist'] })
    expect(list.get('fell-dk-madder')).toEqual({
      product: 'fell-dk-madder',
      category: 'yarn',
      title: 'Fell DK, 50 g',
      variant: 'madder',
      // As stockists read them: without the 23 % a typed price holds.
      regular: 561,
      onSale: false,
      steps: [
        { from: 1, unit: 379 },
        { from: 10, unit: 345 },
        { from: 50, unit: 309 },
      ],
      note: 'plus VAT',
    })
    expect(list.has('fell-dk')).toBe(false)
    expect(list.get('cone-dk')).toMatchObject({ steps: [{ from: 1, unit: 8455 }] })
  })

  it('leaves out what is not sold to them, or whose price they are not told', () => {
    const list = listOf({ person: null })
    expect(['cone-dk', 'woad-vat', 'reserve-7', 'gullhaven-dk', 'wheel-hire'].filter(id => list.has(id))).toEqual([])
    expect(list.get('harbour-aran')).toMatchObject({ onSale: true, regular: 1200, steps: [{ from: 1, unit: 960 }] })
  })
})
