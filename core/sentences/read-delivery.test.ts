import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Condition } from '../conditions/condition'
import type { Rulebook } from '../rulebook/rulebook'
import type { Delivery } from '../rulebook/shop-rules'
import { lexiconOf } from './lexicon'
import { readDelivery } from './read-delivery'
import { sayDelivery } from './say-delivery'

const book: Rulebook = {
  bravik: 'rulebook/1',
  levels: [{ id: 'maker', name: 'Maker', rank: 1 }],
  roles: [
    { id: 'stockist', name: 'Stockist' },
    { id: 'classroom', name: 'Classroom' },
  ],
}
const lexicon = lexiconOf(book, { timezone: 'UTC', currency: 'EUR' })
const way = (text: string) => {
  const reading = readDelivery(text, lexicon)
  if (!reading.ok) throw new Error(`${reading.error.at}: ${reading.error.expected}`)
  return reading.read.way
}
const refused = (text: string) => {
  const reading = readDelivery(text, lexicon)
  return reading.ok
    ? null
    : [text.slice(reading.error.at, reading.error.at + reading.error.length), reading.error.expected]
}
const stockists: Condition = { role: { anyOf: ['stockist'] } }

describe('a way of delivery', () => {
  it('is read from one line, whatever stands first after its name', () => {
    const carrier = {
      name: 'By carrier in sacks',
      to: [{ country: 'IE' }],
      cost: {
        byWeight: [
          { upTo: 5000, cost: 780 },
          { upTo: 40_000, cost: 1650 },
        ],
      },
      freeFrom: 45_000,
      for: stockists,
    }
    expect(
      way('by carrier in sacks to Ireland, up to 5 kg 7.80, up to 40 kg 16.50, free from 450, for stockists'),
    ).toEqual(carrier)
    expect(
      way(
        'By carrier in sacks for Stockists, free from 450.00; up to 5kg costs 7,80 and up to 40 kilos 16.50 to ireland',
      ),
    ).toEqual(carrier)
    expect(way('by post 5')).toEqual({ name: 'By post', cost: { flat: 500 } })
    expect(way('by bicycle anywhere, free, for everyone')).toEqual({ name: 'By bicycle', cost: { flat: 0 } })
    expect(way('by post, to the United Kingdom and Spain postcodes 35, 38, costs 12')).toEqual({
      name: 'By post',
      to: [{ country: 'GB' }, { country: 'ES', startsWith: ['35', '38'] }],
      cost: { flat: 1200 },
    })
    expect(way('by ship to US-OR or GB postcode BT, Germany, up to 500 g 3, heavier 9.50')).toEqual({
      name: 'By ship',
      to: [{ country: 'US', region: 'US-OR' }, { country: 'GB', startsWith: ['BT'] }, { country: 'DE' }],
      cost: { byWeight: [{ upTo: 500, cost: 300 }, { cost: 950 }] },
    })
  })

  it('says what is missing or not understood, and where', () => {
    expect(refused('to Ireland costs 5')).toEqual(['to', 'what it is called, such as “by post”'])
    expect(refused('by post to Ireland')?.[1]).toMatch(/^what it costs/)
    expect(refused('by post to Ierland costs 5')).toEqual(['Ierland', expect.stringMatching(/^a country/)])
    expect(refused('by post costs 5.123')?.[1]).toMatch(/at most 2 digits/)
    expect(refused('by post up to 5 7.80')?.[1]).toMatch(/^a weight/)
    expect(refused('by post up to 2 kg 5, up to 2000 g 6')?.[1]).toMatch(/^another weight/)
    expect(refused('by post up to 2 kg 5, costs 6')?.[1]).toMatch(/^either/)
    expect(refused('by post costs 5 for weavers')?.[0]).toBe('weavers')
    expect(refused(`by post costs 5 ${'x'.repeat(5000)}`)?.[1]).toMatch(/^at most/)
  })

  it('is read back as it was said', () => {
    const name = fc.constantFrom(
      'By post',
      'by post',
      'By carrier, in sacks',
      'To go',
      'Free "for" all',
      '7 days',
      'Über Land',
    )
    const place = fc.constantFrom(
      { country: 'IE' },
      { country: 'ES', startsWith: ['35', '38'] },
      { country: 'US', region: 'US-OR' },
      { country: 'TT' },
      { country: 'GB', region: 'GB-NIR', startsWith: ['BT1', 'SW1A 1', '5kg', 'for'] },
    )
    const money = fc.integer({ min: 0, max: 1_000_000 })
    const steps = fc
      .uniqueArray(fc.integer({ min: 1, max: 10_000_000 }), { minLength: 1, maxLength: 4 })
      .chain(list => fc.tuple(...list.map(upTo => money.map(cost => ({ upTo, cost })))))
    const ways = fc.record(
      {
        name,
        to: fc.uniqueArray(place, { minLength: 1, maxLength: 4, selector: one => JSON.stringify(one) }),
        cost: fc.oneof(
          money.map(flat => ({ flat })),
          fc.tuple(steps, fc.option(money)).map(([list, above]) => ({
            byWeight: above === null ? list : [...list, { cost: above }],
          })),
        ),
        freeFrom: money,
        for: fc.constantFrom(
          stockists,
          { role: { anyOf: ['stockist', 'classroom'] } },
          { signedIn: true } as Condition,
          {
            any: [{ level: { atLeast: 'maker' } }, stockists],
          } as Condition,
        ),
        note: fc.constantFrom('Open from ten to four.', 'Say "mill"; then wait'),
        active: fc.constant(false as const),
      },
      { requiredKeys: ['name', 'cost'] },
    )
    fc.assert(
      fc.property(ways, one => {
        expect(way(sayDelivery(one as Omit<Delivery, 'id'>, lexicon))).toEqual(one)
      }),
    )
  })
})
