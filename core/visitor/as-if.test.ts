import { describe, expect, it } from 'vitest'
import { asIfAll } from './as-if'
import type { AsIf } from './as-if'

// A Tuesday, three in the afternoon in Dublin.
const clock = { nowMs: Date.parse('2026-11-24T15:00:00Z'), timezone: 'Europe/Dublin' }
const as = (...parts: AsIf[]) => asIfAll({ person: null }, parts, clock)
const at = (...parts: AsIf[]) => as(...parts).request?.at

describe('somebody looked at as if', () => {
  it('holds several levels, belongs, has bought and says what is said of them: a person, where only people do', () => {
    const both = as({ level: 'maker' }, { level: 'guild' }, { role: 'islander' }, { firm: 'gullhaven' })
    expect(both).toMatchObject({ person: { id: 'somebody' }, firm: 'gullhaven', roles: ['islander'] })
    expect(both.levels?.map(one => one.level)).toEqual(['maker', 'guild'])
    expect(as({ product: 'a' }, { product: 'b' }, { orders: 3 }, { spent: 12_000 }).bought).toEqual({
      products: ['a', 'b'],
      orders: 3,
      spent: 12_000,
    })
    // Guests have baskets, and come from somewhere with something.
    expect(
      as({ basket: 'a', quantity: 2 }, { basket: 'a', quantity: 5 }, { device: 'phone' }, { region: 'ES-CN' }),
    ).toEqual({
      person: null,
      basket: [{ product: 'a', quantity: 5 }],
      request: { device: 'phone', region: 'ES-CN', country: 'ES' },
    })
    expect(as({ sign: 'out' }, { level: 'maker' }).person).toEqual({ id: 'somebody' })
  })

  it('asks at a time of the day that is named, or the next time it comes', () => {
    expect(at({ date: '2026-12-04' }, { time: '09:00' })).toBe('2026-12-04T09:00:00.000Z')
    expect(at({ time: '09:00' })).toBe('2026-11-25T09:00:00.000Z')
    expect(at({ time: '16:00' })).toBe('2026-11-24T16:00:00.000Z')
    expect(at({ weekday: 'fri' }, { time: '09:00' })).toBe('2026-11-27T09:00:00.000Z')
    // Today is a Tuesday, and nine is over.
    expect(at({ weekday: 'tue' }, { time: '09:00' })).toBe('2026-12-01T09:00:00.000Z')
    expect(at({ weekday: 'tue' }, { time: '18:00' })).toBe('2026-11-24T18:00:00.000Z')
    // Of what was said in another order the same is so.
    expect(at({ time: '09:00' }, { weekday: 'fri' })).toBe('2026-11-27T09:00:00.000Z')
    // The clocks go forward on the last Sunday of March.
    expect(at({ date: '2027-03-29' }, { time: '09:00' })).toBe('2027-03-29T08:00:00.000Z')
  })
})
