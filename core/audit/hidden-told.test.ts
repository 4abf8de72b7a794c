import { describe, expect, it } from 'vitest'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { CompiledRules, thingsOf } from '../gates/compiled'
import { toldBit } from '../gates/verdict'
import type { Gate, Otherwise } from '../rulebook/gate'
import type { Rulebook } from '../rulebook/rulebook'
import { findingsOf } from './findings/findings'
import { cellAt, impactOf, reachBoard } from './reach-board'

const world = wexlowCase()
const things = thingsOf(world.site)
const tiers = [
  { id: 'guest', name: 'Guest', visitor: { person: null } },
  { id: 'friend', name: 'Friend', visitor: { person: { id: 'f' } } },
]
const trade = { id: 'trade', on: { page: 'trade', below: true }, open: { role: { anyOf: ['stockist'] } } } as Gate
const rulesOf = (otherwise: Otherwise | undefined, more: Partial<Rulebook> = {}, gates: Gate[] = []) =>
  new CompiledRules(
    { ...world.book, gates: [...gates, otherwise ? { ...trade, otherwise } : trade], ...more },
    world.site,
  )
const boardOf = (rules: CompiledRules) => reachBoard(rules, things, tiers, 0)
const told = (rules: CompiledRules) =>
  tiers.map((_, t) => things.filter((_one, i) => cellAt(boardOf(rules), i, t) & toldBit).map(one => one.id))
const found = (rules: CompiledRules) => findingsOf({ rules, tiers, nowMs: 0 }, ['hidden-told'])
const below = ['trade', 'trade-prices', 'lookbook']
const redirect = { redirect: { to: '/join' } }

describe('what may not be found', () => {
  it('is told of where a redirect replaces its absence, for those it is said to', () => {
    expect(told(rulesOf(redirect))).toEqual([below, below])
    expect(told(rulesOf({ guest: redirect }))).toEqual([below, []])
    expect(found(rulesOf({ guest: redirect }))).toEqual([
      {
        code: 'hidden-told',
        place: { kind: 'gate', key: 'trade' },
        tier: 'guest',
        facts: { how: 'redirect', example: { kind: 'page', id: 'trade' }, things: 3 },
      },
    ])
  })

  it('is not where nothing is sent, or where what is not there answers alike', () => {
    const any = { otherwise: { any: redirect } }
    const quiet = [
      rulesOf(undefined),
      rulesOf({ absent: true }, { settings: any }),
      rulesOf(undefined, { settings: { ...any, unknownAddress: 'asPage' } }),
    ]
    for (const rules of quiet) {
      expect(told(rules)).toEqual([[], []])
      expect(found(rules)).toEqual([])
    }
    expect(found(rulesOf(undefined, { settings: any }))).toMatchObject([{ place: { kind: 'settings', key: 'site' } }])
  })

  it('is told apart where a guard answers those it refuses alone', () => {
    const guard: Gate = { id: 'g', on: { path: '/trade/**' }, open: { signedIn: true }, otherwise: redirect }
    const rules = rulesOf(undefined, {}, [guard])
    expect(told(rules)).toEqual([below, []])
    expect(found(rules)).toMatchObject([{ place: { kind: 'gate', key: 'g' }, tier: 'guest' }])
  })

  it('is told of where a redirect leads back, by itself or by another, and nowhere else', () => {
    const ledBack = (rules: CompiledRules) => findingsOf({ rules, tiers, nowMs: 0 }, ['redirect-leads-back'])
    const to = (path: string) => ({ redirect: { to: path } })
    expect(ledBack(rulesOf(redirect))).toEqual([])
    expect(ledBack(rulesOf({ guest: to('/trade/prices') }))).toEqual([
      {
        code: 'redirect-leads-back',
        place: { kind: 'gate', key: 'trade' },
        tier: 'guest',
        facts: { to: '/trade/prices', example: { kind: 'page', id: 'trade' } },
      },
    ])
    const join: Gate = {
      id: 'join',
      on: { page: 'join' },
      open: { role: { anyOf: ['stockist'] } },
      otherwise: to('/trade'),
    }
    expect(
      ledBack(rulesOf(redirect, {}, [join]))
        .map(one => one.place.key)
        .sort(),
    ).toEqual(['join', 'trade'])
    // Out of the site, and to its own addresses, it leads somewhere.
    expect(ledBack(rulesOf(to('/sign-in?back=/trade')))).toEqual([])
    expect(ledBack(rulesOf(to('https://book.wexlow.example/')))).toEqual([])
  })

  it('moves no cell by being told', () => {
    expect(impactOf(boardOf(rulesOf(undefined)), boardOf(rulesOf(redirect)))).toMatchObject({ moved: 0 })
  })
})
