import { describe, expect, it } from 'vitest'
import { explainLanding } from '../landings/explain-landing'
import { findingsOf } from './findings/findings'
import { CompiledRules } from '../gates/compiled'
import type { Rulebook } from '../rulebook/rulebook'
import type { Visitor } from '../visitor/visitor'
import { addedBy, levelAbove, opensSoon, ownPages, ownPagesBy } from './member-view'

const book: Rulebook = {
  bravik: 'rulebook/1',
  levels: [
    { id: 'friend', rank: 1 },
    { id: 'maker', rank: 2 },
    { id: 'guild', rank: 3 },
  ],
  roles: [{ id: 'stockist' }],
  gates: [
    { id: 'notes', on: { page: 'notes' }, open: { level: { atLeast: 'maker' } }, find: { everyone: true } },
    {
      id: 'vat',
      on: { page: 'vat' },
      open: { all: [{ level: { atLeast: 'friend' } }, { date: { from: '2026-12-01' } }] },
      find: { everyone: true },
    },
    { id: 'secret', on: { page: 'secret' }, open: { date: { from: '2026-12-01' } } },
    { id: 'steeks', on: { page: 'steeks' }, open: { memberFor: { atLeast: 'P30D' } }, find: { everyone: true } },
    { id: 'trade', on: { page: 'trade' }, open: { role: { anyOf: ['stockist'] } } },
    { id: 'quiet', on: { page: 'quiet' }, open: { signedIn: true }, find: { nobody: true } },
  ],
  landings: [
    { id: 'trade', on: 'signIn', for: { role: { anyOf: ['stockist'] } }, to: '/trade' },
    { id: 'makers', on: 'signIn', for: { level: { atLeast: 'friend' } }, to: '/notes' },
    { id: 'irish', on: 'signIn', for: { country: { in: ['IE'] } }, to: '/home' },
    { id: 'rest', on: 'signIn', for: { everyone: true }, to: '/nowhere' },
    { id: 'home', on: 'signIn', for: { everyone: true }, to: '/loft' },
  ],
}
const pages = ['home', 'notes', 'vat', 'steeks', 'trade', 'quiet', 'secret'].map(id => ({ id, path: `/${id}` }))
const rules = new CompiledRules(book, { timezone: 'Europe/Dublin', currency: 'EUR', pages })
const nowMs = Date.parse('2026-11-15T12:00:00Z')
const person = (part: Partial<Visitor>): Visitor => ({ person: { id: 'p' }, ...part })
const friend = person({ levels: [{ level: 'friend', since: '2026-11-01T09:00:00Z' }] })

