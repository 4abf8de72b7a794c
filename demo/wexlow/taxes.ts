/** What Wexlow Mill's goods are taxed where. Rates are illustrative, not those of any law. */
import type { Rulebook } from '../../core/rulebook/rulebook'

type Tax = NonNullable<Rulebook['tax']>
type Rate = NonNullable<Tax['rates']>[number]

/** Standard, reduced and books of one place. */
const ratesAt = (name: string, place: Rate['place'], percents: [string, string, string]): Rate[] =>
  (['standard', 'reduced', 'books'] as const).map((category, i) => ({
    id: `${name}-${category}`,
    tax: 'vat',
    place,
    category,
    percent: percents[i]!,
  }))

export const wexlowTax: Tax = {
  settings: {
    typed: 'withTax',
    origin: { country: 'IE', postcode: 'WX4 MILL' },
    place: 'destination',
    deliveryCategory: 'standard',
    shown: { list: 'withTax', basket: 'withTax', pay: 'withTax', taxLines: 'each', note: '' },
  },
  taxes: [
    { id: 'vat', name: 'VAT' },
    { id: 'wool-levy', name: 'Wool levy', note: 'Taken on what is paid, VAT included.', onTopOf: ['vat'] },
  ],
  rates: [
    ...ratesAt('ie', { country: 'IE' }, ['23', '13.5', '0']),
    ...ratesAt('es', { country: 'ES' }, ['21', '10', '4']),
    ...ratesAt('canaries', { country: 'ES', startsWith: ['35', '38'] }, ['7', '3', '0']),
    {
      id: 'canaries-wool',
      tax: 'wool-levy',
      place: { country: 'ES', startsWith: ['35', '38'] },
      category: 'standard',
      percent: '1',
      delivery: 'free',
    },
    ...ratesAt('de', { country: 'DE' }, ['19', '7', '7']),
    ...ratesAt('gb', { country: 'GB' }, ['20', '5', '0']),
    ...ratesAt('us-or', { country: 'US', region: 'US-OR' }, ['0', '0', '0']),
    ...ratesAt('else', {}, ['0', '0', '0']),
  ],
  exceptions: [
    {
      id: 'school-rate',
      name: 'School rate',
      note: 'Agreed for teaching, until the schools say otherwise.',
      for: { role: { anyOf: ['classroom'] } },
      rate: 'ie-standard',
      percent: '9',
      called: 'School rate',
      delivery: 'free',
    },
  ],
  goods: [
    {
      id: 'island-plants',
      name: 'Plants that stay on the island',
      for: { role: { anyOf: ['islander'] } },
      on: { categories: ['dye-plants'] },
      goodsTaxed: false,
    },
  ],
  shown: [
    {
      id: 'trade-prices',
      name: 'Trade reads prices without tax',
      for: { role: { anyOf: ['stockist'] } },
      list: 'withoutTax',
      basket: 'withoutTax',
      note: 'plus VAT',
    },
  ],
}
