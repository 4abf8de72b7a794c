import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { minorDigits, moneyWords, readMoney, typedMoney } from './money'

describe('money', () => {
  it('reads back what it wrote into a field, in any currency', () => {
    fc.assert(
      fc.property(fc.nat(10 ** 9), fc.constantFrom('EUR', 'JPY', 'KWD'), (minor, currency) => {
        expect(readMoney(typedMoney(minor, currency), currency)).toBe(minor)
      }),
    )
  })

  it.each([
    ['7,50', 'EUR', 750],
    ['7', 'EUR', 700],
    ['7', 'JPY', 7],
    ['7.5', 'JPY', null],
    ['1.005', 'EUR', null],
    ['-1', 'EUR', null],
    ['', 'EUR', null],
    [' ', 'EUR', null],
    ['six', 'EUR', null],
  ])('reads “%s” in %s as %s', (text, currency, minor) => {
    expect(readMoney(text, currency)).toBe(minor)
  })

  it('knows the minor unit and says amounts', () => {
    expect([minorDigits('EUR'), minorDigits('JPY'), moneyWords(8400, 'EUR'), moneyWords(500, 'JPY')]).toEqual([
      2,
      0,
      '€84.00',
      '¥500',
    ])
  })
})
