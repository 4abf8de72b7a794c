import { describe, expect, it } from 'vitest'
import { at as now, bookOf, forMakers, guest, maker, pia, siteOf } from '../../tests/support/page-at'
import type { Resource } from '../kinds/kinds'
import type { Visitor } from '../visitor/visitor'
import { CompiledDecider } from './compiled-decider'
import { CompiledRules } from './compiled'
import { masterKeyBit, rightBit } from './verdict'

const site = siteOf({
  pages: [
    { id: 'wool', path: '/wool' },
    { id: 'irish', path: '/irish' },
  ],
  products: [{ id: 'bobbin', path: '/bobbin', price: 400 }],
  blocks: [
    { id: 'one-of', in: { page: 'wool' }, oneOf: true },
    { id: 'first', in: { block: 'one-of' } },
    { id: 'second', in: { block: 'one-of' } },
  ],
})
const country = { country: { in: ['IE'] } }
const gates = [
  { on: { page: 'irish' }, open: country },
  { on: { block: 'first' }, open: forMakers },
]
const page = (id: string): Resource => ({ kind: 'page', id })
const facts = [{ id: 'near', type: 'flag', from: { service: 'places', path: '/near/{person}' } }]
const deciderOf = (visitor: Visitor = guest, more: object[] = [], book: object = {}) =>
  new CompiledDecider(new CompiledRules(bookOf([...gates, ...more], { facts, ...book } as never), site), visitor, now)
/** What was noted of the visitor on the way to an answer. */
function noted(ask: (decider: CompiledDecider) => unknown, visitor: Visitor = guest) {
  const decider = deciderOf(visitor)
  const seen = decider.watch()
  const answer = ask(decider)
  return { ...decider.watchedQuestions(), answer, facts: [...seen].sort() }
}

describe('a decider that is watched', () => {
  it('notes what it was asked, each once, and what of the request that looks at', () => {
    const told = noted(decider => [
      decider.bits(page('irish')),
      decider.bits(page('irish')),
      decider.admits(country as never),
    ])
    expect([told.facts, told.weaves.size, told.conditions.size]).toEqual([['country'], 1, 1])
    expect(noted(decider => decider.bits(page('gone')))).toMatchObject({ answer: 0, facts: [] })
    expect(noted(decider => decider.watchedBits(decider.rules.weaveOf(page('irish')))).facts).toEqual(['country'])
    expect(noted(decider => decider.watchedBits(-1))).toMatchObject({ answer: 0, facts: [] })
    expect(noted(decider => decider.bitsOfWeave(decider.rules.weaveOf(page('irish')))).facts).toEqual([])
    expect(noted(decider => decider.bitsOfWeave(-1)).answer).toBe(0)
  })

  it('notes who they are where they are told so, and where what they get instead turns on it', () => {
    expect(noted(decider => decider.signedIn, pia)).toMatchObject({ answer: true, facts: ['person'] })
    expect(noted(decider => decider.person, pia)).toMatchObject({ answer: pia.person, facts: ['person'] })
    expect(noted(decider => decider.person).answer).toBeNull()
    expect(noted(decider => decider.decide(page('wool')).open)).toMatchObject({ answer: true, facts: [] })
    expect(noted(decider => decider.decide(page('irish')).open)).toMatchObject({
      answer: false,
      facts: ['country', 'person'],
    })
    expect(noted(decider => decider.turnsOn('clock')).facts).toEqual(['clock'])
  })

  it('notes that codes, places and languages were looked at', () => {
    const coded = { ...guest, codes: [{ offer: 'o', code: 'wool' }] }
    const code = noted(decider => [decider.gaveCode('o', 'wool'), decider.gaveCode('p', 'wool')], coded)
    expect(code).toMatchObject({ answer: [true, false], facts: ['basket'] })
    expect([...code.codes]).toEqual(['o', 'p'])
    const at: Visitor = { ...guest, request: { country: 'ES', region: 'ES-CT', language: 'ca' } }
    expect(noted(decider => decider.whereabouts, at)).toMatchObject({
      answer: { country: 'ES', region: 'ES-CT' },
      facts: ['country'],
      place: true,
    })
    expect(noted(decider => decider.language, at)).toMatchObject({ answer: 'ca', facts: ['language'], place: false })
  })

  it('notes all of several of which one shows, wherever it stops', () => {
    const oneOf: Resource = { kind: 'block', id: 'one-of' }
    const asked = noted(decider => decider.shows(oneOf), maker)
    expect([asked.answer, asked.weaves.size, asked.facts]).toEqual(['first', 2, ['person']])
    expect(noted(decider => decider.shows(oneOf)).answer).toBe('second')
    const none = deciderOf(guest, [{ on: { kind: 'block' }, open: { nobody: true } }])
    expect(none.shows(oneOf)).toBeNull()
  })

  it('notes nothing before, and anew from each watch on', () => {
    const decider = deciderOf()
    decider.bits(page('irish'))
    expect(decider.watching).toBeUndefined()
    expect(decider.watchedQuestions()).toEqual({
      weaves: new Set(),
      conditions: new Set(),
      codes: new Set(),
      place: false,
    })
    const first = decider.watch()
    decider.bits(page('irish'))
    const before = decider.watching
    expect(before).toBe(decider.watching)
    const second = decider.watch()
    expect([[...first], [...second]]).toEqual([['country'], []])
    // Whatever was remembered for the first watch does not hold for the second.
    expect(decider.watching).toBeInstanceOf(Object)
    expect(decider.watching).not.toBe(before)
  })
})

