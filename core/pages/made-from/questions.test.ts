import { describe, expect, it } from 'vitest'
import { askAt, forMakers, guest, maker, pia } from '../../../tests/support/page-at'
import type { SmallSite } from '../../../tests/support/page-at'
import type { WordsSettings } from '../../site-words/site-words'
import { PageQuestions } from './questions'

const things = {
  pages: [
    { id: 'wool', title: 'Wool', path: '/wool', language: 'de' },
    { id: 'dyes', title: 'Dyes', path: '/wool/dyes', parent: 'wool' },
    { id: 'weld', title: 'Weld', path: '/wool/dyes/weld', parent: 'dyes', language: 'fr' },
    { id: 'bran', title: 'Bran', path: '/wool/dyes/weld/bran', parent: 'weld' },
    { id: 'trade', title: 'Trade', path: '/trade' },
  ],
  menus: [
    {
      id: 'main',
      items: [
        { id: 'm', label: 'x', to: { page: 'trade' } },
        { id: 'n', label: 'y', to: { url: 'https://x.example/' } },
      ],
    },
  ],
}
const at = (path: string, small: SmallSite = {}) => new PageQuestions(askAt(path, { things, ...small }))
const wordsAt = (path: string, words: Partial<WordsSettings> | undefined, small: SmallSite = {}) =>
  at(path, {
    ...small,
    source: { words: words && { offered: ['de', 'fr'], byBrowser: false, said: {}, ...words }, ...small.source },
  }).words

describe('the language of a thing', () => {
  it('is its own, or that of what it lies in, the nearest first', () => {
    const of = (path: string, small: SmallSite = {}) => at('/', small).languageAt(path)
    expect([of('/wool'), of('/wool/dyes'), of('/wool/dyes/weld'), of('/trade'), of('/none')]).toEqual([
      'de',
      'de',
      'fr',
      undefined,
      undefined,
    ])
    expect(of('/wool/dyes/weld/bran')).toBe('fr')
    const hidden = (right: object) => of('/wool', { gates: [{ on: { page: 'wool' }, ...right }] })
    expect(hidden({ find: forMakers, open: forMakers })).toBeUndefined()
    expect([hidden({ find: forMakers }), hidden({ open: forMakers, find: { everyone: true } })]).toEqual(['de', 'de'])
  })
})

describe('the words of a page', () => {
  it('are in the language of the site, of the address, of the page, or of the browser where that is taken', () => {
    expect(wordsAt('/wool', undefined).locale).toBe('en-IE')
    expect(wordsAt('/wool', { offered: [] }).lang).toBe('en-IE')
    expect(wordsAt('/wool', {}).lang).toBe('de')
    expect(wordsAt('/trade', {}).lang).toBe('en-IE')
    const said = { visitor: { ...guest, request: { query: { lang: 'fr' } } } }
    expect(wordsAt('/wool', {}, said).lang).toBe('fr')
    expect(wordsAt('/sign-in', {}, { ask: { back: '/wool' } }).lang).toBe('de')
    const speaks = { visitor: { ...guest, request: { language: 'fr' } } }
    expect(wordsAt('/trade', { byBrowser: true }, speaks).lang).toBe('fr')
    expect(wordsAt('/trade', {}, speaks).lang).toBe('en-IE')
    const liked = { source: { spoken: (offered: readonly string[]) => offered.find(one => one === 'de') } }
    expect(wordsAt('/trade', { byBrowser: true }, { ...speaks, ...liked }).lang).toBe('de')
    expect(wordsAt('/trade', { byBrowser: true }, liked).lang).toBe('en-IE')
  })

  it('may be others for whoever is in', () => {
    const said = { 'en-IE': { 'page.nothing': { guest: 'Sign in first', member: 'Not for you' } } }
    const nothing = (offered: string[], visitor: object) =>
      wordsAt('/trade', { offered, said }, { visitor }).texts['page.nothing']
    for (const offered of [[], ['de']])
      expect([nothing(offered, guest), nothing(offered, pia)]).toEqual(['Sign in first', 'Not for you'])
  })

  it('are worked out once, and asked', () => {
    const questions = at('/wool')
    expect(questions.words).toBe(questions.words)
    expect([...questions.asked]).toEqual(['words'])
    expect(questions.answer('words')).toBe(questions.words.id)
  })
})

