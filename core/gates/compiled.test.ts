import { describe, expect, it } from 'vitest'
import { at as now, bookOf, forMakers, guest, maker, siteOf } from '../../tests/support/page-at'
import type { Resource } from '../kinds/kinds'
import { SiteIndex } from '../site/site-index'
import { CompiledDecider } from './compiled-decider'
import { CompiledRules, thingsOf } from './compiled'
import { decidingGate } from './deciding-gate'
import { PlainDecider } from './plain-decider'
import { RuleSet } from './rule-set'
import { rightBit } from './verdict'

const site = siteOf({
  pages: [
    { id: 'wool', path: '/wool' },
    { id: 'dyes', path: '/wool/dyes', parent: 'wool' },
    { id: 'trade', path: '/trade' },
    { id: 'visit', path: '/visit' },
  ],
  products: [{ id: 'bobbin', path: '/bobbin', price: 400 }],
  topics: [{ id: 'a' }, { id: 'b' }],
  posts: [{ id: 'vat', path: '/vat', topics: ['a', 'b'] }],
  blocks: [
    { id: 'one', in: { block: 'two' } },
    { id: 'two', in: { block: 'one' } },
    { id: 'lost', in: { page: 'gone' } },
    { id: 'part', in: { page: 'wool' } },
    { id: 'first', in: { block: 'part' } },
    { id: 'second', in: { block: 'part' } },
  ],
  registers: [
    { id: 'loans', fields: [{ id: 'deposit', type: 'money' }] },
    { id: 'open', fields: [{ id: 'name', type: 'text' }] },
  ],
})
const rulesOf = (gates: object[] = [], book: object = {}) => new CompiledRules(bookOf(gates, book), site)
const page = (id: string): Resource => ({ kind: 'page', id })
const block = (id: string): Resource => ({ kind: 'block', id })
const record = { id: 'r', register: 'loans', owner: 'p-pia' }
const inRecord = (kind: 'record' | 'field', id: string, of: typeof record = record): Resource => ({
  kind,
  id,
  record: of,
})

describe('weaves', () => {
  it('count what shares them, and keep rights that ask the same together', () => {
    const rules = rulesOf([
      { on: { page: 'wool' }, open: forMakers },
      { on: { product: 'bobbin' }, open: forMakers, take: forMakers, price: { signedIn: true } },
    ])
    const weaveOf = (thing: Resource) => rules.weaves[rules.weaveOf(thing)]!
    for (const id of ['wool', 'trade', 'visit']) rules.weaveOf(page(id))
    expect([weaveOf(page('wool')).size, weaveOf(page('visit')).size]).toEqual([1, 2])
    expect(weaveOf(page('trade')).free).toBe(
      rightBit.find | rightBit.open | rightBit.search | rightBit.price | rightBit.take,
    )
    const { find, open, take, price, search } = rightBit
    const bobbin = weaveOf({ kind: 'product', id: 'bobbin' })
    expect(bobbin.rights.map(one => one.bits)).toEqual([find | open | take, price])
    expect(bobbin.free).toBe(search)
    expect(weaveOf(page('wool')).rights.map(one => one.bits)).toEqual([find | open])
  })

  it('of what stands in a ring, or nowhere, open to nobody', () => {
    const decider = new CompiledDecider(rulesOf(), guest, now)
    for (const id of ['one', 'two', 'lost']) expect([id, decider.bits(block(id))]).toEqual([id, 0])
    expect(decider.bits(block('part')) & rightBit.open).toBe(rightBit.open)
    const { rules } = decider
    expect([rules.weaves[rules.weaveOf(block('lost'))]!.standsIn, rules.weaveOf(block('gone'))]).toEqual([-2, -1])
    expect(rules.weaves[rules.weaveOf(block('part'))]!.standsIn).toBe(rules.weaveOf(page('wool')))
    expect(rules.weaves[rules.weaveOf(page('wool'))]!.standsIn).toBe(-1)
  })

  it('know whether they turn on the record, through what they stand in too', () => {
    const rules = rulesOf([{ on: { records: 'loans' }, open: { any: [{ mine: true }, forMakers] } }])
    const turns = (thing: Resource) => rules.weaves[rules.weaveOf(thing)]!.perRecord
    const other = { id: 'o', register: 'open', owner: 'p-pia' }
    expect([turns(inRecord('record', 'r')), turns(inRecord('field', 'loans/deposit'))]).toEqual([true, true])
    expect([turns(inRecord('record', 'o', other)), turns(inRecord('field', 'open/name', other))]).toEqual([
      false,
      false,
    ])
    expect([turns(page('wool')), turns(block('part'))]).toEqual([false, false])
    expect(rules.weaveOf({ kind: 'record', id: 'r' })).toBe(-1)
  })
})

