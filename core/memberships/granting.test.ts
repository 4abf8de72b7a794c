import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addDuration } from '../calendar'
import { grantingOf } from './granting'
import type { Bought, Granting, Held } from './granting'

const timezone = 'Europe/Dublin'
const at = (iso: string) => Date.parse(iso)
const nowMs = at('2026-01-31T12:00:00Z')
const ranks: Record<string, number> = { friend: 10, maker: 20, guild: 30 }
const rankOf = (level: string) => ranks[level] ?? 0
const month: Bought = { level: 'maker', price: 600, amount: 600, credit: 0, period: 'P1M', begunAt: nowMs }
const year: Bought = { level: 'guild', price: 8400, amount: 8400, credit: 0, period: 'P1Y', begunAt: nowMs }

let made = 0
/** Keeps what a purchase brought, as the service does. */
function keep(held: readonly Held[], level: string, granted: Granting | null): Held[] {
  if (!granted) return [...held]
  const left = held.filter(one => !granted.ends.includes(one.id))
  const period = { reference: `p${++made}`, from: granted.startsAt, until: granted.endsAt, paid: granted.paid }
  const fresh = { level, paidUntil: granted.endsAt, periods: [period], anchorDay: granted.anchorDay, renewAs: null }
  if (granted.extends !== undefined)
    return left.map(one => (one.id === granted.extends ? { ...one, ...fresh, periods: [...one.periods, period] } : one))
  return [...left, { id: Math.max(0, ...held.map(one => one.id)) + 1, since: granted.startsAt, ...fresh }]
}
const payAll = (bought: Bought[], held: Held[] = []) =>
  bought.reduce(
    (now, one) => keep(now, one.level, grantingOf({ bought: one, held: now, rankOf, nowMs, timezone })),
    held,
  )
const paidFor = (one: Held) => one.periods.reduce((sum, period) => sum + period.paid, 0)
const iso = (ms: number | null) => (ms === null ? null : new Date(ms).toISOString())

describe('what a paid purchase brings', () => {
  it('is five months in a row where five were paid at once, at the end of each month', () => {
    const ends: (string | null)[] = []
    payAll([month, month, month, month, month]).forEach(one => ends.push(iso(one.paidUntil)))
    expect(ends).toEqual(['2026-06-30T11:00:00.000Z'])
  })

  it('comes back to the day it began on, after shorter months and years', () => {
    const afterMonths = [1, 2, 3].map(count =>
      iso(payAll(Array.from({ length: count }, () => month))[0]!.paidUntil)!.slice(0, 10),
    )
    expect(afterMonths).toEqual(['2026-02-28', '2026-03-31', '2026-04-30'])
    const leap = at('2024-02-29T12:00:00Z')
    let held: Held[] = []
    const ends = [1, 2, 3, 4].map(() => {
      held = keep(
        held,
        'guild',
        grantingOf({ bought: { ...year, begunAt: leap }, held, rankOf, nowMs: leap, timezone }),
      )
      return iso(held[0]!.paidUntil)!.slice(0, 10)
    })
    expect(ends).toEqual(['2025-02-28', '2026-02-28', '2027-02-28', '2028-02-29'])
  })

  it('gives one credit once: the second of two upgrades is shorter by what the first used up', () => {
    const maker: Held = {
      id: 1,
      level: 'maker',
      since: at('2026-01-16T12:00:00Z'),
      paidUntil: at('2026-02-15T12:00:00Z'),
      periods: [{ reference: 'p0', from: at('2026-01-16T12:00:00Z'), until: at('2026-02-15T12:00:00Z'), paid: 600 }],
      anchorDay: 16,
      renewAs: null,
    }
    const upgrade: Bought = { ...year, amount: 8100, credit: 300 }
    const [guild] = payAll([upgrade], [maker])
    expect([guild!.level, iso(guild!.paidUntil), paidFor(guild!)]).toEqual(['guild', '2027-01-31T12:00:00.000Z', 8400])
    const [twice] = payAll([upgrade, upgrade], [maker])
    const whole = addDuration(guild!.paidUntil!, 'P1Y', timezone) - guild!.paidUntil!
    expect(twice!.paidUntil! - guild!.paidUntil!).toBe(Math.floor((whole * 8100) / 8400))
    expect(paidFor(twice!)).toBe(16_500)
  })

  it('of a lower level begins where the higher one ends, and for good is never given twice', () => {
    const [guild] = payAll([year])
    const lower = grantingOf({ bought: month, held: [guild!], rankOf, nowMs, timezone })
    expect([lower!.startsAt, lower!.ends]).toEqual([guild!.paidUntil, []])
    const forGood = payAll([{ ...year, period: null }])
    expect(grantingOf({ bought: year, held: forGood, rankOf, nowMs, timezone })).toBeNull()
  })

  it('follows on without a gap or an overlap, whatever is paid in which order', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(month, year), { maxLength: 6 }), bought => {
        const held = payAll(bought)
        for (const level of ['maker', 'guild'])
          expect(held.filter(one => one.level === level).length).toBeLessThanOrEqual(1)
        const paid = bought.reduce((sum, one) => sum + one.amount, 0)
        expect(held.reduce((sum, one) => sum + paidFor(one), 0)).toBeLessThanOrEqual(paid)
      }),
    )
  })
})
