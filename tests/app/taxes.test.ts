import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import DraftStrip from '~/loft/kit/publish/DraftStrip.vue'
import Taxes from '~/loft/shop/taxes/Taxes.vue'
import { addressText, readAddressText, readBasket } from '~/loft/shop/kit/receipt-basket'
import { placeName } from '~~/core/sentences/place-name'
import { readPercent, readPlace } from '~/loft/shop/kit/tax-words'
import { useLoft } from '~/loft/core/loft'
import { mountScreen } from './loft-screen'

const answers = { 'GET taxes/counted': { sentTo: { NO: 12 }, changedAt: {} } }
async function taxes() {
  const screen = await mountScreen(Taxes, { answers })
  await flushPromises()
  // The way of delivery is chosen once the first receipts are there, and they are made anew.
  await vi.waitFor(() => expect(receipts()[1] ?? '').toContain('delivery free of it'), { timeout: 5000 })
  await flushPromises()
  return screen
}

describe('taxes', () => {
  it('reads places and percentages as people write them, and nothing else', () => {
    expect([readPlace('Spain postcodes 35, 38'), readPlace('us-or'), readPlace('es'), readPlace('anywhere')]).toEqual([
      { country: 'ES', startsWith: ['35', '38'] },
      { country: 'US', region: 'US-OR' },
      { country: 'ES' },
      {},
    ])
    expect([readPlace(''), readPlace('Atlantis'), readPlace('Spain 35')]).toEqual([null, null, null])
    for (const place of [{}, { country: 'ES', startsWith: ['35', '38'] }, { country: 'US', region: 'US-OR' }])
      expect(readPlace(placeName(place))).toEqual(place)
    expect(['23', '13,5 %', '13.50', '0', '7 %'].map(readPercent)).toEqual(['23', '13.5', '13.5', '0', '7'])
    expect(['', '-1', 'x', '1.23456', '10001', '1e3'].map(readPercent)).toEqual([null, null, null, null, null, null])
  })

  it('reads a basket and where it is sent as they are typed, and says what there is not', () => {
    const goods = [{ id: 'fell-dk', title: 'Fell DK, 50 g' }, { id: 'niddy-noddy' }]
    expect(readBasket(' 2 fell dk; niddy-noddy ;', goods)).toEqual([
      { product: 'fell-dk', quantity: 2 },
      { product: 'niddy-noddy', quantity: 1 },
    ])
    expect(['', '3 loom', '0 niddy-noddy'].map(text => readBasket(text, goods))).toEqual([
      null,
      { unknown: 'loom' },
      { unknown: 'niddy-noddy' },
    ])
    for (const at of [{ country: 'ES', postcode: '35001' }, { country: 'US', region: 'US-OR' }, { country: 'IE' }])
      expect(readAddressText(addressText(at))).toEqual(at)
    expect(readAddressText('Atlantis 7')).toBeNull()
  })

  it('tells before it is published what a change does to taxes and to how prices show', async () => {
    const { press, text, loft } = await mountScreen(DraftStrip, { answers })
    const { rates, shown } = loft.draft.tax!
    loft.change('rate', 'ie-standard', { ...rates!.find(one => one.id === 'ie-standard')!, percent: '24' })
    loft.change('shown', 'trade-prices', { ...shown![0]!, list: 'withTax' })
    await vi.waitFor(() => expect(text()).toContain('taxes of 9 tiers'), { timeout: 5000 })
    await press('Publish edition 2…')
    await vi.waitFor(() => expect(text()).toContain('Taxes move for 9 of 9 tiers'), { timeout: 5000 })
    expect(text()).toContain(
      'Ireland, delivery: VAT 23 % to VAT 24 %, so that 100.00 come to 124.00 instead of 123.00.',
    )
    expect(text()).toContain('Prices show otherwise to Stockist: in lists with tax.')
  })

  it('shows two receipts beside each other, with what makes the difference and where it is said', async () => {
    const { press, text } = await taxes()
    const [guest, school] = receipts()
    expect(guest).toContain('of which VAT 23 %3.73')
    expect(school).toContain('School rate 9 %0.93')
    expect(school).toContain('4.22 less than Guest: 1.62 less by For classrooms')
    expect(school).toContain('1.45 less of tax by School rate')
    expect(school).toContain('1.15 less of tax on delivery by School rate')
    await press('Show School rate')
    expect(document.querySelector('[data-term="exception school-rate"]')!.className).toContain('!border-ink')
    expect(text()).toContain('findings')
  })

  it('types a rate in place, begins one for a place, and refuses what is no percentage', async () => {
    const { press, type, text } = await taxes()
    const loft = useLoft()
    const rate = () => loft.draft.tax!.rates!.find(one => one.id === 'ie-standard')!.percent
    await press('23 %: standard, Ireland')
    await type('VAT on standard, Ireland', 'lots')
    expect([text().includes('“lots” is no percentage'), rate()]).toEqual([true, '23'])
    await type('VAT on standard, Ireland', '24,5')
    expect(rate()).toBe('24.5')
    await type('A place with rates of its own', 'Norway')
    document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
    expect(loft.draft.tax!.rates!.at(-1)).toMatchObject({
      tax: 'vat',
      place: { country: 'NO' },
      category: 'standard',
      percent: '0',
    })
    expect([...document.querySelectorAll('tbody th')].map(one => one.textContent!.trim())).toContain('Norway')
  })

  it('says other terms from a figure of a receipt, which change nothing before they are changed', async () => {
    const { press, type } = await taxes()
    const loft = useLoft()
    await press('of which VAT 23')
    const made = loft.draft.tax!.exceptions!.at(-1)!
    expect(made).toEqual({ id: made.id, for: { signedIn: false }, rate: 'ie-standard', percent: '23' })
    await type('Percentage of terms for guests', '5')
    expect(loft.draft.tax!.exceptions!.at(-1)!.percent).toBe('5')
    // What it is reckoned on is the rate's, until it says so itself; then on nothing, or on what is ticked.
    const onTopOf = () => loft.draft.tax!.exceptions!.at(-1)!.onTopOf
    expect(onTopOf()).toBeUndefined()
    await type('Which taxes it is on top of', 'own')
    expect(onTopOf()).toEqual([])
    await press('Wool levy')
    expect(onTopOf()).toEqual(['wool-levy'])
    await type('Which taxes it is on top of', '')
    expect(onTopOf()).toBeUndefined()
    await press('2 × Fell DK')
    expect(loft.draft.tax!.goods!.at(-1)).toMatchObject({ for: { signedIn: false }, on: { products: ['fell-dk'] } })
  })
})

const receipts = () => [...document.querySelectorAll('article')].map(one => one.textContent!.replaceAll(/\s+/g, ' '))
