import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyCondition, anyGates, anyLeaf, anyVisitor } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { validateRulebook } from '../check/validate'
import type { Condition } from '../conditions/condition'
import { CompiledRules, thingsOf } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { masterKeyBit } from '../gates/verdict'
import type { Offer } from '../rulebook/shop-rules'
import { entriesOf, rulebookOf } from '../rulebook/rulebook'
import type { Rulebook, RuleEntry } from '../rulebook/rulebook'
import { PlainPricing } from '../shop/plain-pricing'
import { SiteIndex } from '../site/site-index'
import { RuleSet } from '../gates/rule-set'
import type { Visitor } from '../visitor/visitor'
import { copyOf } from './copied-group'
import type { ChangedEntry } from './copied-group'
import { besides, without } from './group-conditions'
import type { GroupRef } from './group-ref'
import { removalOf } from './removed-group'

const world = wexlowCase()
const index = new SiteIndex(world.site)
const things = thingsOf(world.site)
const copy = { id: 'copied', name: 'Copied' }
const anyGroup = fc.constantFrom<GroupRef>(
  ...['friend', 'maker', 'guild'].map(id => ({ kind: 'level' as const, id })),
  ...['stockist', 'classroom', 'test-knitter', 'islander'].map(id => ({ kind: 'role' as const, id })),
)
const anyBook = fc
  .record({
    gates: anyGates(world),
    trade: anyCondition(anyLeaf(world, { audiences: ['makers'] })),
    offers: fc.array(anyCondition(anyLeaf(world)), { maxLength: 3 }),
    ranks: fc.constantFrom([10, 20, 30], [1, 2, 3], [4, 5, 90]),
  })
  .map(({ gates, trade, offers, ranks }): Rulebook => ({
    ...world.book,
    gates,
    settings: { masterKeys: ['keeper'] },
    levels: world.book.levels!.map((level, i) => ({ ...level, rank: ranks[i]! })),
    audiences: world.book.audiences!.map(one => (one.id === 'trade' ? { ...one, is: trade } : one)),
    offers: offers.map((whom, i): Offer => ({
      id: `o${i}`,
      for: whom,
      on: { shop: true },
      bands: [{ off: { percent: 5 * (i + 1) } }],
    })),
  }))
  .filter(book => validateRulebook(book, world.site).every(issue => issue.code === 'states-nothing'))

/** The book with these entries as they would be. */
function changed(book: Rulebook, changes: readonly ChangedEntry[], more: RuleEntry[] = [], gone?: GroupRef): Rulebook {
  const after = new Map(changes.map(one => [`${one.kind} ${one.id}`, one.after]))
  const entries = entriesOf(book).flatMap((entry): RuleEntry[] => {
    const name = `${entry.kind} ${entry.key}`
    if (gone && name === `${gone.kind} ${gone.id}`) return []
    if (!after.has(name)) return [entry]
    const body = after.get(name)
    return body ? [{ ...entry, body }] : []
  })
  return rulebookOf([...entries, ...more])
}
/** Everything a visitor may do, and what they pay. */
function reached(book: Rulebook, visitor: Visitor) {
  const decider = new CompiledDecider(new CompiledRules(book, world.site), visitor, 0)
  const pricing = new PlainPricing(new RuleSet(book, world.site), visitor, 0, { codes: [] })
  // Whether the key was what admitted is no right.
  return [
    things.map(thing => decider.bits(thing) & ~masterKeyBit),
    world.site.products!.map(({ id }) => pricing.price(id)?.unit),
  ]
}
const holds = (book: Rulebook, visitor: Visitor, { kind, id }: GroupRef) => {
  const { asker } = new CompiledDecider(new CompiledRules(book, world.site), visitor, 0)
  return kind === 'level' ? asker.levels.has(id) : asker.roles.has(id)
}
const instead = (visitor: Visitor, { kind, id }: GroupRef): Visitor =>
  kind === 'level'
    ? { ...visitor, levels: visitor.levels?.map(one => (one.level === id ? { ...one, level: copy.id } : one)) }
    : { ...visitor, roles: visitor.roles?.map(role => (role === id ? copy.id : role)) }
const withCopy = (book: Rulebook, of: GroupRef) => {
  const { kind, entry, moved, entries } = copyOf(book, index, of, copy)!
  const ranks = moved.map(level => ({ kind: 'level' as const, id: level.id, before: level, after: level }))
  return changed(book, [...entries, ...ranks], [{ kind, key: entry.id, body: entry }])
}

