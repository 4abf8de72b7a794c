import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Level } from '../rulebook/people-rules'
import { heldUntil } from './membership-span'
import { quoteFor, unusedPart } from './quote'
import type { BoughtNow } from './quote'

const levels: Level[] = [
  { id: 'friend', rank: 10 },
  { id: 'maker', rank: 20, price: { amount: 600, every: 'month' } },
  { id: 'guild', rank: 30, price: { amount: 8400, every: 'year' }, term: 'P1Y' },
  { id: 'elder', rank: 40, price: { amount: 50_000, every: 'once' } },
]
const at = (iso: string) => Date.parse(iso)
const nowMs = at('2026-11-15T12:00:00Z')
const quote = (target: string, held: BoughtNow[] = []) =>
  quoteFor({ levels, held, target, nowMs, timezone: 'Europe/Dublin' })
const held = (level: string, paid: number, from: number, until: number | null): BoughtNow => ({
  level,
  paidUntil: until,
  periods: [{ reference: level, from, until, paid }],
})
const maker = held('maker', 600, at('2026-10-31T12:00:00Z'), at('2026-11-30T12:00:00Z'))

describe('what a level costs now', () => {
  it.each<[string, string, BoughtNow[], object | string]>([
    ['new', 'maker', [], { sort: 'new', amount: 600, startsAt: nowMs, endsAt: at('2026-12-15T12:00:00Z') }],
    [
      'up, with half a month left of 6.00',
      'guild',
      [maker],
      { sort: 'upgrade', credit: 300, amount: 8100, startsAt: nowMs, endsAt: at('2027-11-15T12:00:00Z') },
    ],
    [
      'down, from the end of what is paid',
      'maker',
      [held('guild', 8400, at('2026-10-31T12:00:00Z'), at('2026-11-30T12:00:00Z'))],
      { sort: 'downgrade', amount: 0, startsAt: maker.paidUntil },
    ],
    [
      'the same again, from the end of what is paid',
      'maker',
      [maker],
      { sort: 'renewal', amount: 600, startsAt: maker.paidUntil, endsAt: at('2026-12-30T12:00:00Z') },
    ],
    ['once, for good', 'elder', [], { sort: 'new', amount: 50_000, endsAt: null }],
    ['free', 'friend', [], 'not-for-sale'],
    ['what is held for good', 'elder', [held('elder', 50_000, 0, null)], 'held-for-good'],
  ])('%s', (_, target, held, expected) => {
    if (typeof expected === 'string') expect(quote(target, held)).toBe(expected)
    else expect(quote(target, held)).toMatchObject(expected)
  })

  it('never credits more than was paid, nor asks for less than nothing', () => {
    fc.assert(
      fc.property(
        fc.nat(100_000),
        fc.nat(10 ** 9),
        fc.integer({ min: 1, max: 10 ** 9 }),
        fc.nat(2 * 10 ** 9),
        (paid, from, length, now) => {
          const one = held('maker', paid, from, from + length)
          const credit = unusedPart(one, now)
          expect(credit).toBeGreaterThanOrEqual(0)
          expect(credit).toBeLessThanOrEqual(paid)
          const asked = quoteFor({ levels, held: [one], target: 'guild', nowMs: now, timezone: 'UTC' })
          expect(asked).toMatchObject({ credit: Math.min(credit, 8400), amount: 8400 - Math.min(credit, 8400) })
        },
      ),
    )
  })
})

describe('the end of a membership', () => {
  it('has grace only while it renews by itself', () => {
    expect(heldUntil({ paidUntil: 1000, renews: true, graceDays: 7 })).toBe(1000 + 7 * 86_400_000)
    expect(heldUntil({ paidUntil: 1000, renews: false, graceDays: 7 })).toBe(1000)
    expect(heldUntil({ paidUntil: null, renews: true, graceDays: 7 })).toBeNull()
  })
})
