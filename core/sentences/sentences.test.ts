import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyCondition, anyLeaf } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import type { Condition } from '../conditions/condition'
import { addBeside, bracketAt, negateAt, partAt, removeAt, replaceAt } from './edit'
import { lexiconOf } from './lexicon'
import { read } from './read'
import { say, sayGate, sayText } from './say'
import { leafKeys } from '../conditions/leaves/leaves'
import { families } from './families'
import { taughtOf } from './phrases'
import { suggest } from './suggest'

const world = wexlowCase()
const lexicon = lexiconOf(world.book, world.site, { people: [{ id: 'p-ana', name: 'Ana Thorn' }] })
const anything = anyCondition(anyLeaf(world, { opens: true, record: true }))
const guild: Condition = { level: { atLeast: 'guild' } }
const knitter: Condition = { role: { anyOf: ['test-knitter'] } }

describe('sentences', () => {
  it('read back as what was said, for every condition', () => {
    fc.assert(
      fc.property(anything, condition => {
        expect(read(sayText(condition, lexicon), lexicon)).toEqual({ ok: true, condition })
      }),
      { numRuns: 3000 },
    )
  })

  it('read back whatever things are called', () => {
    const name = fc.oneof(
      fc.constantFrom(
        'Guild',
        'Guilds',
        'or',
        'Up to date',
        'Say "no"',
        'x) or (y',
        'Guests',
        'above',
        'Role',
        ' a',
        '1 Dec',
        'Guild or above',
        '',
        'Holds',
        'Maker #2',
        'not',
        '( x',
        'x )',
        'a  b',
        'Ines, Tomas',
      ),
      fc.string({ maxLength: 8 }),
    )
    fc.assert(
      fc.property(
        fc.array(name, { minLength: 20, maxLength: 20 }),
        anything,
        fc.boolean(),
        (names, condition, many) => {
          let i = 0
          // Long lists are looked up by words instead of being tried one after the other.
          const others = many ? Array.from({ length: 250 }, (_, n) => ({ id: `other-${n}`, name: `Yarn no ${n}` })) : []
          const rename = <T extends { id: string }>(list: T[]) =>
            list.map(one => ({ ...one, name: names[i++ % names.length]! }))
          const renamed = {
            ...lexicon,
            levels: rename(lexicon.levels),
            roles: rename(lexicon.roles),
            audiences: rename(lexicon.audiences),
            facts: rename(lexicon.facts),
            permissions: rename(lexicon.permissions),
            things: { ...lexicon.things, product: [...others, ...rename(lexicon.things.product)] },
          }
          expect(read(sayText(condition, renamed), renamed)).toEqual({ ok: true, condition })
        },
      ),
      { numRuns: 3000 },
    )
  })

  it.each([
    ['Guild or above', guild],
    ['guild OR above', guild],
    ['Test knitters', knitter],
    ['test knitter', knitter],
    [
      'Guild or above or Test knitters and from 1 Nov 2026',
      { any: [guild, { all: [knitter, { date: { from: '2026-11-01' } }] }] },
    ],
    [
      '(Guild or above or Test knitters) and in Ireland',
      { all: [{ any: [guild, knitter] }, { country: { in: ['IE'] } }] },
    ],
    ['not on phone', { not: { device: { in: ['phone'] } } }],
    ['spent at least 150', { spent: { atLeast: 15000 } }],
    ['from 1 Dec', { date: { from: '2026-12-01' } }],
    ['until 3 March', { date: { until: '2027-03-03' } }],
  ])('understands “%s”', (text, condition) => {
    expect(read(text, lexicon, '2026-11-24')).toEqual({ ok: true, condition })
  })

  it.each([
    ['Guild or above or Elders', 18, 6],
    ['(Guild or above', 15, 0],
    ['from 31 Feb 2026', 5, 2],
    ['Guild or above Maker or above', 15, 5],
    ['', 0, 0],
  ])('points at the place in “%s”', (text, at, length) => {
    expect(read(text, lexicon)).toMatchObject({ ok: false, error: { at, length } })
  })

  it('offers everything a rule can say about the words typed', () => {
    const offered = (text: string) => suggest(text, text.length, lexicon, '2026-11-24').map(one => one.text)
    expect(offered('guild')).toEqual(
      expect.arrayContaining(['Guild or above', 'up to Guild', 'holds Guild', 'not Guild or above']),
    )
    expect(offered('1 dec')).toEqual(expect.arrayContaining(['from 1 Dec 2026', 'until 1 Dec 2026', 'on 1 Dec 2026']))
    expect(offered('Test knitters or phone')).toEqual(expect.arrayContaining(['on phone']))
    expect(offered('bought nid')).toEqual(['bought niddy'])
    expect(offered('spain')).toContain('in Spain')
    for (const typed of ['signed-', 'signed-in', 'signed in', 'logged in', 'logged-in', 'registered'])
      expect([typed, offered(typed).includes('signed-in visitors')]).toEqual([typed, true])
    for (const typed of ['logged out', 'signed out'])
      expect([typed, offered(typed).includes('guests')]).toEqual([typed, true])
    expect(offered('Guild or abo')[0]).toBe('Guild or above')
    expect(suggest('Stockists or mak', 16, lexicon, '2026-11-24')[0]).toMatchObject({
      text: 'Maker or above',
      from: 13,
      to: 16,
    })
  })

  it('teaches what can be said, where nothing is typed: every family, each phrase of it ready or with a blank', () => {
    const all = suggest('', 0, lexicon, '2026-11-24')
    const shown = [...new Set(all.map(one => families[one.family]))]
    expect(shown).toEqual(Object.values(families))
    const none = suggest('', 0, { ...lexicon, fields: [], facts: [] }, '2026-11-24').map(one => families[one.family])
    expect([none.includes('whose record it is'), none.includes('facts of your own')]).toEqual([false, false])
    const texts = all.map(one => one.text)
    for (const text of ['everyone', 'Guild or above', 'Stockists', 'bought …', 'from … (a day)', 'address carries …'])
      expect(texts).toContain(text)
    // Every leaf can be come by: something ready, a blank, or a word for it.
    for (const key of leafKeys) {
      const { blanks, meaning, alsoCalled } = taughtOf(key)
      expect(blanks.length + Object.keys(meaning ?? {}).length + (alsoCalled?.length ?? 0), key).toBeGreaterThan(0)
    }
    // A blank that is taken is gone on with.
    for (const { fill } of all)
      if (fill !== undefined)
        expect(
          suggest(fill, fill.length, lexicon, '2026-11-24').map(one => one.fill),
          fill,
        ).not.toContain(fill)
    expect(suggest('bought ', 7, lexicon, '2026-11-24').every(one => one.text.startsWith('bought'))).toBe(true)
  })

  it.each([
    ['customer', ['bought …', 'signed-in visitors', 'spent at least …']],
    ['weekend', ['on Saturday, Sunday']],
    ['company', ['firm …']],
    ['mobile', ['on phone']],
    ['coupon link', ['address carries …']],
    ['browser', ['browser …']],
    ['britain', ['in United Kingdom']],
    ['cart nid', ['basket holds niddy']],
    ['subscri', ['… or above']],
    ['anonymous', ['guests']],
  ])('finds by the everyday word “%s”', (word, wanted) => {
    const found = suggest(word, word.length, lexicon, '2026-11-24').map(one => one.text)
    expect(found).toEqual(expect.arrayContaining(wanted))
  })

  it('tells of every family an everyday word fits, and which it is', () => {
    const found = suggest('member', 6, lexicon, '2026-11-24')
    expect(found.map(one => families[one.family])).toEqual(expect.arrayContaining(['who they are', 'what they hold']))
    expect(found.map(one => one.text)).toEqual(
      expect.arrayContaining(['signed-in visitors', 'member for 30 days', '… or above', 'person …']),
    )
    expect(found.every(one => (one.condition === undefined) !== (one.fill === undefined))).toBe(true)
  })

  it('offers of very many things those whose names are typed', () => {
    const product = Array.from({ length: 50_000 }, (_, i) => ({ id: `y${i}`, name: `Yarn ${i}` }))
    const large = { ...lexicon, things: { ...lexicon.things, product } }
    const offered = (text: string) => suggest(text, text.length, large, '2026-11-24').map(one => one.text)
    expect(offered('bought yarn 4711')).toContain('bought Yarn 4711')
    expect(offered('yarn 49999')).toContain('basket holds Yarn 49999')
    expect(offered('guild')[0]).toBe('Guild or above')
    expect(read('bought Yarn 4711', large)).toEqual({ ok: true, condition: { bought: { product: 'y4711' } } })
  })

  it('says every part of a gate', () => {
    const said = sayGate(
      { id: 'g', on: { page: 'trade' }, open: guild, find: { everyone: true }, otherwise: { guest: { teaser: true } } },
      lexicon,
    )
    expect(said.rights.map(right => [right.lead, right.tokens.map(token => token.text).join(' ')])).toEqual([
      ['Open to', 'Guild or above'],
      ['Listed for', 'everyone'],
    ])
    expect(said.otherwise).toEqual({ guest: 'teaser' })
  })
})

