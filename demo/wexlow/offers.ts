/** What Wexlow Mill asks of whom: every way there is of lowering a price, once. All figures are made up. */
import type { Offer } from '../../core/rulebook/shop-rules'

export const wexlowOffers: Offer[] = [
  {
    id: 'stockist-yarn',
    name: 'Stockist terms on yarn',
    note: 'Counted over all colours. Off the regular price, so that a sale is never taken off twice.',
    for: { role: { anyOf: ['stockist'] } },
    on: { categories: ['yarn'] },
    by: 'product',
    base: 'regular',
    bands: [
      { from: 1, to: 9, off: { percent: '32.5' } },
      { from: 10, to: 49, off: { percent: '38.5' } },
      { from: 50, off: { percent: 45 } },
    ],
  },
  {
    id: 'stockist-tools',
    name: 'Stockist terms on tools',
    for: { role: { anyOf: ['stockist'] } },
    on: { categories: ['tools'] },
    bands: [{ off: { percent: 40 } }],
  },
  {
    id: 'stockist-basket',
    name: 'Stockist basket',
    for: { role: { anyOf: ['stockist'] } },
    on: { shop: true },
    by: 'spend',
    bands: [
      { from: 18_000, to: 44_999, off: { percent: 4 } },
      { from: 45_000, off: { percent: '6.5' } },
    ],
  },
  {
    id: 'guild-standing',
    name: 'Guild standing',
    for: { level: { atLeast: 'guild' } },
    on: { shop: true },
    bands: [{ off: { percent: 8 } }],
  },
  {
    id: 'maker-standing',
    name: 'Maker standing',
    for: { level: { atLeast: 'maker' } },
    on: { shop: true },
    bands: [{ off: { percent: 5 } }],
  },
  {
    id: 'classroom',
    name: 'For classrooms',
    note: 'Not on goods that are on sale already.',
    for: { role: { anyOf: ['classroom'] } },
    on: { shop: true },
    base: 'unlessOnSale',
    bands: [{ off: { percent: '7.5' } }],
  },
  {
    id: 'classroom-mitts',
    name: 'Mitts for a class',
    for: { role: { anyOf: ['classroom'] } },
    on: { products: ['mitts-kit'] },
    by: 'product',
    bands: [
      { from: 1, to: 11, off: { price: 2000 } },
      { from: 12, off: { price: 1750 } },
    ],
  },
  {
    id: 'yarn-brings-tools',
    name: 'Six of yarn bring tools down',
    on: { categories: ['tools'] },
    counts: { categories: ['yarn'] },
    by: 'category',
    bands: [{ from: 6, off: { percent: 10 } }],
  },
  {
    id: 'third-lace',
    name: 'Every third lace for half',
    on: { products: ['tarn-lace'] },
    bands: [{ off: { percent: 50 } }],
    bonus: { buy: 2, get: 1 },
  },
  {
    id: 'fleece-post',
    name: 'From the fleece letter',
    on: { categories: ['yarn', 'kits'] },
    code: 'FLEECE-POST',
    bands: [{ off: { percent: '7.5' } }],
  },
  {
    id: 'dye-day-thanks',
    name: 'Thanks for the dye days',
    note: 'Each has a code of their own, on their account page; it works once.',
    for: { level: { atLeast: 'friend' } },
    on: { categories: ['dye-plants'] },
    code: 'DYEDAY',
    codes: 'single',
    uses: { person: 1 },
    bands: [{ off: { percent: 12 } }],
  },
  {
    id: 'autumn-yarn',
    name: 'Autumn yarn week',
    for: { date: { from: '2026-10-05', until: '2026-10-11' } },
    on: { categories: ['yarn'] },
    bands: [{ off: { percent: 10 } }],
    active: false,
  },
]

/** Codes that are made one by one. */
export const wexlowCodes = { offer: 'dye-day-thanks', count: 60, most: 1, note: 'For the account page' }
