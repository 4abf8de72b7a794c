import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readMoney } from '../money'
import { changedPrice, readPriceChange } from './price-change'

const read = (typed: string) => readPriceChange(typed, text => readMoney(text, 'EUR'))

describe('one change of many prices', () => {
  it('is read as it is typed', () => {
    expect(['+5 %', '-7,5%', '−10 %', '-0.50', '+ 2', '12.90', '5 %'].map(read)).toEqual([
      { percent: '5' },
      { percent: '-7.5' },
      { percent: '-10' },
      { amount: -50 },
      { amount: 200 },
      { price: 1290 },
      { percent: '5' },
    ])
    expect(['', '%', 'a lot', '-', '1.234', '--5', '5 % off', '1e3 %'].map(read)).toEqual(Array(8).fill(null))
  })

  it('is exact, rounds half up, and ends where it is told to', () => {
    expect(changedPrice(690, { percent: '5' })).toBe(725)
    expect(changedPrice(690, { percent: '-7.5' }, 5)).toBe(640)
    expect(changedPrice(1, { percent: '50' })).toBe(2)
    expect(changedPrice(690, { amount: -700 })).toBe(0)
    expect(changedPrice(690, { price: 999 }, 5)).toBe(999)
  })

  it('by more is never less, and by nothing is the same', () => {
    const price = fc.nat(10_000_000)
    fc.assert(
      fc.property(price, price, fc.integer({ min: -100, max: 400 }), (a, b, percent) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)]
        const change = { percent: String(percent) }
        expect(changedPrice(low, change)).toBeLessThanOrEqual(changedPrice(high, change))
        expect(changedPrice(a, { percent: '0' })).toBe(a)
        expect(changedPrice(a, { amount: 0 })).toBe(a)
      }),
    )
  })
})
