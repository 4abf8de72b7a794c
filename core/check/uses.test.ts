import { describe, expect, it } from 'vitest'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { placeIssues } from './placed-issue'
import type { EntryKind, Rulebook } from '../rulebook/rulebook'
import { entriesOf, rulebookOf } from '../rulebook/rulebook'
import { usesOf } from './uses'
import { validateRulebook } from './validate'

const { site } = wexlowCase()
const book: Rulebook = {
  bravik: 'rulebook/1',
  levels: [
    { id: 'maker', name: 'Maker', rank: 10, roles: ['islander'] },
    { id: 'guild', rank: 20 },
  ],
  roles: [{ id: 'islander' }, { id: 'keeper', staff: true }],
  permissions: [{ id: 'see-drafts' }],
  audiences: [
    { id: 'circle', name: 'Circle', is: { any: [{ level: { atLeast: 'guild' } }, { role: { anyOf: ['islander'] } }] } },
  ],
  gates: [
    {
      id: 'trade',
      name: 'Trade desk',
      on: { page: 'trade' },
      open: { all: [{ audience: 'circle' }, { not: { role: { anyOf: ['islander'] } } }] },
    },
    { id: 'home', on: { page: 'home' }, open: { everyone: true } },
  ],
  landings: [{ id: 'in', on: 'signIn', for: { level: { in: ['maker'] } }, to: '/' }],
  tiers: [
    {
      id: 'makers',
      visitor: { person: { id: 't', name: 'A visitor' }, levels: [{ level: 'maker', since: '2026-01-01T00:00:00Z' }] },
    },
  ],
  settings: { masterKeys: ['keeper'] },
}
const users = (kind: EntryKind, id: string, of = book) =>
  usesOf(of, site, { kind, id }).map(entry => `${entry.kind} ${entry.name}`)

describe('what depends on an entry', () => {
  it('is named wherever it is meant: in conditions, in what a level brings, in tiers', () => {
    expect(users('level', 'maker')).toEqual(['landing in', 'tier makers'])
    expect(users('level', 'guild')).toEqual(['audience Circle'])
    expect(users('role', 'islander')).toEqual(['level Maker', 'audience Circle', 'gate Trade desk'])
    expect(users('audience', 'circle')).toEqual(['gate Trade desk'])
    expect(users('role', 'keeper')).toEqual(['settings '])
  })

  it('is nobody for what nothing needs', () => {
    expect([users('permission', 'see-drafts'), users('gate', 'home'), users('tier', 'makers')]).toEqual([[], [], []])
  })

  it('does not count what is wrong already, wherever taking the entry out moves it', () => {
    const broken: Rulebook = {
      ...book,
      gates: [...book.gates!, { id: 'lost', on: { page: 'trade' }, open: { level: { in: ['gone'] } } }],
    }
    expect(users('gate', 'trade', broken)).toEqual([])
    expect(users('level', 'guild', broken)).toEqual(['audience Circle'])
  })

  it('is empty exactly where the entry could be taken out', () => {
    for (const { kind, key } of entriesOf(book)) {
      const without = rulebookOf(entriesOf(book).filter(entry => !(entry.kind === kind && entry.key === key)))
      expect([kind, key, validateRulebook(without, site).length > 0]).toEqual([kind, key, users(kind, key).length > 0])
    }
  })
})

describe('an issue', () => {
  it('is placed in the entry it stands in, settings included, which have no name', () => {
    const broken = {
      ...book,
      levels: [...book.levels!, { id: 'late', name: 'Late', rank: 20 }],
      settings: { masterKeys: ['gone'] },
    }
    expect(
      placeIssues(broken, validateRulebook(broken, site)).map(({ at, code, entry }) => [at, code, entry?.name]),
    ).toEqual([
      ['/levels/2/rank', 'duplicate-rank', 'Late'],
      ['/settings/masterKeys/0', 'dangling-id', ''],
    ])
  })
})
