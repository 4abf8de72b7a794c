import { describe, expect, it } from 'vitest'
import { bookOf, forMakers, guest, maker, pia, siteOf, at as now } from '../../tests/support/page-at'
import type { Resource } from '../kinds/kinds'
import type { Visitor } from '../visitor/visitor'
import { explain } from './explain'
import type { Explanation } from './explain'
import { PlainDecider } from './plain-decider'
import { RuleSet } from './rule-set'

const site = siteOf({
  pages: [
    { id: 'wool', path: '/wool' },
    { id: 'dyes', path: '/wool/dyes', parent: 'wool' },
  ],
  topics: [{ id: 'a' }, { id: 'b' }],
  posts: [{ id: 'vat', path: '/vat', topics: ['a', 'b'] }],
  categories: [{ id: 'yarn', path: '/yarn' }],
  products: [{ id: 'bobbin', path: '/yarn/bobbin', price: 400, categories: ['yarn'] }],
  blocks: [
    { id: 'part', in: { page: 'wool' } },
    { id: 'lost', in: { page: 'gone' } },
    { id: 'head', in: { frame: 'header' } },
  ],
})
const page = (id: string): Resource => ({ kind: 'page', id })
const bobbin: Resource = { kind: 'product', id: 'bobbin' }
const masterKeys = { settings: { masterKeys: ['keeper'] } }
const keeper: Visitor = { person: { id: 'p-ines' }, roles: ['keeper'] }

function why(gates: object[], thing: Resource, visitor: Visitor = guest, book: object = {}): Explanation {
  return explain(new PlainDecider(new RuleSet(bookOf(gates, book), site), visitor, now), thing)!
}
const never = { nobody: true }

describe('why a thing does not open', () => {
  it('is the innermost gate that refuses, with its place in the chain and every part of what it asks', () => {
    const either = { any: [forMakers, { country: { in: ['IE'] } }] }
    const gates = [
      { on: { everything: true }, open: { everyone: true } },
      { on: { kind: 'page' }, open: either },
      { on: { page: 'wool', below: true }, open: { signedIn: true }, find: { everyone: true } },
      { on: { page: 'dyes' }, open: { everyone: true } },
    ]
    const { gates: told, decidedBy, verdict, standsIn, closed } = why(gates, page('dyes'))
    expect([decidedBy, verdict.open, standsIn, closed]).toEqual(['g2', false, undefined, undefined])
    expect(told.map(({ id, order, step, on, branch, refuses }) => [id, order, step, on, branch, refuses])).toEqual([
      ['g0', 0, 'everything', undefined, undefined, false],
      ['g1', 1, 'kind', 'page', undefined, true],
      ['g2', 2, 'page', 'wool', 0, true],
      ['g3', 3, 'self', 'dyes', undefined, false],
    ])
    expect(Object.keys(told[0]!)).not.toContain('on')
    expect(Object.keys(told[1]!)).not.toContain('branch')
    const values = { '': 'unknown', '/any/0': false, '/any/1': 'unknown' }
    const asked = { condition: either, value: 'unknown', values, inForce: true }
    expect(told[1]!.rights).toEqual([
      { right: 'find', ...asked },
      { right: 'open', ...asked },
    ])
    expect(told[2]!.rights.map(one => [one.right, one.value])).toEqual([
      ['find', true],
      ['open', false],
    ])
    expect(why(gates, page('dyes'), { ...maker }).decidedBy).toBeUndefined()
  })

  it('tells the ways there are apart, and a gate that forgets those before it', () => {
    const gates = [
      { on: { everything: true }, open: never },
      { on: { topic: 'a' }, open: never },
      { on: { topic: 'b' }, open: { everyone: true }, inherit: false },
    ]
    const { gates: told } = why(gates, { kind: 'post', id: 'vat' })
    expect(told.map(one => [one.id, one.on, one.branch])).toEqual([
      ['g0', undefined, undefined],
      ['g1', 'a', 0],
      ['g2', 'b', 1],
    ])
    const alone = why([gates[0]!, { on: { page: 'wool' }, open: { everyone: true }, inherit: false }], page('wool'))
    expect(alone.gates.map(one => [one.rights[0]!.inForce, one.refuses])).toEqual([
      [false, false],
      [true, false],
    ])
    expect(alone.verdict.open).toBe(true)
    // One that says nothing of a right forgets it all the same, and tells of none.
    const silent = why([gates[0]!, { on: { page: 'wool' }, find: { everyone: true }, inherit: false }], page('wool'))
    expect(silent.gates[1]!.rights.map(one => one.right)).toEqual(['find'])
  })

  it('is what it stands in, or that it stands nowhere', () => {
    const part: Resource = { kind: 'block', id: 'part' }
    const inside = why([{ on: { page: 'wool' }, open: forMakers }], part)
    expect([inside.standsIn?.decidedBy, inside.decidedBy, inside.standsNowhere]).toEqual(['g0', undefined, undefined])
    const lost = why([], { kind: 'block', id: 'lost' })
    expect([lost.standsNowhere, 'standsIn' in lost, lost.verdict.open]).toEqual([true, false, false])
    const framed = why([], { kind: 'block', id: 'head' })
    expect([framed.standsNowhere, framed.standsIn, framed.verdict.open]).toEqual([undefined, undefined, true])
    const decider = new PlainDecider(new RuleSet(bookOf(), site), guest, now)
    expect(explain(decider, page('gone'))).toBeNull()
  })
})

