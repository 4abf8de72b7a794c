import { describe, expect, it } from 'vitest'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { Taxer } from '../tax/taxer'
import { exampleAt, taxBoard } from './tax-board'

const { book, site } = wexlowCase('tax')
const tiers = [
  { id: 'guest', name: 'Guest', visitor: { person: null } },
  { id: 'stockist', name: 'Stockist', visitor: { person: { id: 's' }, roles: ['stockist'] } },
]
const nowMs = Date.parse('2026-06-10T10:00:00Z')

describe('the tax board', () => {
  const exceptions = [
    { id: 'e', for: { role: { anyOf: ['stockist'] } }, rate: 'ie-std', percent: '9', called: 'Trade rate' },
    { id: 'd', for: { role: { anyOf: ['stockist'] } }, rate: 'fr-std', delivery: 'free' as const },
  ]
  const rules = new CompiledRules({ ...book, tax: { ...book.tax, exceptions } }, site)
  const board = taxBoard(rules, tiers, { nowMs })
  const said = (list: typeof board.goods, at: number) =>
    list[at]!.applied.map(({ called, percent }) => `${called} ${percent}`).join(' + ')
  const row = (country: string) => board.places.findIndex(one => one.country === country && !one.region)

  it('has a row for each place, what lies in a country under it and anywhere at last', () => {
    expect(board.places).toEqual([
      { country: 'IE' },
      { country: 'FR' },
      { country: 'ES' },
      { country: 'ES', region: 'ES-CT' },
      { country: 'PT' },
      {},
    ])
    expect(board.categories).toEqual(['standard', 'reduced'])
  })

  it('says what each tier is taxed there, and for delivery', () => {
    const goods = (country: string, tier: number) => said(board.goods, row(country) * 4 + tier)
    expect([goods('IE', 0), goods('IE', 1)]).toEqual(['VAT 20', 'Trade rate 9'])
    expect(goods('PT', 1)).toBe('VAT 16 + Island levy 4')
    const delivery = (country: string, tier: number) => said(board.delivery, row(country) * 2 + tier)
    expect([delivery('FR', 0), delivery('FR', 1)]).toEqual(['VAT 19.5', ''])
  })

  it('says what is asked for one by one', () => {
    board.places.forEach((place, p) =>
      board.categories.forEach((category, c) =>
        tiers.forEach((tier, t) => {
          const taxer = new Taxer(new CompiledDecider(rules, tier.visitor, nowMs))
          expect(board.goods[(p * 2 + c) * 2 + t]).toEqual(taxer.ratesAt(category, exampleAt(place)))
        }),
      ),
    )
  })
})
