import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyGates, anyVisitor } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { validateRulebook } from '../check/validate'
import type { Gate } from '../rulebook/gate'
import type { Visitor } from '../visitor/visitor'
import { bookOf, siteOf } from '../../tests/support/page-at'
import { thingsOf } from './compiled'
import { givingOf, withGate } from './giving'
import { RuleSet } from './rule-set'
import { PlainDecider } from './plain-decider'
import { rightBit } from './verdict'

const world = wexlowCase()
const nowMs = Date.parse('2026-11-26T10:30:00Z')
const who = { role: { anyOf: ['weaver'] } }
const visitor: Visitor = { person: { id: 'somebody' }, roles: ['weaver'] }
const book = { ...world.book, roles: [...world.book.roles!, { id: 'weaver' }] }
const rulesOf = (gates: Gate[]) => new RuleSet({ ...book, gates }, world.site)
const give = (gates: Gate[], id: string, kind = 'page') =>
  givingOf(rulesOf(gates), { kind: kind as 'page', id }, { who, visitor, newId: 'new', name: 'New' }, nowMs)
const maker = { level: { atLeast: 'maker' } }
const library: Gate = {
  id: 'library',
  on: { page: 'techniques', below: true },
  open: maker,
  find: { everyone: true },
  otherwise: { teaser: true },
}
const below = world.site.pages!.find(page => page.parent === 'techniques')!.id

describe('giving somebody a thing', () => {
  it('says it in the gate that stands on it, where that alone refuses them', () => {
    const trade: Gate = { id: 'trade', on: { page: 'trade' }, open: { any: [maker, { signedIn: false }] } }
    expect(give([trade], 'trade')).toEqual({
      state: 'can',
      here: { ...trade, open: { any: [maker, { signedIn: false }, who] } },
      isNew: false,
      wide: null,
    })
  })

  it('makes a gate for it alone where one further out refuses them, or says it in that one for all it stands before', () => {
    expect(give([library], below)).toEqual({
      state: 'can',
      isNew: true,
      here: {
        id: 'new',
        name: 'New',
        on: { page: below },
        inherit: false,
        open: { any: [maker, who] },
        find: { everyone: true },
        otherwise: { teaser: true },
      },
      wide: { ...library, open: { any: [maker, who] } },
    })
  })

  it('gives nothing that opens already, is not there, or stands in what stays shut', () => {
    expect(give([], 'trade')).toEqual({ state: 'open' })
    expect(give([], 'gone')).toEqual({ state: 'missing' })
    const shut: Gate = { id: 'trade', on: { page: 'trade' }, open: maker }
    expect(give([{ ...shut, on: { page: 'cabling' } }], 'cable-chart', 'block')).toEqual({
      state: 'inside',
      in: { kind: 'page', id: 'cabling' },
    })
  })

  it('puts no gate on what holds others, which would move them too', () => {
    const category = world.site.products!.flatMap(product => product.categories ?? [])[0]!
    const kind: Gate = { id: 'kind', on: { kind: 'category' }, open: maker }
    expect(give([kind], category, 'category')).toEqual({
      state: 'can',
      here: null,
      isNew: true,
      wide: { ...kind, open: { any: [maker, who] } },
    })
  })

  it('lets them in, and nobody else gains or loses anything by it, whatever the gates', () => {
    fc.assert(
      fc.property(
        anyGates(world),
        fc.array(anyVisitor, { minLength: 1, maxLength: 3 }),
        fc.nat(),
        (gates, others, pick) => {
          const rules = rulesOf(gates)
          fc.pre(validateRulebook(rules.rulebook, world.site).every(issue => issue.code === 'states-nothing'))
          const things = thingsOf(rules.index)
          const thing = things[pick % things.length]!
          const answer = givingOf(rules, thing, { who, visitor, newId: 'new-gate', name: 'New' }, nowMs)
          if (answer.state !== 'can') return
          for (const gate of [answer.here, answer.wide]) {
            if (!gate) continue
            const next = new RuleSet(withGate(rules.rulebook, gate), rules.index)
            const bits = (set: RuleSet, as: Visitor, at = thing) => new PlainDecider(set, as, nowMs).bits(at).plain
            expect(bits(next, visitor) & rightBit.open).toBe(rightBit.open)
            for (const other of others)
              for (const one of things) expect([one, bits(next, other, one)]).toEqual([one, bits(rules, other, one)])
          }
        },
      ),
      { numRuns: 120 },
    )
  })
})