describe('the same visitor', () => {
  const asks = (decider: CompiledDecider, condition: object) => decider.admits(condition as never)

  it('of whom more is known, who asks otherwise, or holds something, is decided anew', () => {
    const known = { fact: { name: 'near', is: true } }
    const decider = deciderOf({ ...pia, facts: { near: false }, request: { country: 'FR', query: { a: '1' } } })
    expect([asks(decider, known), asks(decider.withFacts({ near: true }), known)]).toEqual([false, true])
    expect(decider.withFacts({ near: true }).visitor.request).toEqual(decider.visitor.request)
    const irish = decider.withRequest({ country: 'IE' })
    expect([asks(decider, country), asks(irish, country)]).toEqual([false, true])
    expect(irish.visitor.request).toEqual({ country: 'IE', query: { a: '1' } })
    const holds = { basket: { product: 'bobbin' } }
    const holding = decider.withBasket([{ product: 'bobbin', quantity: 1 }])
    expect([asks(decider, holds), asks(holding, holds)]).toEqual([false, true])
    expect(asks(decider.withFacts({ other: 1 }), known)).toBe(false)
  })

  it('has missed what they missed who ask otherwise, and not who are known better', () => {
    const known = { fact: { name: 'near', is: true } }
    const decider = deciderOf(pia)
    asks(decider.withRequest({ country: 'IE' }), known)
    expect([...decider.asker.missed]).toEqual(['near'])
    expect([...decider.withBasket([]).asker.missed]).toEqual(['near'])
    expect([...decider.withFacts({ near: true }).asker.missed]).toEqual([])
  })
})

describe('with the master key', () => {
  const settings = { settings: { masterKeys: ['keeper'] } }
  const keeper: Visitor = { person: { id: 'p-ines' }, roles: ['keeper'] }

  it('what only the key admits is marked so, part by part', () => {
    const rules = [{ on: { page: 'wool' }, open: forMakers, search: country }]
    const bits = (visitor: Visitor, book: object = settings) => deciderOf(visitor, rules, book).bits(page('wool'))
    const { find, open, search } = rightBit
    expect(bits(keeper)).toBe(find | open | masterKeyBit)
    expect(bits({ ...keeper, levels: maker.levels! })).toBe(find | open)
    expect(bits({ ...keeper, request: { country: 'IE' } })).toBe(find | open | search | masterKeyBit)
    expect(bits(keeper, {})).toBe(0)
    expect(bits(pia)).toBe(0)
  })

  it('what stands in something opens by it where that does', () => {
    const rules = [{ on: { page: 'wool' }, open: forMakers }]
    const bits = (visitor: Visitor) => deciderOf(visitor, rules, settings).bits({ kind: 'block', id: 'second' })
    const { find, open, search } = rightBit
    expect([bits(keeper), bits(maker), bits(pia)]).toEqual([
      find | open | search | masterKeyBit,
      find | open | search,
      0,
    ])
  })

  it('a condition is admitted by it, and a guard passed', () => {
    const decider = deciderOf(keeper, [], settings)
    expect([decider.admits(forMakers), decider.admitsOrKey(forMakers)]).toEqual([false, true])
    expect(deciderOf(keeper).admitsOrKey(forMakers)).toBe(false)
    expect(deciderOf(maker).admitsOrKey(forMakers)).toBe(true)
    expect(decider.admitsOrKey({ nobody: true })).toBe(false)
    const guarded = [{ on: { path: '/wool?a=1' }, open: forMakers }]
    const request = { query: { a: '1' } }
    expect(deciderOf({ ...keeper, request }, guarded, settings).bits(page('wool')) & rightBit.open).toBe(rightBit.open)
    expect(deciderOf({ ...pia, request }, guarded, settings).bits(page('wool')) & rightBit.open).toBe(0)
    expect(deciderOf(pia, guarded, settings).bits(page('wool')) & rightBit.open).toBe(rightBit.open)
  })

  it('another thing opens to a condition as it does with the key, or without', () => {
    const opens = { opens: { page: 'wool' } }
    const rules = [{ on: { page: 'wool' }, open: forMakers }]
    const decider = deciderOf(keeper, rules, settings)
    expect([decider.admits(opens as never), decider.admitsOrKey(opens as never)]).toEqual([false, true])
    expect([deciderOf(maker, rules).admits(opens as never), decider.opens('page', 'gone')]).toEqual([true, false])
  })
})
