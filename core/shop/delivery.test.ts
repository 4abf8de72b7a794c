import { describe, expect, it } from 'vitest'
import type { Condition } from '../conditions/condition'
import type { Lookup } from '../kinds/kind'
import type { Delivery } from '../rulebook/shop-rules'
import { deliveriesFor, parcelOf } from './delivery'
import type { Parcel } from './delivery'

const goods: Record<string, object> = {
  skein: { id: 'skein', weight: 100 },
  'skein-red': { id: 'skein-red', of: 'skein' },
  'skein-fat': { id: 'skein-fat', of: 'skein', weight: 250 },
  course: { id: 'course', sent: false, weight: 900 },
  'course-box': { id: 'course-box', of: 'course', sent: true },
  feather: { id: 'feather' },
}
const look = { get: (_kind: string, id: string) => goods[id] } as unknown as Lookup
const line = (product: string, quantity: number, amount: number, discount = 0) => ({
  product,
  quantity,
  amount,
  discount,
})

describe('a parcel', () => {
  it('weighs and is worth what is sent of it: a variant its own, else what its product says', () => {
    expect(
      parcelOf([line('skein', 2, 1400, 100), line('skein-red', 1, 700), line('skein-fat', 3, 5000)], look),
    ).toEqual({ weight: 200 + 100 + 750, worth: 1300 + 700 + 5000, sent: true })
    expect(parcelOf([line('course', 1, 9000)], look)).toEqual({ weight: 0, worth: 0, sent: false })
    expect(parcelOf([line('course', 1, 9000), line('feather', 4, 80)], look)).toEqual({
      weight: 0,
      worth: 80,
      sent: true,
    })
    expect(parcelOf([line('course-box', 1, 9000)], look)).toEqual({ weight: 900, worth: 9000, sent: true })
  })
})

describe('ways of delivery', () => {
  const ways: Delivery[] = [
    { id: 'post', cost: { flat: 500 }, freeFrom: 6000, to: [{ country: 'IE' }] },
    {
      id: 'abroad',
      cost: {
        byWeight: [
          { upTo: 5000, cost: 1900 },
          { upTo: 500, cost: 900 },
        ],
      },
      to: [{ country: 'ES', startsWith: ['35'] }, { country: 'DE' }],
    },
    {
      id: 'carrier',
      for: { role: { anyOf: ['trade'] } },
      cost: { byWeight: [{ upTo: 1000, cost: 700 }, { cost: 1200 }] },
    },
    { id: 'cart', active: false, cost: { flat: 0 } },
  ]
  const offered = (parcel: Partial<Parcel>, to: { country: string; postcode?: string }, trade = false) =>
    deliveriesFor(ways, {
      parcel: { weight: 100, worth: 1000, sent: true, ...parcel },
      to,
      admits: (one: Condition) => 'everyone' in one || trade,
    }).map(({ id, cost }) => [id, cost])

  it('are those that go there, are for the visitor and carry as much, each at what it costs', () => {
    expect(offered({}, { country: 'IE' })).toEqual([['post', 500]])
    expect(offered({ worth: 5999 }, { country: 'IE' })).toEqual([['post', 500]])
    expect(offered({ worth: 6000 }, { country: 'IE' }, true)).toEqual([
      ['post', 0],
      ['carrier', 700],
    ])
    // Steps are read from the lightest, whatever order they stand in; up to is up to and with.
    expect(offered({ weight: 500 }, { country: 'DE' })).toEqual([['abroad', 900]])
    expect(offered({ weight: 501 }, { country: 'ES', postcode: '35 002' })).toEqual([['abroad', 1900]])
    expect(offered({ weight: 5001 }, { country: 'DE' }, true)).toEqual([['carrier', 1200]])
    expect(offered({}, { country: 'ES', postcode: '08001' })).toEqual([])
    expect(offered({}, { country: 'NO' })).toEqual([])
  })

  it('are none where nothing is sent', () => {
    expect(offered({ sent: false }, { country: 'IE' }, true)).toEqual([])
  })
})