describe('rules compiled after others', () => {
  const gate = { id: 'g', on: { page: 'wool' }, open: forMakers }
  const index = new SiteIndex(site)
  const compiled = (one: object, before?: CompiledRules, over = index) => new CompiledRules(bookOf([one]), over, before)
  const before = compiled(gate)
  before.weaveOf(page('wool'))

  it('have the weaves of those where gates stand as they stood, on the same site', () => {
    const sameAs = (one: object, over = index) => compiled({ ...gate, ...one }, before, over).sameWeavesAs
    for (const same of [{}, { open: { signedIn: true } }, { active: true }, { inherit: true }, { note: 'x' }])
      expect(sameAs(same)).toBe(before)
    for (const other of [{ active: false }, { inherit: false }, { on: { page: 'dyes' } }, { id: 'h' }])
      expect(sameAs(other)).toBeUndefined()
    expect(sameAs({}, new SiteIndex(site))).toBeUndefined()
    expect(compiled(gate).sameWeavesAs).toBeUndefined()
  })
})

describe('what of a request decides', () => {
  const factsOf = (gates: object[], thing: Resource, book: object = {}) =>
    [...rulesOf(gates, book).factsOf(thing)].sort()

  it('is what conditions look at, and what stands behind the path where a guard waits for that', () => {
    const country = { country: { in: ['IE'] } }
    expect(factsOf([{ on: { page: 'wool' }, take: forMakers, open: country }], page('wool'))).toEqual([
      'country',
      'person',
    ])
    expect(factsOf([{ on: { path: '/wool?from=poster' }, open: country }], page('wool'))).toEqual(['country', 'query'])
    expect(factsOf([{ on: { path: '/wool' }, open: country }], page('wool'))).toEqual(['country'])
    expect(factsOf([{ on: { page: 'wool' }, open: country }], block('part'))).toEqual(['country'])
    expect(factsOf([{ on: { page: 'wool' }, open: country }], page('gone'))).toEqual([])
    const [one, other] = [{ opens: { page: 'dyes' } }, { opens: { page: 'wool' } }]
    const ring = [
      { on: { page: 'wool' }, open: { all: [country, one] } },
      { on: { page: 'dyes' }, open: other },
    ]
    expect(factsOf(ring, page('wool'))).toEqual(['country'])
  })

  it('is where facts come from, of the one that is asked', () => {
    const facts = [
      { id: 'craft', type: 'text' },
      { id: 'near', type: 'flag', from: { query: 'near' } },
    ]
    const gates = (name: string) => [{ on: { page: 'wool' }, open: { fact: { name, is: true } } }]
    for (const list of [facts, facts.toReversed()]) {
      expect(factsOf(gates('craft'), page('wool'), { facts: list })).toEqual(['person'])
      expect(factsOf(gates('near'), page('wool'), { facts: list })).toContain('query')
    }
    expect(factsOf(gates('none'), page('wool'), { facts })).toEqual(['person'])
    expect(factsOf(gates('none'), page('wool'))).toEqual(['person'])
  })
})