describe('a guard', () => {
  const guards = [
    { on: { page: 'wool' }, open: { everyone: true } },
    { on: { path: '/wool?from=poster' }, open: never, inherit: false },
    { on: { path: '/wool' }, open: { signedIn: true } },
  ]
  const from = (query: Record<string, string>): Visitor => ({ ...guest, request: { query } })

  it('comes last, sleeps where what stands behind the path is another, and forgets nothing', () => {
    const asleep = why(guards, page('wool'))
    expect(asleep.gates.map(one => [one.id, one.step, one.asleep, one.refuses])).toEqual([
      ['g0', 'self', undefined, false],
      ['g1', 'guard', true, false],
      ['g2', 'guard', undefined, true],
    ])
    expect(asleep.decidedBy).toBe('g2')
    const awake = why(guards, page('wool'), { ...from({ from: 'poster' }), person: { id: 'p' } })
    expect(awake.gates.map(one => [one.id, one.asleep, one.refuses, one.rights[0]!.inForce])).toEqual([
      ['g0', undefined, false, true],
      ['g1', undefined, true, true],
      ['g2', undefined, false, true],
    ])
    expect(awake.decidedBy).toBe('g1')
  })

  it('withholds nothing while it sleeps', () => {
    const guard = { on: { path: '/yarn/bobbin?from=poster' }, take: never }
    expect(why([guard], bobbin).withheldBy).toBeUndefined()
    expect(why([guard], bobbin, from({ from: 'poster' })).withheldBy).toEqual({ take: 'g0' })
    const both = [{ on: { product: 'bobbin' }, take: forMakers }, guard]
    expect(why(both, bobbin).withheldBy).toEqual({ take: 'g0' })
  })
})

describe('what of an open product is withheld', () => {
  it('is told by the innermost gate that says so of the price, or of buying', () => {
    const open = { on: { product: 'bobbin' }, open: { everyone: true } }
    expect(why([open], bobbin).withheldBy).toBeUndefined()
    const price = { on: { kind: 'product' }, price: forMakers }
    expect(why([price, open], bobbin).withheldBy).toEqual({ price: 'g0', take: 'g0' })
    const take = { on: { product: 'bobbin' }, take: forMakers, price: { everyone: true } }
    expect(why([price, take], bobbin).withheldBy).toEqual({ price: 'g0', take: 'g1' })
    expect(why([take, open], bobbin).withheldBy).toEqual({ take: 'g0' })
    expect(why([{ ...take, on: { kind: 'product' } }, take], bobbin).withheldBy).toEqual({ take: 'g1' })
    expect(why([price, take], bobbin, maker).withheldBy).toBeUndefined()
    // A gate that is forgotten withholds nothing.
    const anew = { on: { product: 'bobbin' }, inherit: false, price: { everyone: true } }
    expect(why([price, anew], bobbin).withheldBy).toBeUndefined()
    // Of what does not open nothing is withheld besides.
    expect(why([{ ...price, open: never }], bobbin).withheldBy).toBeUndefined()
  })
})

