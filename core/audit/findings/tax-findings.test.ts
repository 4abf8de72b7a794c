import { describe, expect, it } from 'vitest'
import { wexlowCase } from '../../../tests/support/wexlow-case'
import { CompiledRules } from '../../gates/compiled'
import type { Rulebook } from '../../rulebook/rulebook'
import type { FindingAsk } from './finding'
import { findingGroups, findingsOf } from './findings'
import type { FindingCode } from './findings'

const { book, site } = wexlowCase('tax')
const tiers = [
  { id: 'guest', visitor: { person: null } },
  { id: 'maker', visitor: { person: { id: 'm' }, levels: [{ level: 'maker', since: '2026-01-01T00:00:00Z' }] } },
  { id: 'stockist', visitor: { person: { id: 's' }, roles: ['stockist'] } },
]
const nowMs = Date.parse('2026-06-10T10:00:00Z')
type Tax = NonNullable<Rulebook['tax']>
function found(code: FindingCode, tax: Partial<Tax>, more: Partial<FindingAsk> = {}, rest: Partial<Rulebook> = {}) {
  const rules = new CompiledRules({ ...book, ...rest, tax: { ...book.tax, ...tax } }, site)
  return findingsOf({ rules, tiers, nowMs, ...more }, [code]).map(({ place, tier, facts }) => [
    `${place.kind} ${place.key}`,
    tier,
    facts,
  ])
}
const trade = { role: { anyOf: ['stockist'] } }

