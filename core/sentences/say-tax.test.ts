import { describe, expect, it } from 'vitest'
import type { Rulebook } from '../rulebook/rulebook'
import { lexiconOf } from './lexicon'
import { keptOfTerm, sayRate, sayTax, sayTaxSettings, sayTerm, termCalled } from './say-tax'

const canaries = { country: 'ES', startsWith: ['35', '38'] }
const tax: NonNullable<Rulebook['tax']> = {
  settings: { typed: 'withTax', origin: { country: 'IE' } },
  taxes: [
    { id: 'vat', name: 'VAT' },
    { id: 'levy', name: 'Wool levy', onTopOf: ['vat'] },
  ],
  rates: [
    { id: 'ie', tax: 'vat', place: { country: 'IE' }, category: 'standard', percent: '23' },
    { id: 'es', tax: 'vat', place: canaries, category: 'standard', percent: '7', delivery: 'free' },
  ],
  exceptions: [{ id: 'e', for: { signedIn: true }, rate: 'ie', percent: '9' }],
  goods: [
    { id: 'g', name: 'Island plants', for: { signedIn: true }, on: { categories: ['plants'] }, goodsTaxed: false },
  ],
}
const book: Rulebook = { bravik: 'rulebook/1', tax }
const lexicon = lexiconOf(book, {
  timezone: 'UTC',
  currency: 'EUR',
  categories: [{ id: 'plants', title: 'Dye plants' }],
})
const signedIn = { signedIn: true }

describe('terms of tax', () => {
  it('say what they change, with the names of rates and taxes', () => {
    const said = (one: object) =>
      sayTerm({ kind: 'exception', one: { id: 'e', for: signedIn, rate: 'ie', ...one } }, lexicon)
    expect(said({})).toBe('pay 23 % on standard in Ireland')
    expect(said({ percent: '9', called: 'School rate', delivery: 'free' })).toBe(
      'pay 9 % instead of 23 % on standard in Ireland, called School rate; delivery is not taxed',
    )
    expect(said({ onTopOf: ['levy'] })).toBe('pay 23 % on standard in Ireland, on top of Wool levy')
    expect(said({ onTopOf: [] })).toContain('on top of nothing')
    expect(said({ none: true, percent: '9' })).toBe('are not taxed, instead of 23 % on standard in Ireland')
    const goods = { id: 'g', for: signedIn, on: { categories: ['plants'] }, goodsTaxed: false, deliveryTaxed: true }
    expect(sayTerm({ kind: 'goods', one: goods }, lexicon)).toBe(
      'are not taxed for Dye plants, are taxed for sending Dye plants',
    )
    const shown = { id: 's', for: signedIn, list: 'withoutTax' as const, pay: 'withTax' as const, note: 'plus VAT' }
    expect(sayTerm({ kind: 'shown', one: shown }, lexicon)).toBe(
      'see prices without tax in lists, see prices with tax when paying, with the words “plus VAT”',
    )
  })

  it('say what they leave as it was', () => {
    const kept = (one: object, names = lexicon) =>
      keptOfTerm({ kind: 'exception', one: { id: 'e', for: signedIn, rate: 'ie', ...one } }, names)
    expect(kept({ percent: '9', called: 'School rate' })).toBe('delivery and what it is reckoned on as the rate says')
    // Where there is one tax, nothing can stand on top of it.
    const one = { ...lexicon, taxes: [{ id: 'vat', name: 'VAT' }] }
    expect(kept({ percent: '9', called: 'School rate', delivery: 'free' }, one)).toBe('')
    expect(kept({ none: true })).toBe('')
    expect(keptOfTerm({ kind: 'shown', one: { id: 's', for: signedIn, list: 'withTax', note: '' } }, lexicon)).toBe(
      'in the basket, when paying and taxes as for everybody',
    )
  })

  it('are called by whom they are for where nobody named them', () => {
    expect(['e', 'g', 'gone'].map(id => termCalled(tax, id, lexicon))).toEqual([
      'terms for signed-in visitors',
      'Island plants',
      'gone',
    ])
  })
})

describe('rates, settings and ways of delivery', () => {
  it('say everything they hold', () => {
    expect(tax.rates!.map(one => sayRate(one, lexicon))).toEqual([
      'VAT 23 % on standard in Ireland',
      'VAT 7 % on standard in Spain, postcodes 35, 38; delivery is not taxed',
    ])
    expect(tax.taxes!.map(one => sayTax(one, lexicon))).toEqual(['VAT', 'Wool levy, on top of VAT'])
    expect(sayTaxSettings(tax.settings!)).toBe('Prices typed with tax, at home in Ireland; taxed where they are sent')
    expect(
      sayTaxSettings({
        ...tax.settings!,
        place: 'origin',
        keepGross: true,
        deliveryCategory: 'reduced',
        shown: { list: 'withoutTax', taxLines: 'each' },
      }),
    ).toBe(
      'Prices typed with tax, at home in Ireland; taxed all at home; with tax the same everywhere; delivery as reduced; all see prices without tax in lists with taxes told each',
    )
  })
})
