/** How Wexlow Mill sends what it sells. All figures are made up. */
import type { Delivery } from '../../core/rulebook/shop-rules'

export const wexlowDeliveries: Delivery[] = [
  {
    id: 'collect',
    name: 'Collected at the mill door',
    note: 'Open from ten to four, not on Mondays.',
    to: [{ country: 'IE' }],
    cost: { flat: 0 },
  },
  { id: 'post', name: 'By post on the island', to: [{ country: 'IE' }], cost: { flat: 500 }, freeFrom: 9000 },
  {
    id: 'carrier',
    name: 'By carrier, in sacks',
    note: 'For shops and schools: on pallets from forty kilos.',
    for: { role: { anyOf: ['stockist', 'classroom'] } },
    to: [{ country: 'IE' }, { country: 'GB' }],
    cost: {
      byWeight: [{ upTo: 5000, cost: 780 }, { upTo: 40_000, cost: 1650 }, { cost: 5200 }],
    },
    freeFrom: 45_000,
  },
  {
    id: 'abroad',
    name: 'By post abroad',
    to: [{ country: 'GB' }, { country: 'ES' }, { country: 'DE' }],
    cost: {
      byWeight: [
        { upTo: 500, cost: 890 },
        { upTo: 2000, cost: 1420 },
        { upTo: 10_000, cost: 2860 },
      ],
    },
  },
  {
    id: 'overseas',
    name: 'By ship and post',
    note: 'Three to six weeks.',
    to: [{ country: 'US' }],
    cost: {
      byWeight: [
        { upTo: 2000, cost: 2450 },
        { upTo: 10_000, cost: 6100 },
      ],
    },
  },
]