describe('the plain reading', () => {
  const masterKeys = { settings: { masterKeys: ['keeper'] } }
  const keeper = { person: { id: 'p-ines' }, roles: ['keeper'] }
  const plain = (gates: object[], visitor: object, book: object = {}) =>
    new PlainDecider(new RuleSet(bookOf(gates, book), site), visitor, now)

  it('of what is not there is unseen and absent', () => {
    expect(plain([], guest).decide(page('gone'))).toMatchObject({
      open: false,
      find: false,
      otherwise: { absent: true },
    })
  })

  it('shows of several the first that opens, with the master key too', () => {
    const gates = [{ on: { block: 'first' }, open: forMakers }]
    const shown = (visitor: object, book: object = {}) => plain(gates, visitor, book).shows(block('part'))
    expect([shown(guest), shown(maker), shown(keeper), shown(keeper, masterKeys)]).toEqual([
      'second',
      'first',
      'second',
      'first',
    ])
    expect(plain([{ on: { kind: 'block' }, open: forMakers }], guest).shows(block('part'))).toBeNull()
  })

  it('asks of another thing whether it opens', () => {
    const gates = [{ on: { page: 'wool' }, open: { opens: { page: 'dyes' } } }]
    expect(plain(gates, guest).decide(page('wool')).open).toBe(true)
    expect(plain([...gates, { on: { page: 'dyes' }, open: forMakers }], guest).decide(page('wool')).open).toBe(false)
  })

  it('opens nothing that asks for itself', () => {
    const gates = [{ on: { page: 'wool' }, open: { opens: { page: 'wool' } } }]
    expect(plain(gates, guest).decide(page('wool')).open).toBe(false)
    for (const id of ['one', 'two']) expect(plain([], guest).bits(block(id))).toEqual({ plain: 0, granted: 0 })
  })

  it('opens what stands in something where that opens without the key, and with it', () => {
    const gates = [{ on: { page: 'wool' }, open: forMakers }]
    expect(plain(gates, keeper, masterKeys).bits(block('part'))).toEqual({
      plain: 0,
      granted: rightBit.find | rightBit.search | rightBit.open,
    })
  })

  it('takes a guard to refuse what it says, of requests it waits for, and nobody with the key', () => {
    const shut = { on: { path: '/bobbin?from=poster' }, take: forMakers, takeNotice: { text: 'Makers' } }
    const nobody = { on: { product: 'bobbin' }, take: { nobody: true } }
    const notice = (visitor: object) =>
      plain([nobody, shut], visitor, masterKeys).decide({ kind: 'product', id: 'bobbin' }).takeNotice
    const from = { query: { from: 'poster' } }
    expect(notice({ ...guest, request: from })).toEqual({ text: 'Makers' })
    expect([notice(guest), notice({ ...maker, request: from }), notice({ ...keeper, request: from })]).toEqual([
      undefined,
      undefined,
      undefined,
    ])
  })
})

describe('one decider asked about several records', () => {
  it('answers of each what is so of that one, in whatever order', () => {
    const rules = rulesOf([
      { id: 'own', on: { records: 'loans' }, open: { any: [{ mine: true }, { assigned: 'by' }] } },
    ])
    const decider = new CompiledDecider(rules, maker, now)
    const of = (owner: string, by?: string): Resource =>
      inRecord('record', 'r', { ...record, owner, values: { by } } as typeof record)
    const opens = (thing: Resource) => (decider.bits(thing) & rightBit.open) !== 0
    const [own, others, assigned] = [of('p-pia'), of('p-guda'), of('p-guda', 'p-pia')]
    expect([own, others, own, assigned, others, own].map(opens)).toEqual([true, false, true, true, false, true])
    const field = (owner: string) => inRecord('field', 'loans/deposit', { ...record, owner })
    expect([field('p-guda'), field('p-pia'), field('p-guda')].map(opens)).toEqual([false, true, false])
  })
})

describe('the gate that decides of a record', () => {
  it('is the one that refuses this record', () => {
    const rules = rulesOf([
      { id: 'all', on: { register: 'loans' }, open: { everyone: true } },
      { id: 'own', on: { records: 'loans' }, open: { mine: true } },
    ])
    const decides = (owner: string) =>
      decidingGate(new CompiledDecider(rules, maker, now), inRecord('record', 'r', { ...record, owner }))
    expect([decides('p-pia'), decides('p-guda')]).toEqual([null, 'own'])
    expect(decidingGate(new CompiledDecider(rules, maker, now), page('gone'))).toBeNull()
  })

  it('is a guard only for requests it waits for', () => {
    const rules = rulesOf([{ id: 'g', on: { path: '/wool?from=poster' }, open: forMakers }])
    const decides = (visitor: object) => decidingGate(new CompiledDecider(rules, visitor, now), page('wool'))
    expect([decides(guest), decides({ request: { query: { from: 'poster' } } })]).toEqual([null, 'g'])
  })
})

describe('the things of a site', () => {
  it('are all a right can be asked of without a record', () => {
    expect(thingsOf(site).map(one => one.kind)).not.toContain('record')
    expect(thingsOf(new SiteIndex(site))).toContainEqual(page('wool'))
  })
})