describe('a copied level or role', () => {
  it('moves nothing for anybody else, and reaches and pays as its original does', () => {
    fc.assert(
      fc.property(anyBook, anyGroup, fc.array(anyVisitor, { minLength: 1, maxLength: 3 }), (book, of, visitors) => {
        const after = withCopy(book, of)
        expect(validateRulebook(after, world.site).filter(one => one.code !== 'states-nothing')).toEqual([])
        for (const visitor of visitors) {
          const before = reached(book, visitor)
          expect(reached(after, visitor)).toEqual(before)
          expect(reached(after, instead(visitor, of))).toEqual(before)
        }
      }),
      { numRuns: 80 },
    )
  })

  it('of which one gate is left out differs from its original there alone', () => {
    const gates = ['trade', 'techniques'].map(page => ({
      id: page,
      on: { page },
      open: { role: { anyOf: ['stockist'] } },
    }))
    const book = { ...world.book, gates }
    const { entry, entries } = copyOf(book, index, { kind: 'role', id: 'stockist' }, copy)!
    expect(entries.map(one => `${one.kind} ${one.id}`)).toEqual(['audience trade', 'gate trade', 'gate techniques'])
    const after = changed(book, entries.slice(0, 2), [{ kind: 'role', key: copy.id, body: entry }])
    const decider = new CompiledDecider(
      new CompiledRules(after, world.site),
      { person: { id: 'p' }, roles: [copy.id] },
      0,
    )
    expect(['trade', 'techniques'].map(id => decider.decide({ kind: 'page', id }).open)).toEqual([true, false])
  })

  it('ranks between its original and the next, which makes room where there is none', () => {
    const ranked = (ranks: number[]) => {
      const book = { ...world.book, levels: world.book.levels!.map((one, i) => ({ ...one, rank: ranks[i]! })) }
      const { entry, moved } = copyOf(book, index, { kind: 'level', id: 'friend' }, copy)!
      return [(entry as { rank: number }).rank, ...moved.map(one => one.rank)]
    }
    expect([ranked([10, 20, 30]), ranked([1, 2, 3]), ranked([1, 2, 9]), ranked([1, 3, 4])]).toEqual([
      [15],
      [2, 3, 4],
      [2, 3],
      [2],
    ])
  })
})

describe('a level or role taken out', () => {
  it('moves nothing for anybody who does not hold it, and leaves nothing that names it', () => {
    fc.assert(
      fc.property(anyBook, anyGroup, fc.array(anyVisitor, { minLength: 1, maxLength: 3 }), (book, of, visitors) => {
        const after = changed(book, removalOf(book, index, of).entries, [], of)
        expect(validateRulebook(after, world.site).filter(one => one.code !== 'states-nothing')).toEqual([])
        for (const visitor of visitors.filter(one => !holds(book, one, of)))
          expect(reached(after, visitor)).toEqual(reached(book, visitor))
      }),
      { numRuns: 80 },
    )
  })

  const stockist: GroupRef = { kind: 'role', id: 'stockist' }
  const maker: GroupRef = { kind: 'level', id: 'maker' }
  it.each<[string, Condition, GroupRef, Condition]>([
    ['the others', { role: { anyOf: ['stockist', 'classroom'] } }, stockist, { role: { anyOf: ['classroom'] } }],
    ['nobody', { all: [{ role: { anyOf: ['stockist'] } }, { signedIn: true }] }, stockist, { nobody: true }],
    ['what is left', { any: [{ role: { anyOf: ['stockist'] } }, { signedIn: true }] }, stockist, { signedIn: true }],
    ['everyone', { not: { role: { allOf: ['stockist', 'classroom'] } } }, stockist, { everyone: true }],
    ['the next above', { level: { atLeast: 'maker' } }, maker, { level: { atLeast: 'guild' } }],
    ['the next below', { level: { atMost: 'maker' } }, maker, { level: { atMost: 'friend' } }],
    ['nobody, who is long a member', { memberFor: { atLeast: 'P1Y', level: 'maker' } }, maker, { nobody: true }],
  ])('leaves a condition to %s', (_, condition, of, left) => {
    expect(without(condition, of, ['friend', 'maker', 'guild'])).toEqual(left)
  })

  it('leaves what does not name it the very same', () => {
    const condition: Condition = { all: [{ signedIn: true }, { not: { level: { atLeast: 'guild' } } }] }
    expect(without(condition, maker, ['friend', 'maker', 'guild'])).toBe(condition)
    expect(besides(condition, maker, 'copied')).toBe(condition)
  })
})
