import { describe, expect, it } from 'vitest'
import { wexlowCase } from '../../../tests/support/wexlow-case'
import { CompiledRules } from '../../gates/compiled'
import type { Gate } from '../../rulebook/gate'
import type { Offer } from '../../rulebook/shop-rules'
import type { Product } from '../../kinds/product'
import { findingGroups, findingsOf } from './findings'
import type { FindingCode } from './findings'
import type { FindingAsk } from './finding'

const world = wexlowCase('prices')
const nowMs = Date.parse('2026-06-10T10:00:00Z')
const guest = { id: 'guest', visitor: { person: null } }
const stockist = { id: 'stockist', visitor: { person: { id: 'p' }, roles: ['stockist'] } }
const tiers = [guest, stockist]
interface Given extends Partial<FindingAsk> {
  offers?: Offer[]
  gates?: Gate[]
  products?: Product[]
}
/** Places and tiers of what is found of one sort. */
function found(code: FindingCode, { offers = [], gates = [], products = [], ...ask }: Given) {
  const site = { ...world.site, products: [...world.site.products!, ...products] }
  const rules = new CompiledRules({ ...world.book, offers, gates }, site)
  return findingsOf({ rules, tiers, nowMs, ...ask }, findingGroups.prices)
    .filter(one => one.code === code)
    .map(({ place, tier, facts }) => [place.key, tier, facts])
}
const percent = (id: string, off: number, more: Partial<Offer> = {}): Offer => ({
  id,
  on: { products: ['niddy'] },
  bands: [{ off: { percent: off } }],
  ...more,
})
const trade = { role: { anyOf: ['stockist'] } }

describe('findings about prices', () => {
  it('name what a tier pays more for than a guest', () => {
    const offers = [percent('guests', 20, { for: { signedIn: false } })]
    expect(found('pays-more', { offers })).toEqual([['niddy', 'stockist', { pays: 2505, guest: 2004 }]])
    expect(
      found('pays-more', { offers, gates: [{ id: 'g', on: { product: 'niddy' }, price: { signedIn: true } }] }),
    ).toEqual([])
  })

  it('name what is sold under cost, as far as costs may be known', () => {
    const offers = [percent('terms', 40, { for: trade })]
    const costs = new Map([
      ['niddy', 1600],
      ['bobbin', 450],
    ])
    expect(found('under-cost', { offers, costs })).toEqual([['niddy', 'stockist', { price: 1503, cost: 1600 }]])
    expect(found('under-cost', { offers })).toEqual([])
  })

  it('name what costs nothing, by its price or by what is taken off', () => {
    const products = [{ id: 'free', categories: [], price: 0 }]
    expect(found('free-goods', { products, offers: [percent('all', 100, { for: trade })] })).toEqual([
      ['niddy', 'stockist', { regular: 2505 }],
      ['free', 'guest', { regular: 0 }],
    ])
  })

  it('name goods nobody sees', () => {
    const gates: Gate[] = [{ id: 'g', on: { category: 'kits' }, open: { nobody: true } }]
    expect(found('goods-unseen', { gates }).map(([key]) => key)).toEqual(['loom-kit', 'mending-kit'])
    const firm: Gate[] = [{ id: 'g', on: { category: 'kits' }, open: { firm: { in: ['gullhaven'] } } }]
    expect([found('goods-unseen', { gates: firm }), found('goods-unseen', {})]).toEqual([[], []])
  })

  it('name a product of two categories with different gates, and who meets the stricter', () => {
    const gates: Gate[] = [{ id: 'g', on: { category: 'tools' }, take: { signedIn: true } }]
    expect(found('categories-differ', { gates })).toEqual([['loom-kit', 'guest', { categories: ['kits', 'tools'] }]])
    const both: Gate[] = [{ id: 'g', on: { kind: 'product' }, take: { signedIn: true } }]
    expect(found('categories-differ', { gates: both })).toEqual([])
  })

  it('name an offer nobody can ever get, and none that somebody outside the tiers gets', () => {
    const offers = [
      percent('over', 5, { for: { date: { until: '2026-01-31' } } }),
      percent('never', 5, { for: { all: [{ signedIn: true }, { signedIn: false }] } }),
      percent('classroom', 5, { for: { role: { anyOf: ['classroom'] } } }),
      percent('soon', 5, { for: { date: { from: '2026-09-01' } } }),
      percent('off', 5, { for: { nobody: true }, active: false }),
    ]
    expect(found('offer-for-nobody', { offers }).map(([key]) => key)).toEqual(['over', 'never'])
  })

  it('name an offer that never wins, not one that wins at a later step', () => {
    const offers = [
      percent('better', 10),
      percent('worse', 5, { for: trade }),
      percent('later', 12, { by: 'product', bands: [{ from: 5, off: { percent: 12 } }] }),
    ]
    expect(found('offer-never-wins', { offers })).toEqual([['worse', 'stockist', {}]])
  })

  it('name two offers that come to the same wherever both are to be had', () => {
    const offers = [percent('a', 10), percent('b', 10, { for: trade }), percent('c', 11)]
    expect(found('offers-tie', { offers })).toEqual([['a', 'stockist', { other: 'b' }]])
    expect(
      found('offers-tie', {
        offers: [
          percent('a', 10, { on: { shop: true } }),
          percent('b', 0, { on: { shop: true }, bands: [{ off: { amount: 45 } }] }),
        ],
      }),
    ).toEqual([])
  })

  it('name a hole between two steps', () => {
    const bands = [
      { to: 4, off: { percent: 5 } },
      { from: 10, off: { percent: 10 } },
    ]
    expect(found('band-hole', { offers: [percent('o', 0, { by: 'product', bands })] })).toEqual([
      ['o', 'guest', { from: 5, to: 9 }],
    ])
    const closed = [
      { to: 9, off: { percent: 5 } },
      { from: 10, off: { percent: 10 } },
    ]
    expect(found('band-hole', { offers: [percent('o', 0, { by: 'product', bands: closed })] })).toEqual([])
  })

  it('name a set price that a sale goes under, or that goes under a sale', () => {
    const set = (price: number): Offer => ({
      id: 'set',
      on: { products: ['fleece-roll'] },
      bands: [{ off: { price } }],
    })
    const facts = { product: 'fleece-roll', sale: 2400 }
    expect(found('set-price-and-sale', { offers: [set(2600)] })).toEqual([['set', 'guest', { ...facts, set: 2600 }]])
    expect(found('set-price-and-sale', { offers: [set(2000)] })).toEqual([['set', 'guest', { ...facts, set: 2000 }]])
    expect(found('set-price-and-sale', { offers: [{ ...set(2000), base: 'unlessOnSale' }] })).toEqual([])
  })

  it('name a role that promises prices and has the stock alone', () => {
    const roles = [{ id: 'prices', name: 'Stock and prices', staff: true }]
    const rules = new CompiledRules({ ...world.book, roles }, world.site)
    const rule = (kind: 'stock' | 'prices') => ({ role: 'prices', kind, actions: ['look' as const, 'change' as const] })
    const of = (staffRules: FindingAsk['staffRules']) =>
      findingsOf({ rules, tiers, nowMs, ...(staffRules ? { staffRules } : {}) }, ['stock-without-price']).length
    expect([of([rule('stock')]), of([rule('stock'), rule('prices')]), of(undefined)]).toEqual([1, 0, 0])
  })
})
