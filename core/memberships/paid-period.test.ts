import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { creditsOf, unusedOf, withdrawnFrom } from './paid-period'
import type { PaidPurchase } from './paid-period'

const day = 86_400_000
const month = 30 * day
const year = 365 * day
/** So many months of one membership in a row, from 0. */
const months = (count: number): PaidPurchase[] =>
  Array.from({ length: count }, (_, i) => ({
    reference: `m${i}`,
    membership: 1,
    from: i * month,
    until: (i + 1) * month,
    paid: 600,
    credits: [],
  }))
/** A year for 8400 in all, from then on: what is left of the months taken off. */
function upgraded(held: readonly PaidPurchase[], at: number): PaidPurchase[] {
  const credits = creditsOf(held, at, 8400)
  return [...held, { reference: 'year', membership: 2, from: at, until: at + year, paid: 8400, credits }]
}
/** Gives the money of some back, one after the other; answers what is left, and how much sooner memberships end. */
function giveBack(all: readonly PaidPurchase[], references: readonly string[]) {
  const sooner = new Map<number, number>()
  let left = [...all]
  for (const reference of references) {
    const after = withdrawnFrom(left, reference)
    for (const [id, length] of after.sooner) sooner.set(id, (sooner.get(id) ?? 0) + length!)
    const changed = new Map(after.purchases.map(one => [one.reference, one]))
    left = left.filter(one => one.reference !== reference).map(one => changed.get(one.reference) ?? one)
  }
  return { left, sooner }
}

describe('what was paid ahead', () => {
  it('counts whole: three months count as three, the running one by its part', () => {
    expect(creditsOf(months(3), 15 * day, 9999)).toEqual([
      { reference: 'm0', amount: 300 },
      { reference: 'm1', amount: 600 },
      { reference: 'm2', amount: 600 },
    ])
    expect(creditsOf(months(3), 15 * day, 700).map(one => one.amount)).toEqual([300, 400])
  })
})

describe('money that goes back', () => {
  it('takes the time it brought, and what follows on it moves up', () => {
    const { left, sooner } = giveBack(months(3), ['m0'])
    expect(left.map(({ from, until }) => [from, until])).toEqual([
      [0, month],
      [month, 2 * month],
    ])
    expect(sooner.get(1)).toBe(month)
  })

  it('takes from an upgrade what was credited to it: nothing is held for less than its price', () => {
    const all = upgraded(months(3), 15 * day)
    const { left, sooner } = giveBack(all, ['m0', 'm1', 'm2'])
    const [guild] = left
    expect(guild).toMatchObject({ paid: 6900, credits: [{ amount: 0 }, { amount: 0 }, { amount: 0 }] })
    expect(Math.abs(guild!.until! - guild!.from - (year * 6900) / 8400)).toBeLessThan(3)
    expect(sooner.get(2)).toBe(year - (guild!.until! - guild!.from))
  })

  it('passes on what was credited twice, and says what is held for good for less', () => {
    const all = upgraded(months(1), 0)
    const guild = all.at(-1)!
    const forGood: PaidPurchase = {
      reference: 'good',
      membership: 3,
      from: year / 2,
      until: null,
      paid: 50_000,
      credits: [{ reference: 'year', amount: unusedOf(guild, year / 2) }],
    }
    const { short, purchases } = withdrawnFrom([...all, forGood], 'm0')
    // Half of the 600 in the year was unused when it was credited.
    expect(short).toEqual([{ reference: 'good', amount: 300 }])
    expect(purchases.find(one => one.reference === 'good')).toMatchObject({ paid: 49_700, until: null })
  })

  it('leaves time in proportion to what is kept, whatever goes back in whatever order', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 0, max: 6 * month }),
        fc.array(fc.nat(6), { maxLength: 7 }),
        (count, at, picks) => {
          const all = upgraded(months(count), at)
          const back = [...new Set(picks.map(i => all[i % all.length]!.reference))]
          const { left } = giveBack(all, back)
          const reordered = giveBack(all, back.toReversed()).left
          expect(left.map(one => one.paid)).toEqual(reordered.map(one => one.paid))
          const year_ = left.find(one => one.reference === 'year')
          if (!year_) return
          // What is still in it: what was paid itself, and what is credited and not given back.
          const credited = year_.credits.reduce((sum, one) => sum + one.amount, 0)
          const own = 8400 - all.at(-1)!.credits.reduce((sum, one) => sum + one.amount, 0)
          expect(year_.paid).toBe(own + credited)
          expect(year_.credits.filter(one => back.includes(one.reference) && one.amount > 0)).toEqual([])
          expect(Math.abs(year_.until! - year_.from - (year * year_.paid) / 8400)).toBeLessThan(10)
        },
      ),
    )
  })

  it('never makes anything last longer', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 6 }), fc.nat(6 * month), fc.nat(6), (count, at, pick) => {
        const all = upgraded(months(count), at)
        const { purchases } = withdrawnFrom(all, all[pick % all.length]!.reference)
        for (const one of purchases)
          expect(one.until!).toBeLessThanOrEqual(all.find(before => before.reference === one.reference)!.until!)
      }),
    )
  })
})
