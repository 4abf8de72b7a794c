import { describe, expect, it } from 'vitest'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { wexlowSite } from '../../tests/support/wexlow-site'
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import type { Gate } from '../rulebook/gate'
import type { Visitor } from '../visitor/visitor'
import { siteWords } from '../site-words/site-words'
import { PageQuestions } from './questions'
import { mostWays, wayName, waysTo } from './ways-to'
import type { WaysAsk } from './ways-to'

const nowMs = Date.parse('2026-11-24T10:00:00Z')
const guest: Visitor = { person: null }
const pia: Visitor = { person: { id: 'p-pia' } }
function told(open: Gate['open'], visitor: Visitor, more: Partial<WaysAsk> = {}, book = wexlowRulebook) {
  const gates: Gate[] = [{ id: 'g', on: { page: 'visit' }, open: open!, find: { everyone: true } }]
  return waysTo({
    rules: new CompiledRules({ ...book, gates }, wexlowSite),
    visitor,
    nowMs,
    thing: { kind: 'page', id: 'visit' },
    finds: () => true,
    href: path => path,
    signIn: '/sign-in?back=/visit',
    signUp: '/sign-up',
    forms: [],
    words: siteWords(undefined, 'en-GB', () => false),
    ...more,
  })
}

describe('what would let a visitor in', () => {
  it('is the lowest level that does, with its price, and where to get it', () => {
    const maker = { words: 'as Maker, €6.00 a month' }
    expect(told({ level: { atLeast: 'maker' } }, guest)).toEqual([{ ...maker, href: '/sign-up' }])
    expect(told({ level: { atLeast: 'maker' } }, pia)).toEqual([{ ...maker, href: '/account/buy?level=maker' }])
    expect(told({ level: { atLeast: 'maker' } }, guest, { signUp: null })[0]!.href).toBe('/sign-in?back=/visit')
  })

  it('is a day, an application or a purchase; nobody is told to sign in here', () => {
    expect(told({ date: { from: '2026-12-05' } }, guest)).toEqual([{ words: 'on 5 December 2026' }])
    const forms: WaysAsk['forms'] = [{ path: '/apply/role/test-knitter', about: { kind: 'role', id: 'test-knitter' } }]
    const role = wexlowRulebook.roles!.find(one => one.id === 'test-knitter')!
    const book = {
      ...wexlowRulebook,
      roles: wexlowRulebook.roles!.map(one => (one === role ? { ...role, publicName: 'a test knitter' } : one)),
    }
    const open: Gate['open'] = { role: { anyOf: ['test-knitter', 'islander'] } }
    expect(told(open, pia, { forms }, book)).toEqual([
      { words: 'as a test knitter, by asking', href: '/apply/role/test-knitter' },
    ])
    expect(told({ bought: { product: 'drop-spindle' } }, pia)).toEqual([
      { words: 'with Drop spindle', href: '/shop/goods/drop-spindle' },
    ])
    expect(told({ bought: { product: 'drop-spindle' } }, pia, { finds: () => false })).toEqual([])
    expect(told({ signedIn: true }, guest)).toEqual([])
  })

  it('tells of no level that is not told, of nothing nobody can do anything about, and never of more than three', () => {
    const hidden = { ...wexlowRulebook, levels: wexlowRulebook.levels!.map(one => ({ ...one, shown: false })) }
    expect(told({ level: { atLeast: 'maker' } }, guest, {}, hidden)).toEqual([])
    expect(told({ country: { in: ['FR'] } }, guest)).toEqual([])
    const any: Gate['open'] = {
      any: [
        { level: { in: ['maker'] } },
        { level: { in: ['guild'] } },
        { date: { from: '2026-12-01', until: '2026-12-01' } },
        { date: { from: '2027-01-01', until: '2027-01-01' } },
        { bought: { product: 'drop-spindle' } },
      ],
    }
    expect(told(any, pia).length).toBe(mostWays)
  })

  it('is remembered by all that gates look at, what stands behind the path too', () => {
    const gates: Gate[] = [
      { id: 'page', on: { page: 'visit' }, open: { level: { atLeast: 'maker' } }, find: { everyone: true } },
      { id: 'poster', on: { path: '/visit?from=poster' }, open: { level: { atLeast: 'guild' } } },
    ]
    const rules = new CompiledRules({ ...wexlowRulebook, gates }, wexlowSite)
    const ways = (query: Record<string, string>) =>
      new PageQuestions({
        rules,
        decider: new CompiledDecider(rules, { ...pia, request: { query } }, nowMs),
        path: '/visit',
        source: { forms: [] },
      })
        .ways({ kind: 'page', id: 'visit' })
        .map(one => one.words)
    const [plain, poster] = [ways({}), ways({ from: 'poster' })]
    expect(plain[0]).toContain('as Maker')
    expect(poster[0]).toContain('as Guild')
    expect([ways({}), ways({ from: 'poster' })]).toEqual([plain, poster])
  })

  it('has a short name: the first level or role on the way that has one', () => {
    const { levels = [], roles = [] } = wexlowRulebook
    const quiet = {
      ...wexlowRulebook,
      levels: levels.map(one => (one.id === 'maker' ? { ...one, shown: false } : one)),
      roles: roles.map(one => (one.id === 'islander' ? { ...one, publicName: 'an islander' } : one)),
    }
    const name = (...ways: Parameters<typeof wayName>[1][number][]) =>
      wayName(new CompiledRules(quiet, wexlowSite), ways)
    expect(name([{ level: 'guild' }], [{ role: 'islander' }])).toBe('Guild')
    expect(name([{ date: '2026-12-01' }, { level: 'guild' }])).toBe('Guild')
    // A level that is not told of has no name.
    expect(name([{ level: 'maker' }], [{ role: 'islander' }])).toBe('an islander')
    expect(name([{ level: 'maker' }])).toBeNull()
    expect(name([{ level: 'nothing' }], [{ date: '2026-12-01' }])).toBeNull()
    expect(name()).toBeNull()
  })
})