describe('what a person has', () => {
  it('is theirs when only signing in would not give it', () => {
    expect(ownPages(rules, person({ roles: ['stockist'] }), nowMs)).toEqual(['trade'])
    expect(ownPages(rules, person({}), nowMs)).toEqual([])
  })

  it('is grouped by what grants it: the level, the firm, a role, or several together', () => {
    const both: Rulebook = {
      ...book,
      gates: [
        ...book.gates!,
        {
          id: 'pair',
          on: { page: 'home' },
          open: { all: [{ role: { anyOf: ['stockist'] } }, { level: { atLeast: 'maker' } }] },
        },
      ],
    }
    const own = new CompiledRules(both, { timezone: 'Europe/Dublin', currency: 'EUR', pages })
    const held = { level: 'maker', since: '2026-11-01T09:00:00Z' }
    const stockist = person({ levels: [held], roles: ['stockist'] })
    expect(ownPagesBy(own, stockist, nowMs)).toEqual([
      { by: { level: 'maker' }, pages: ['notes'] },
      { by: { role: 'stockist' }, pages: ['trade'] },
      { by: { together: true }, pages: ['home'] },
    ])
    const shared = { levels: [], roles: ['stockist'] }
    expect(ownPagesBy(own, { ...stockist, firm: 'gullhaven' }, nowMs, shared)).toEqual([
      { by: { level: 'maker' }, pages: ['notes'] },
      { by: { firm: 'gullhaven' }, pages: ['trade'] },
      { by: { together: true }, pages: ['home'] },
    ])
    // Held twice, once by the firm: what is one's own comes first.
    const twice = person({ firm: 'gullhaven', levels: [held, held] })
    expect(ownPagesBy(own, twice, nowMs, { levels: ['maker'], roles: [] })[0]!.by).toEqual({ level: 'maker' })
    expect(ownPagesBy(own, { ...twice, levels: [held] }, nowMs, { levels: ['maker'], roles: [] })[0]!.by).toEqual({
      firm: 'gullhaven',
    })
    const all = ownPagesBy(own, stockist, nowMs).flatMap(group => group.pages)
    expect(all.toSorted()).toEqual(ownPages(own, stockist, nowMs).toSorted())
  })

  it('opens soon by the calendar, by waiting, or by a level that begins; of what is hidden nothing is told', () => {
    expect(opensSoon(rules, friend, nowMs)).toEqual([
      { page: 'vat', at: Date.parse('2026-12-01T00:00:00Z') },
      { page: 'steeks', at: Date.parse('2026-12-01T09:00:00Z') },
    ])
    expect(
      opensSoon(rules, person({ levels: [{ level: 'maker', since: '2026-11-20T00:00:00Z' }] }), nowMs, 10),
    ).toEqual([{ page: 'notes', at: Date.parse('2026-11-20T00:00:00Z') }])
    expect(opensSoon(rules, person({}), nowMs)).toEqual([])
  })

  it('grows with the level above', () => {
    expect(levelAbove(book.levels!, friend, nowMs)?.id).toBe('maker')
    expect(levelAbove(book.levels!, person({}), nowMs)?.id).toBe('friend')
    expect(
      levelAbove(book.levels!, person({ levels: [{ level: 'guild', since: '2026-01-01T00:00:00Z' }] }), nowMs),
    ).toBeUndefined()
    expect(addedBy(rules, friend, 'maker', nowMs)).toEqual(['notes'])
  })
})

describe('where a person lands', () => {
  const fates = (visitor: Visitor) => explainLanding(rules, visitor, 'signIn', nowMs).steps.map(step => step.fate)

  it('is told with every landing passed on the way', () => {
    expect(fates(friend)).toEqual(['notFor', 'leadsThere', 'notKnown', 'tooLate', 'tooLate'])
    expect(explainLanding(rules, friend, 'signIn', nowMs)).toMatchObject({
      to: '/notes',
      landing: 'makers',
      target: 'shut',
      thing: { kind: 'page', id: 'notes' },
    })
    expect(explainLanding(rules, person({ roles: ['stockist'] }), 'signIn', nowMs)).toMatchObject({
      to: '/trade',
      target: 'opens',
    })
    expect(
      explainLanding(rules, person({ roles: ['stockist'] }), 'signIn', nowMs, { kind: 'page', id: 'home' }),
    ).toMatchObject({ to: '/home', back: true, target: 'opens' })
    expect(explainLanding(rules, friend, 'signOut', nowMs)).toMatchObject({ to: null, target: 'none', steps: [] })
  })

  it('is a finding where the page is missing or stays shut', () => {
    const tiers = [
      { id: 'guest', visitor: { person: null } },
      { id: 'signed-in', visitor: person({}) },
      { id: 'friend', visitor: friend },
      { id: 'stockist', visitor: person({ roles: ['stockist'] }) },
    ]
    expect(findingsOf({ rules, tiers, nowMs })).toEqual([
      {
        code: 'landing-nowhere',
        place: { kind: 'landing', key: 'rest' },
        tier: 'signed-in',
        facts: { to: '/nowhere', on: 'signIn' },
      },
      {
        code: 'landing-shut',
        place: { kind: 'landing', key: 'makers' },
        tier: 'friend',
        facts: { to: '/notes', on: 'signIn' },
      },
    ])
  })
})