describe('the gate that would say so', () => {
  const small = siteOf({
    pages: [
      { id: 'wool', path: '/wool' },
      { id: 'dyes', path: '/dyes' },
    ],
    products: [
      { id: 'hank', path: '/hank', price: 900 },
      { id: 'moss', of: 'hank', path: '/hank/moss' },
    ],
    topics: [{ id: 'notes' }],
    posts: [{ id: 'vat', path: '/vat', topics: ['notes'] }],
    routes: ['GET /stock'] as never,
  })
  const signedIn = { signedIn: false }
  const at = (gates: object[], id = 'wool', kind = 'page') =>
    givingOf(
      new RuleSet({ ...bookOf(gates), roles: [{ id: 'weaver' }] }, small),
      { kind: kind as 'page', id },
      { who, visitor, newId: 'new', name: 'New' },
      nowMs,
    )
  const first = { id: 'g0', on: { everything: true }, open: maker }
  const second = { id: 'g1', on: { kind: 'page' }, open: signedIn }
  const isNew = { id: 'new', name: 'New', on: { page: 'wool' }, inherit: false }

  it('is one for it alone where several refuse them: for whoever passes all of those, or for them', () => {
    const open = { any: [{ all: [maker, signedIn] }, who] }
    expect(at([first, second])).toEqual({
      state: 'can',
      here: { ...isNew, open, find: open },
      isNew: true,
      wide: null,
    })
  })

  it('is the last that stands on it and reaches nothing else, with its own answer to a refusal', () => {
    const own = { id: 'g2', on: { page: 'wool' }, find: { everyone: true }, otherwise: { teaser: true } }
    const open = { any: [{ all: [maker, signedIn] }, who] }
    expect(at([first, second, own])).toEqual({
      state: 'can',
      here: { ...own, inherit: false, open, find: { any: [{ all: [maker, signedIn, own.find] }, who] } },
      isNew: false,
      wide: null,
    })
    const bare = { id: 'g2', on: { page: 'wool' }, search: maker }
    const answer = { notice: { text: 'Ask' } }
    expect(at([{ ...first, otherwise: answer }, second, bare])).toMatchObject({
      here: { id: 'g2', search: { any: [maker, who] }, otherwise: answer },
      isNew: false,
    })
    const reaching = { id: 'g2', on: { page: 'wool', below: true }, open: maker }
    expect(at([reaching])).toEqual({
      state: 'can',
      here: { ...isNew, open: { any: [maker, who] }, find: { any: [maker, who] } },
      isNew: true,
      wide: { ...reaching, open: { any: [maker, who] } },
    })
    const both = at([first, { ...second, on: { page: 'dyes' } }, { id: 'g2', on: { page: 'wool' }, open: signedIn }])
    expect(both).toMatchObject({ state: 'can', here: { id: 'g2' }, isNew: false, wide: null })
  })

  it('adds them to no right that is theirs already', () => {
    const gate = { id: 'g0', on: { page: 'wool' }, open: maker, find: { signedIn: true }, search: maker }
    expect(at([gate])).toMatchObject({
      here: { open: { any: [maker, who] }, find: { signedIn: true }, search: { any: [maker, who] } },
    })
  })

  it('of what nothing opens lets them in alone', () => {
    expect(at([], 'GET /stock', 'route')).toEqual({
      state: 'can',
      here: { id: 'new', name: 'New', on: { route: 'GET /stock' }, inherit: false, open: who, find: who },
      isNew: true,
      wide: null,
    })
    const shut = { id: 'g0', on: { kind: 'route' }, search: maker }
    expect(at([shut], 'GET /stock', 'route')).toMatchObject({
      here: { open: who, find: who, search: { any: [maker, who] } },
    })
  })

  it('is the guard itself where one refuses them, which no gate on the thing gets past', () => {
    const guard = { id: 'g0', on: { path: '/wool' }, open: maker }
    expect(at([guard])).toEqual({
      state: 'can',
      here: null,
      isNew: true,
      wide: { ...guard, open: { any: [maker, who] } },
    })
  })

  it('is none on a product with variants, nor on a topic: their gates are read on the way to others', () => {
    const kind = (of: string) => [{ id: 'g0', on: { kind: of }, open: maker }]
    expect(at(kind('product'), 'hank', 'product')).toMatchObject({ here: null })
    expect(at(kind('product'), 'moss', 'product')).toMatchObject({ here: { on: { product: 'moss' } } })
    expect(at(kind('post'), 'vat', 'post')).toMatchObject({ here: { on: { post: 'vat' } } })
    expect(at(kind('page'), 'dyes')).toMatchObject({ here: { on: { page: 'dyes' } } })
  })

  it('is put in the place of the one it is, or last', () => {
    const book = bookOf([
      { id: 'a', on: { everything: true } },
      { id: 'b', on: { everything: true } },
    ])
    const ids = (id: string) =>
      withGate(book, { id, on: { page: 'wool' } } as Gate).gates!.map(one => [one.id, 'page' in one.on])
    expect(ids('a')).toEqual([
      ['a', true],
      ['b', false],
    ])
    expect(ids('c')).toEqual([
      ['a', false],
      ['b', false],
      ['c', true],
    ])
    expect(withGate({ ...book, gates: undefined }, { id: 'c', on: { page: 'wool' } } as Gate).gates).toHaveLength(1)
  })
})