describe('the answer to a refusal', () => {
  const teaser = { teaser: true }
  it('is marked at the gate it is from', () => {
    const gates = [
      { on: { kind: 'page' }, open: never, otherwise: { absent: true } },
      { on: { page: 'wool' }, open: never, otherwise: teaser },
    ]
    const told = why(gates, page('wool'))
    expect(told.otherwise?.value).toEqual(teaser)
    expect(told.gates.map(one => one.answers)).toEqual([undefined, true])
    expect(why(gates.slice(0, 1), page('wool')).gates[0]!.answers).toBe(true)
    const settings = { settings: { otherwise: { any: teaser } } }
    const usual = why([{ on: { page: 'wool' }, open: never }], page('wool'), guest, settings)
    expect([usual.otherwise?.value, usual.gates[0]!.answers]).toEqual([teaser, undefined])
    const bare = why([{ on: { page: 'wool' }, open: never }], page('wool'))
    expect([bare.otherwise?.from, bare.gates[0]!.answers]).toEqual(['default', undefined])
    expect(why([], page('wool')).otherwise).toBeUndefined()
  })

  it('of an open product that is not sold is its notice', () => {
    const gates = [
      { on: { kind: 'product' }, take: never, takeNotice: { text: 'Ask' } },
      { on: { product: 'bobbin' }, take: never, takeNotice: { text: 'Ask Guda' } },
    ]
    const told = why(gates, bobbin)
    expect(told.takeNotice?.value).toEqual({ text: 'Ask Guda' })
    expect(told.gates.map(one => one.answers)).toEqual([undefined, true])
    expect(told.otherwise).toBeUndefined()
    expect('takeNotice' in why([{ on: { product: 'bobbin' }, take: never }], bobbin)).toBe(false)
    const guard = { on: { path: '/yarn/bobbin' }, take: forMakers, takeNotice: { text: 'Makers' } }
    expect(why([...gates, guard], bobbin).takeNotice?.value).toEqual({ text: 'Makers' })
    expect(why([guard], bobbin, maker).takeNotice).toBeUndefined()
    expect(why([...gates, guard], bobbin, maker).takeNotice?.value).toEqual({ text: 'Ask Guda' })
  })
})

describe('the master key', () => {
  const gates = [{ on: { page: 'wool' }, open: forMakers }]
  it('is told where it is what admits', () => {
    const { verdict, gates: told } = why(gates, page('wool'), keeper, masterKeys)
    expect([verdict.open, verdict.masterKey]).toEqual([true, true])
    expect(told[0]!.rights[1]).toEqual({
      right: 'open',
      condition: forMakers,
      value: true,
      values: { '': true },
      inForce: true,
      withKey: true,
    })
    expect(told[0]!.refuses).toBe(false)
  })

  it('is not where they are admitted anyway, have none, or it does not help', () => {
    const right = (visitor: Visitor, open: object = forMakers) =>
      why([{ on: { page: 'wool' }, open }], page('wool'), visitor, masterKeys).gates[0]!.rights[0]!
    expect(right({ ...keeper, levels: maker.levels! })).toMatchObject({ value: true })
    expect(right({ ...keeper, levels: maker.levels! })).not.toHaveProperty('withKey')
    expect(right(pia)).toMatchObject({ value: false, values: { '': false } })
    expect(right(keeper, never)).toMatchObject({ value: false })
    expect(right(keeper, never)).not.toHaveProperty('withKey')
  })

  it('lets past a guard that would refuse, whose notice is then not the answer', () => {
    const guard = { on: { path: '/yarn/bobbin' }, take: forMakers, takeNotice: { text: 'Makers' } }
    const shut = { on: { product: 'bobbin' }, take: never, takeNotice: { text: 'Nobody' } }
    expect(why([shut, guard], bobbin, keeper, masterKeys).takeNotice?.value).toEqual({ text: 'Nobody' })
    expect(why([shut, guard], bobbin, guest, masterKeys).takeNotice?.value).toEqual({ text: 'Makers' })
  })
})

describe('gates that are switched off', () => {
  it('are told of as off, and refuse nobody', () => {
    const gates = [
      { on: { page: 'wool' }, open: never, active: false },
      { on: { page: 'wool' }, open: { everyone: true } },
    ]
    const { gates: told, verdict } = why(gates, page('wool'))
    expect(told.map(one => [one.id, one.off, one.refuses])).toEqual([
      ['g0', true, false],
      ['g1', undefined, false],
    ])
    expect(verdict.open).toBe(true)
  })
})
