import { describe, expect, it } from 'vitest'
import { CompiledRules } from '../../gates/compiled'
import type { Landing, Rulebook } from '../../rulebook/rulebook'
import { findingGroups, findingsOf } from './findings'

const site = {
  bravik: 'site/1' as const,
  name: 'Mill',
  timezone: 'Europe/Dublin',
  currency: 'EUR',
  locale: 'en-IE',
  pages: [{ id: 'trade', path: '/trade', title: 'Trade' }],
}
const gates: Rulebook['gates'] = [{ id: 'g', on: { page: 'trade' }, open: { signedIn: true } }]
const to = (path: string, changes: Partial<Landing> = {}): Landing => ({
  id: path,
  on: 'signIn',
  for: { everyone: true },
  to: path,
  ...changes,
})
const person = (id: string) => ({ person: { id } })
const tiers = [
  { id: 'guest', visitor: { person: null } },
  { id: 'signed-in', visitor: person('p-ana') },
  { id: 'other', visitor: person('p-gu') },
]
const found = (landings: Landing[], more: Rulebook['gates'] = gates) =>
  findingsOf(
    {
      rules: new CompiledRules({ bravik: 'rulebook/1', landings, gates: more }, site as never),
      tiers,
      nowMs: 0,
    },
    findingGroups.landings,
  ).map(({ code, place, tier, facts }) => [code, place.key, tier, (facts as { on?: string }).on])

describe('findings', () => {
  it('name a landing that leads nowhere, once, with an example', () => {
    expect(found([to('/nowhere')])).toEqual([['landing-nowhere', '/nowhere', 'signed-in', 'signIn']])
  })

  it('name a landing that leads somebody to what does not open for them', () => {
    expect(found([to('/trade')], [{ id: 'g', on: { page: 'trade' }, open: { nobody: true } }])).toEqual([
      ['landing-shut', '/trade', 'signed-in', 'signIn'],
    ])
    expect(found([to('/trade')])).toEqual([])
  })

  it('take whoever has signed out for a guest', () => {
    expect(found([to('/trade', { on: 'signOut' })])).toEqual([['landing-shut', '/trade', 'signed-in', 'signOut']])
  })
})