describe('editing a sentence', () => {
  it('adds, brackets, negates, replaces and removes parts in place', () => {
    const two = addBeside(guild, [], 'any', knitter)
    expect(two).toEqual({ any: [guild, knitter] })
    const three = addBeside(two, ['any', 0], 'any', { signedIn: true })
    expect(three).toEqual({ any: [guild, { signedIn: true }, knitter] })
    expect(bracketAt(three, ['any', 1])).toEqual({ any: [guild, { all: [{ signedIn: true }, knitter] }] })
    expect(negateAt(two, ['any', 1])).toEqual({ any: [guild, { not: knitter }] })
    expect(negateAt(negateAt(two, ['any', 1]), ['any', 1, 'not'])).toEqual(two)
    expect(replaceAt(two, ['any', 0], knitter)).toEqual({ any: [knitter, knitter] })
    expect(removeAt(two, ['any', 0])).toEqual(knitter)
    expect(removeAt(guild, [])).toBeNull()
    expect(removeAt({ all: [{ not: guild }, knitter] }, ['all', 0, 'not'])).toEqual(knitter)
    expect(addBeside({ everyone: true }, [], 'all', guild)).toEqual(guild)
  })

  it('gives every leaf token the path of its leaf', () => {
    fc.assert(
      fc.property(anything, condition => {
        for (const token of say(condition, lexicon))
          if (token.type === 'leaf') expect(sayText(partAt(condition, token.path), lexicon)).toBe(token.text)
      }),
    )
  })
})