describe('what is asked of whoever looks', () => {
  it('is whether they have words of their own', () => {
    const has = (what: 'name' | 'levels' | 'firm', visitor: object, book?: object) => {
      const questions = at('/wool', { visitor, ...(book ? { book } : {}) })
      const found = questions.readerHas(what)
      expect([...questions.asked]).toEqual([`reader\n${what}`])
      expect(questions.answer(`reader\n${what}`)).toBe(found)
      return found
    }
    expect([has('name', guest), has('name', pia), has('name', { person: { id: 'p' } })]).toEqual([false, true, false])
    expect([has('levels', pia), has('levels', maker)]).toEqual([false, true])
    const quiet = { levels: [{ id: 'maker', rank: 20, name: 'Maker', shown: false }] }
    expect(has('levels', maker, quiet)).toBe(false)
    expect(has('levels', maker, { levels: undefined })).toBe(false)
    expect([has('firm', pia), has('firm', { ...pia, firm: 'gullhaven' })]).toEqual([false, true])
  })

  it('is whether they are staff', () => {
    const isStaff = (roles: string[]) => at('/wool', { visitor: { ...pia, roles } }).isStaff
    expect([isStaff([]), isStaff(['islander']), isStaff(['keeper'])]).toEqual([false, false, true])
    const questions = at('/wool', { visitor: { ...pia, roles: ['keeper'] } })
    expect([questions.answer('staff'), [...questions.asked]]).toEqual([true, ['staff']])
  })

  it('is what their address says, and where they came from', () => {
    const request = { query: { from: 'poster' }, referrer: 'https://hill.example/' }
    const questions = at('/wool', { visitor: { ...guest, request } })
    expect(questions.requestPart('query')).toEqual(request.query)
    expect(questions.answer('request\nreferrer')).toBe(request.referrer)
    expect([...questions.asked]).toEqual(['request\nquery', 'request\nreferrer'])
    expect(at('/wool').requestPart('query')).toBeUndefined()
  })

  it('is where they are, as far as what is taxed there differs', () => {
    const rate = (id: string, country: string, percent: number) => ({
      id,
      tax: 't',
      category: 'all',
      place: { country },
      percent,
    })
    const tax = {
      settings: { typed: 'withoutTax', origin: { country: 'IE' } },
      taxes: [{ id: 't' }],
      rates: [rate('a', 'IE', 23), rate('b', 'FR', 20)],
    }
    const placed = (country: string) =>
      at('/wool', { book: { tax } as never, visitor: { ...guest, request: { country } } })
    expect(placed('IE').answer('place')).toBe(placed('IE').taxedAt)
    expect(placed('IE').taxedAt).not.toBe(placed('FR').taxedAt)
    expect(placed('ES').taxedAt).toBe(placed('PT').taxedAt)
    const questions = placed('IE')
    questions.turnsOnPlace()
    expect([...questions.asked]).toEqual(['place'])
  })

  it('is whether they gave a code', () => {
    const offers = [
      { id: 'o', on: { shop: true }, code: 'WOOL', bands: [] },
      { id: 'p', on: { shop: true }, bands: [] },
    ]
    const gave = (offer: string, codes: object[] = []) =>
      at('/wool', { book: { offers } as never, visitor: { ...guest, codes } as never }).answer(`code\n${offer}`)
    expect([gave('o'), gave('o', [{ offer: 'o', code: 'wool' }]), gave('o', [{ offer: 'o', code: 'other' }])]).toEqual([
      false,
      true,
      false,
    ])
    expect([gave('p', [{ offer: 'p', code: 'wool' }]), gave('none')]).toEqual([false, false])
  })
})

