import { describe, expect, it } from 'vitest'
import { wexlowRulebook } from '../../../demo/wexlow/rulebook'
import { wexlowSite } from '../../../tests/support/wexlow-site'
import { CompiledRules } from '../../gates/compiled'
import { CompiledDecider } from '../../gates/compiled-decider'
import type { Gate } from '../../rulebook/gate'
import type { Visitor } from '../../visitor/visitor'
import { siteWords } from '../../site-words/site-words'
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

  it('is free where whoever signs up gets it, by asking where there is a form for it, and else not told', () => {
    const free = (more: object) => ({
      ...wexlowRulebook,
      levels: wexlowRulebook.levels!.map(one =>
        one.id === 'maker' ? { id: 'maker', name: 'Maker', rank: one.rank, ...more } : one,
      ),
    })
    const open: Gate['open'] = { level: { in: ['maker'] } }
    const forms: WaysAsk['forms'] = [
      { path: '/apply/role/maker', about: { kind: 'role', id: 'maker' } },
      { path: '/apply/level/guild', about: { kind: 'level', id: 'guild' } },
      { path: '/apply/level/maker', about: { kind: 'level', id: 'maker' } },
    ]
    const asked = [{ words: 'as Maker, by asking', href: '/apply/level/maker' }]
    expect(told(open, guest, {}, free({ onSignUp: true }))).toEqual([{ words: 'as Maker, free', href: '/sign-up' }])
    expect(told(open, guest, { forms }, free({ onSignUp: true }))).toEqual([
      { words: 'as Maker, free', href: '/sign-up' },
    ])
    expect(told(open, pia, { forms }, free({ onSignUp: true }))).toEqual(asked)
    expect(told(open, guest, { signUp: null, forms }, free({ onSignUp: true }))).toEqual(asked)
    expect(told(open, guest, { forms }, free({}))).toEqual(asked)
    expect(told(open, guest, { forms: forms.slice(0, 2) }, free({}))).toEqual([])
    // A role with a form and no name for visitors is told to nobody.
    const role: WaysAsk['forms'] = [{ path: '/apply/role/test-knitter', about: { kind: 'role', id: 'test-knitter' } }]
    const nameless = { ...wexlowRulebook, roles: wexlowRulebook.roles!.map(({ publicName: _, ...one }) => one) }
    expect(told({ role: { anyOf: ['test-knitter'] } }, pia, { forms: role }, nameless)).toEqual([])
  })

  it('is to wait for a weekday, an hour or how long one is there, or to have bought of a category', () => {
    expect(told({ weekday: { in: ['sun'] } }, guest)).toEqual([{ words: 'on a Sunday' }])
    expect(told({ weekday: { in: ['mon'] } }, guest)).toEqual([{ words: 'on a Monday' }])
    expect(told({ time: { from: '14:00', until: '16:00' } }, guest)).toEqual([{ words: 'at 14:00' }])
    const since: Visitor = { ...pia, levels: [{ level: 'maker', since: '2026-11-20T00:00:00Z' }] }
    expect(told({ memberFor: { atLeast: 'P30D' } }, since)).toEqual([{ words: 'from 20 December 2026' }])
    const { id, title, path } = wexlowSite.categories!.find(one => one.path)!
    expect(told({ bought: { category: id } }, pia)).toEqual([{ words: `with something of ${title}`, href: path }])
    expect(told({ bought: { category: 'gone' } }, pia)).toEqual([])
  })

  it('of several things at once says all of them, and leads to the first', () => {
    const open: Gate['open'] = { all: [{ level: { atLeast: 'maker' } }, { date: { from: '2026-12-05' } }] }
    expect(told(open, pia)).toEqual([
      { words: 'as Maker, €6.00 a month, on 5 December 2026', href: '/account/buy?level=maker' },
    ])
    const waits: Gate['open'] = { all: [{ weekday: { in: ['sun'] } }, { time: { from: '14:00', until: '16:00' } }] }
    expect(told(waits, pia)).toEqual([{ words: 'on a Sunday, at 14:00' }])
    // What somebody cannot do makes none of the rest a way.
    expect(told({ all: [{ date: { from: '2026-12-05' } }, { signedIn: true }] }, guest)).toEqual([])
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