describe('findings about taxes', () => {
  it('are none for rates alone, where what is shown is what is paid', () => {
    const rules = new CompiledRules(book, site)
    expect(findingsOf({ rules, tiers, nowMs }, findingGroups.taxes)).toEqual([])
  })

  it('name a country that was sent to, or can be chosen, and has no rate of its own', () => {
    const deliveries = [
      { id: 'post', to: [{ country: 'IE' }, { country: 'IS' }], cost: { flat: 1 } },
      { id: 'off', active: false, to: [{ country: 'JP' }], cost: { flat: 1 } },
    ]
    const ask = {
      sentTo: new Map([
        ['NO', 12],
        ['FR', 3],
      ]),
    }
    expect(found('place-without-rate', {}, ask, { deliveries })).toEqual([
      ['tax-settings site', 'guest', { country: 'IS', orders: 0 }],
      ['tax-settings site', 'guest', { country: 'NO', orders: 12 }],
    ])
    // Of parts of a country alone, unless some rate is for anywhere else.
    const parts = [
      { country: 'NO', startsWith: ['9'] },
      { country: 'IS', region: 'IS-1' },
    ]
    const rates = parts.map((place, i) => ({ id: `r${i}`, tax: 'vat', place, category: 'standard', percent: '5' }))
    expect(found('place-without-rate', { rates }, ask, { deliveries })).toContainEqual([
      'tax-settings site',
      'guest',
      { country: 'NO', orders: 12, partly: true },
    ])
    const anywhere = { ...rates[0]!, id: 'r2', place: {} }
    expect(
      found('place-without-rate', { rates: [...rates, anywhere] }, ask, { deliveries }).map(([, , facts]) => facts),
    ).not.toContainEqual(expect.objectContaining({ partly: true }))
    const settings = { ...book.tax!.settings!, place: 'origin' as const }
    expect(found('place-without-rate', { settings }, ask, { deliveries })).toEqual([])
  })

  it('tell of prices without tax that private people read at home, not of the trade’s', () => {
    expect(found('private-without-tax', { shown: [{ id: 's', for: trade, list: 'withoutTax' }] })).toEqual([])
    const all = [{ id: 's', for: { signedIn: true }, list: 'withoutTax' as const, pay: 'withoutTax' as const }]
    expect(found('private-without-tax', { shown: all })).toEqual([['shown s', 'maker', { where: ['list', 'pay'] }]])
    const settings = { ...book.tax!.settings!, shown: { basket: 'withoutTax' as const } }
    expect(found('private-without-tax', { settings })).toEqual([
      ['tax-settings site', 'guest', { where: ['basket', 'pay'] }],
    ])
    expect(found('private-without-tax', { settings, rates: [] })).toEqual([])
  })

  it('tell of terms nobody gets', () => {
    const never = { all: [{ signedIn: true }, { signedIn: false }] }
    const exceptions = [
      { id: 'e', for: never, rate: 'ie-std', percent: '1' },
      { id: 'f', for: trade, rate: 'ie-std', percent: '1' },
      { id: 'off', active: false, for: never, rate: 'ie-std', percent: '1' },
    ]
    const goods = [{ id: 'g', for: { date: { until: '2026-06-01' } }, on: { shop: true as const }, goodsTaxed: false }]
    expect(found('terms-for-nobody', { exceptions, goods })).toEqual([
      ['exception e', 'guest', {}],
      ['goods g', 'guest', {}],
    ])
  })

  it('tell of terms that change nothing, or come after others that say it all', () => {
    const exceptions = [
      { id: 'same', for: trade, rate: 'ie-std', percent: '20.0' },
      { id: 'empty', for: { signedIn: true }, rate: 'ie-std' },
      { id: 'later', for: trade, rate: 'ie-std', percent: '9' },
      { id: 'named', for: { signedIn: true }, rate: 'fr-std', called: 'Other' },
      { id: 'none', for: { signedIn: true }, rate: 'ie-red', none: true },
    ]
    const goods = [
      { id: 'so', for: trade, on: { categories: ['yarn'] }, category: 'standard' },
      { id: 'other', for: trade, on: { categories: ['dye-plants'] }, category: 'standard' },
      { id: 'again', for: trade, on: { categories: ['dye-plants'] }, category: 'reduced' },
    ]
    const shown = [
      { id: 'as-ever', for: trade, list: 'withTax' as const },
      { id: 'new', for: trade, list: 'withoutTax' as const },
    ]
    const codes = found('terms-change-nothing', { exceptions, goods, shown })
    expect(codes.map(([place, , facts]) => [place, facts])).toEqual([
      ['exception same', {}],
      ['exception empty', {}],
      ['exception later', { by: 'same' }],
      ['goods so', {}],
      ['goods again', { by: 'other' }],
      ['shown as-ever', {}],
      ['shown new', { by: 'as-ever' }],
    ])
  })

  it('tell of delivery that is taxed otherwise than goods, for whom and by what', () => {
    const exceptions = [{ id: 'e', for: trade, rate: 'ie-std', percent: '9', delivery: 'free' as const }]
    expect(found('delivery-taxed-otherwise', { exceptions })).toEqual([
      ['exception e', 'stockist', { country: 'IE', goods: '9', delivery: '0' }],
    ])
    const rates = book.tax!.rates!.map(one => (one.id === 'pt-island' ? { ...one, delivery: 'free' as const } : one))
    expect(found('delivery-taxed-otherwise', { rates })).toEqual([
      ['rate pt-island', 'guest', { country: 'PT', goods: '16 + 4', delivery: '16' }],
    ])
  })

  it('mark a rate that was not written for a year', () => {
    const since = nowMs - 366 * 86_400_000
    const changedAt = new Map([
      ['rate ie-std', since],
      ['rate fr-std', nowMs - 1000],
    ])
    expect(found('rate-unchanged', {}, { changedAt })).toEqual([['rate ie-std', 'guest', { since }]])
  })

  it('tell of a price that ten times is not what ten are paid', () => {
    const settings = { ...book.tax!.settings!, typed: 'withoutTax' as const, shown: { list: 'withTax' as const } }
    const rates = book.tax!.rates!.map(one => (one.id === 'ie-std' ? { ...one, percent: '23' } : one))
    const told = found('rounding-differs', { settings, rates })
    expect(told.map(([, tier]) => tier)).toEqual(['guest', 'maker', 'stockist'])
    const [, , facts] = told[0] as [string, string, { shown: number; paid: number; quantity: number; products: number }]
    expect(Math.abs(facts.shown * facts.quantity - facts.paid)).toBeGreaterThan(1)
    expect(facts.products).toBeGreaterThan(1)
    // Typed and shown with tax, nothing is rounded.
    expect(found('rounding-differs', { rates })).toEqual([])
  })
})