describe('what would let them in', () => {
  const found = { find: { everyone: true } }
  const gates = [{ on: { page: 'trade' }, open: forMakers, ...found }]
  const trade = { kind: 'page' as const, id: 'trade' }

  it('is asked by thing and right, and answered again by name', () => {
    const questions = at('/wool', { gates })
    const ways = questions.ways(trade)
    expect(ways).toEqual([{ words: 'as Maker, €6.00 a month', href: '/sign-up' }])
    expect([...questions.asked]).toContain('ways\npage\ntrade\nopen')
    expect(questions.answer('ways\npage\ntrade\nopen')).toEqual(ways)
    const closed = { source: { signUp: { mode: 'closed' as const, facts: [] } } }
    expect(at('/wool', { gates, ...closed }).ways(trade)[0]!.href).toBe('/sign-in?back=%2Fwool')
    const open = { source: { signUp: { mode: 'open' as const, facts: [] } } }
    expect(at('/wool', { gates, ...open }).ways(trade)[0]!.href).toBe('/sign-up')
    expect(at('/wool', { gates, visitor: pia, ask: { base: '/walk/x' } }).ways(trade)[0]!.href).toBe(
      '/walk/x/account/buy?level=maker',
    )
    expect(at('/wool', { gates, ask: { base: '/walk/x' } }).signIn).toBe('/walk/x/wool')
  })

  it('is kept for whom all that gates look at is the same, and for a minute', () => {
    const ask = askAt('/wool', { things, gates })
    const first = new PageQuestions(ask).ways(trade)
    expect(new PageQuestions(ask).ways(trade)).toBe(first)
    const again = (visitor: object, later = 0) => {
      const { decider } = ask
      const other = new (decider.constructor as new (...args: unknown[]) => typeof decider)(
        ask.rules,
        visitor,
        decider.asker.at + later,
      )
      return new PageQuestions({ ...ask, decider: other }).ways(trade)
    }
    expect(again(guest)).toBe(first)
    // No gate looks at the country: the query is looked at by guards.
    expect(again({ ...guest, request: { country: 'FR' } })).toBe(first)
    expect(again({ ...guest, request: { query: { a: 'b' } } })).not.toBe(first)
    expect(again(guest, 60_000)).not.toBe(first)
    expect(again(guest, 59_000)).toBe(first)
    expect(again(pia)).not.toBe(first)
    const long = { ...guest, request: { query: { a: 'x'.repeat(2100) } } }
    expect(again(long)).toEqual(first)
    expect(again(long)).not.toBe(again(long))
    expect(again({ ...guest, request: { query: { a: 'b' } } })).toBe(
      again({ ...guest, request: { query: { a: 'b' } } }),
    )
  })

  it('leads to what they may find alone, and is not kept where a service outside may know more', () => {
    const goods = { ...things, products: [{ id: 'hank', title: 'Hank', path: '/hank', price: 900 }] }
    const open = { bought: { product: 'hank' } }
    const to = (more: object[] = []) =>
      at('/wool', { things: goods, visitor: pia, gates: [{ ...gates[0], open }, ...more] }).ways(trade)
    expect(to()).toEqual([{ words: 'with Hank', href: '/hank' }])
    expect(to([{ on: { product: 'hank' }, find: forMakers }])).toEqual([])
    const facts = [{ id: 'near', type: 'flag', from: { service: 'places', path: '/near/{person}' } }]
    const near = { any: [{ fact: { name: 'near', is: true } }, { signedIn: true }] }
    const known = [
      { ...gates[0], open },
      { on: { product: 'hank' }, find: near },
    ]
    const ask = askAt('/wool', { things: goods, visitor: pia, gates: known, book: { facts } as never })
    const first = new PageQuestions(ask).ways(trade)
    expect(first).toHaveLength(1)
    const second = new PageQuestions(ask).ways(trade)
    expect(second).not.toBe(first)
    expect(new PageQuestions(ask).ways(trade)).toBe(second)
  })

  it('of an entry of a menu is a level or a role, and of no entry that leads elsewhere', () => {
    const questions = at('/wool', { gates })
    const unlocks = (id: string, small: SmallSite = { gates }) => at('/wool', small).unlocksById(id)
    expect([unlocks('m'), unlocks('n'), unlocks('none')]).toEqual(['Maker', undefined, undefined])
    expect(questions.answer('unlocks\nm')).toBe('Maker')
    const date = { date: { from: '2026-12-01' } }
    expect(unlocks('m', { gates: [{ ...gates[0], open: date }] })).toBeUndefined()
    const either = { any: [date, forMakers] }
    expect(unlocks('m', { gates: [{ ...gates[0], open: either }] })).toBe('Maker')
    const islander = { role: { anyOf: ['islander'] } }
    expect(unlocks('m', { gates: [{ ...gates[0], open: islander }] })).toBe('an islander')
    expect(unlocks('m', { gates, visitor: maker })).toBeUndefined()
  })
})
