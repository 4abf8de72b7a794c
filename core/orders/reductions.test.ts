import { describe, expect, it } from 'vitest'
import type { Offer } from '../rulebook/shop-rules'
import { basketReduction, lineReductions } from './reductions'

const offers: Offer[] = [
  {
    id: 'trade',
    name: 'What nobody is to read',
    on: { shop: true },
    by: 'product',
    bands: [
      { from: 1, to: 9, off: { percent: '5.50' } },
      { from: 10, off: { percent: '15' } },
    ],
  },
  { id: 'third', on: { shop: true }, bonus: { buy: 2, get: 1 }, bands: [{ off: { percent: 100 } }], code: 'THIRD' },
  { id: 'big', on: { shop: true }, by: 'spend', bands: [{ from: 18_000, off: { percent: '4' } }] },
  { id: 'fixed', on: { shop: true }, bands: [{ off: { price: 300 } }] },
]
const step = (offer: string, band?: number, outcome: 'applied' | 'beaten' = 'applied') => ({
  offer,
  outcome,
  ...(band === undefined ? {} : { band }),
})
const line = (steps: ReturnType<typeof step>[], more: object = {}) => ({
  unit: 400,
  regular: 500,
  steps,
  offers: steps.filter(one => one.outcome === 'applied').map(one => one.offer),
  ...more,
})

describe('why something costs less', () => {
  it('is said in figures, by the step that holds, and never by the name of an offer', () => {
    expect(lineReductions(line([step('trade', 1), step('fixed', undefined, 'beaten')]), offers)).toEqual([
      { is: 'percent', percent: '15', from: 10 },
    ])
    expect(lineReductions(line([step('trade', 0), step('third')]), offers)).toEqual([
      { is: 'percent', percent: '5.5' },
      { is: 'bonus', bonus: { buy: 2, get: 1 }, code: 'THIRD' },
    ])
    expect(lineReductions(line([step('fixed')]), offers)).toEqual([{ is: 'price' }])
  })

  it('is the sale, while it runs and nothing lower holds', () => {
    const sale = { price: 400, runs: true }
    expect(lineReductions(line([], { sale }), offers)).toEqual([{ is: 'sale' }])
    expect(lineReductions(line([step('fixed')], { sale }), offers)).toEqual([{ is: 'price' }])
    expect(lineReductions(line([], { sale: { ...sale, runs: false } }), offers)).toEqual([])
    expect(lineReductions(line([], { sale, unit: 500 }), offers)).toEqual([])
  })

  it('of a basket is told once, with the sum it begins at', () => {
    const lines = [line([step('trade', 1), step('big', 0)]), line([step('big', 0)])]
    expect(basketReduction(lines, offers)).toEqual({ is: 'percent', percent: '4', fromSum: 18_000 })
    expect(lineReductions(lines[1]!, offers)).toEqual([])
    expect(basketReduction([line([step('trade', 1)])], offers)).toBeNull()
  })
})
