import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyCondition, anyLeaf, anyVisitor } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import type { Condition } from '../conditions/condition'
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { rightBit } from '../gates/verdict'
import type { Gate } from '../rulebook/gate'
import type { Visitor } from '../visitor/visitor'
import { coverageOf, mostPieces } from './coverage'
import type { Coverage } from './coverage'

const file = wexlowCase()
const page = file.site.pages![0]!.id
const parts = ['one', 'two', 'three'].map(id => ({ kind: 'block' as const, id }))
/** Three parts on a page, some of them behind a gate, and the page behind one perhaps. */
function rulesOf(opens: (Condition | null)[], before: Condition | null = null): CompiledRules {
  const gates = opens.flatMap((open, i): Gate[] => (open ? [{ id: `g${i}`, on: { block: parts[i]!.id }, open }] : []))
  return new CompiledRules(
    { ...file.book, gates: [...(before ? [{ id: 'page', on: { page }, open: before }] : []), ...gates] },
    { ...file.site, blocks: parts.map(({ id }) => ({ id, in: { page } })) },
  )
}
// Before everything the visitors and conditions below know.
const nowMs = Date.parse('2025-01-01T00:00:00Z')
const place = { kind: 'page' as const, id: page }
const cover = (...opens: (Condition | null)[]) =>
  coverageOf(rulesOf(opens), { place, parts: parts.slice(0, opens.length) }, nowMs)
const decided = (found: Coverage) => {
  if (found.state !== 'decided') throw new Error('It should have been decided.')
  return found
}
const opensTo = (rules: CompiledRules, visitor: Visitor) => {
  const decider = new CompiledDecider(rules, visitor, nowMs)
  return {
    place: (decider.bits(place) & rightBit.open) !== 0,
    got: parts.filter(one => (decider.bits(one) & rightBit.open) !== 0).map(one => one.id),
  }
}

describe('whether every possible visitor gets exactly one', () => {
  it('is so of a condition and its opposite, and of a list whose last is for everyone', () => {
    const guild: Condition = { level: { atLeast: 'guild' } }
    expect(decided(cover(guild, { not: guild }))).toMatchObject({ nobodys: [] })
    expect(decided(cover(guild, { not: guild })).gap ?? decided(cover(guild, { not: guild })).overlap).toBeUndefined()
    expect(decided(cover(guild, { level: { atLeast: 'maker' } }, null)).gap).toBeUndefined()
  })

  it('is not where what is not known falls between them, and shows somebody of whom that is so', () => {
    const found = decided(cover({ country: { in: ['IE'] } }, { not: { country: { in: ['IE'] } } }))
    expect(found.gap).toMatchObject({ person: null })
    expect(found.gap!.request!.country).toBeUndefined()
  })

  it('is not where two overlap, or one comes after all who could get it', () => {
    const [friend, maker] = ['friend', 'maker'].map((id): Condition => ({ level: { atLeast: id } }))
    const found = decided(cover(friend!, maker!))
    expect(found.overlap?.parts).toEqual(['one', 'two'])
    expect(found.nobodys).toEqual(['two'])
    expect(found.gap).toEqual({ person: null, request: { at: new Date(nowMs).toISOString() } })
  })

  it('looks at days, hours, networks and how long somebody is a member, each at its edges', () => {
    const both = (open: Condition) => decided(cover(open, { not: open }))
    for (const open of [
      { date: { from: '2026-12-01', until: '2026-12-24' } },
      { time: { from: '21:00', until: '05:00' } },
      { weekday: { in: ['thu'] } },
      { memberFor: { atLeast: 'P30D', level: 'maker' } },
      { all: [{ memberFor: { atLeast: 'P30D' } }, { not: { memberFor: { atLeast: 'P31D' } } }] },
    ] as Condition[])
      expect([both(open).gap, both(open).overlap, both(open).nobodys]).toEqual([undefined, undefined, []])
    expect(
      cover({ all: [{ memberFor: { atLeast: 'P1M' } }, { not: { memberFor: { atLeast: 'P31D' } } }] }),
    ).toMatchObject({
      state: 'undecided',
    })
    const near: Condition = { address: { in: ['10.0.0.0/8'] } }
    expect(decided(cover(near, { address: { in: ['10.1.0.0/16'] } }, { signedIn: true })).nobodys).toEqual(['two'])
  })

  it('says so where there are too many pieces to try', () => {
    const many = (what: 'product' | 'category', ids: string[]): Condition[] =>
      ids.map(id => ({ bought: { [what]: id } }) as Condition)
    const found = cover({
      any: [
        ...many('product', file.site.products!.map(one => one.id).slice(0, 12)),
        { person: { in: Array.from({ length: 60 }, (_, i) => `p${i}`) } },
      ],
    })
    expect(found).toMatchObject({ state: 'undecided' })
    expect((found as { pieces: number }).pieces).toBeGreaterThan(mostPieces)
  })

  it('holds for whoever comes: of random conditions and visitors none tells otherwise', () => {
    const condition = fc.option(anyCondition(anyLeaf(file, { opens: true })), { nil: null, freq: 6 })
    // Whoever passes every gate is no visitor a page is written for.
    const visitor = anyVisitor.filter(one => !one.roles?.includes('keeper'))
    const met = { cases: 0, decided: 0, gaps: 0, overlaps: 0 }
    fc.assert(
      fc.property(
        fc.tuple(condition, condition, condition),
        condition,
        fc.array(visitor, { minLength: 20, maxLength: 60 }),
        (opens, before, visitors) => {
          const rules = rulesOf(opens, before)
          const found = coverageOf(rules, { place, parts }, nowMs)
          met.cases++
          if (found.state === 'undecided') return
          met.decided++
          for (const one of visitors) {
            const { place, got } = opensTo(rules, one)
            if (!place) continue
            if (!got.length) met.gaps++
            if (got.length > 1) met.overlaps++
            expect({ none: !got.length && !found.gap, two: got.length > 1 && !found.overlap }).toEqual({
              none: false,
              two: false,
            })
            if (got[0]) expect(found.nobodys).not.toContain(got[0])
          }
          if (found.gap) expect(opensTo(rules, found.gap)).toEqual({ place: true, got: [] })
          if (found.overlap)
            expect(opensTo(rules, found.overlap.visitor).got).toEqual(expect.arrayContaining(found.overlap.parts))
        },
      ),
      { numRuns: 120 },
    )
    // Enough of each was there to be told wrong, where there was time for all.
    if (met.cases === 120) expect(Math.min(met.decided, met.gaps, met.overlaps)).toBeGreaterThan(20)
  })
})
