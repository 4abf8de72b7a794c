import { describe, expect, it } from 'vitest'
import { deliveryTrailLines, taxTrailLines } from './tax-words'

const at = { country: 'ES', postcode: '35001' }
const vat = { rate: 'es-vat', tax: 'vat', called: 'VAT', percent: '7', contribution: '7', onTopOf: [] }
const levy = {
  rate: 'es-levy',
  tax: 'levy',
  called: 'Wool levy',
  percent: '1',
  contribution: '1.07',
  onTopOf: ['es-vat'],
  exception: 'school',
}
const names = {
  term: (id: string) => `terms ${id}`,
  rate: (id: string) => `rate ${id}`,
}

describe('the words of a tax trail', () => {
  it('say what applied and what was left out, and by whose terms, with names or by id', () => {
    const leftOut = [{ rate: 'es-fee', tax: 'fee', why: 'dropped' as const, exception: 'school' }]
    const goods = { goodsTaxed: { is: true }, deliveryTaxed: { is: true }, category: { is: 'books', entry: 'g' } }
    const trail = { ...goods, at, applied: [vat, levy], leftOut, inside: '7', kept: false }
    expect(taxTrailLines(trail, names)).toEqual([
      'books (by terms g), sent to ES 35001',
      'VAT 7 %',
      'Wool levy 1 %, on top of VAT: 1.07 % in all (by terms school)',
      'rate es-fee does not apply (by terms school)',
      '7 % of tax taken out of what was typed',
    ])
    expect(taxTrailLines({ ...trail, goodsTaxed: { is: false, entry: 'g' } })).toEqual(['not taxed (by g)'])
  })

  it('say it of delivery', () => {
    const leftOut = [{ rate: 'es-vat', tax: 'vat', why: 'deliveryFree' as const }]
    expect(deliveryTrailLines({ at, applied: [], leftOut }, names)).toEqual([
      'delivery, sent to ES 35001',
      'delivery is free of rate es-vat',
    ])
    expect(deliveryTrailLines({ at, applied: [], leftOut: [] })).toEqual([
      'delivery, sent to ES 35001',
      'no rate for it there',
    ])
    expect(deliveryTrailLines(null)).toEqual(['not taxed: nothing in it asks for it'])
  })
})
