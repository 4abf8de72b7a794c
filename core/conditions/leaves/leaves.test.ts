import { describe, expect, it } from 'vitest'
import { at as now, bookOf, maker, pia, siteOf } from '../../../tests/support/page-at'
import { validateRulebook } from '../../check/validate'
import { CompiledDecider } from '../../gates/compiled-decider'
import { CompiledRules } from '../../gates/compiled'
import { evaluate } from '../evaluate'
import { triWord } from '../../tri'
import { Asker } from '../../visitor/asker'
import { Space } from '../../visitor/space/space'
import type { Visitor } from '../../visitor/visitor'
import type { Condition } from '../condition'
import { leafOf } from './leaves'

const site = siteOf({
  pages: [
    { id: 'wool', path: '/wool' },
    { id: 'shut', path: '/shut' },
  ],
  categories: [{ id: 'yarn' }, { id: 'fine', parent: 'yarn' }],
  products: [
    { id: 'hank', categories: ['fine'], path: '/hank' },
    { id: 'moss', of: 'hank', path: '/moss' },
    { id: 'bobbin', path: '/bobbin' },
  ],
  registers: [
    {
      id: 'loans',
      fields: [
        { id: 'by', type: 'person' },
        { id: 'days', type: 'number' },
      ],
    },
  ],
})
const book = bookOf([{ on: { page: 'shut' }, open: { nobody: true } }], {
  levels: [
    { id: 'reader', rank: 10, name: 'Reader' },
    { id: 'maker', rank: 20, name: 'Maker', roles: ['islander'] },
    { id: 'guild', rank: 30, name: 'Guild' },
  ],
  roles: [
    { id: 'islander', name: 'Islander', permissions: ['dye'] },
    { id: 'weaver', name: 'Weaver' },
    { id: 'other', name: 'Other' },
  ],
  permissions: [{ id: 'dye', name: 'May dye' }],
  audiences: [{ id: 'makers', name: 'Makers', is: { level: { atLeast: 'maker' } } }],
  facts: [
    { id: 'craft', name: 'Craft', type: 'text' },
    { id: 'sheep', name: 'Sheep', type: 'number' },
  ],
} as never)
const rules = new CompiledRules(book, site)
const guest: Visitor = { person: null }
const asks = (request: object): Visitor => ({ ...guest, request }) as Visitor
const holds = (level: string, since = '2026-01-01T00:00:00Z'): Visitor => ({ ...pia, levels: [{ level, since }] })
const craft = (value: unknown): Visitor => ({ ...pia, facts: { craft: value, sheep: value } })

/** The answer, by the plain reading and by the compiled one. */
function answer(condition: Condition, visitor: Visitor, record?: object): ReturnType<typeof triWord> {
  const decider = new CompiledDecider(rules, visitor, now)
  const compiled = decider.slot(rules.slots.slotOf(condition, 'plain'))
  const plain = evaluate(condition, {
    asker: decider.asker,
    withKey: false,
    record: record as never,
    audience: () => 1,
    audienceCondition: id => rules.audiences.get(id),
    opens: (kind, id) => decider.decide({ kind, id }).open,
  })
  if (!record) expect([condition, visitor, triWord(compiled)]).toEqual([condition, visitor, triWord(plain)])
  return triWord(plain)
}
const answers = (condition: object, ...visitors: Visitor[]) => visitors.map(one => answer(condition as Condition, one))

describe('what a rule can look at', () => {
  it('is everybody, nobody, and whoever is in', () => {
    expect([...answers({ everyone: true }, guest, pia), ...answers({ nobody: true }, guest, pia)]).toEqual([
      true,
      true,
      false,
      false,
    ])
    expect(answers({ signedIn: true }, guest, pia)).toEqual([false, true])
    expect(answers({ signedIn: false }, guest, pia)).toEqual([true, false])
  })

  it('is a level, from one up, up to one, or one of some', () => {
    const [reader, guild] = [holds('reader'), holds('guild')]
    expect(answers({ level: { atLeast: 'maker' } }, guest, pia, reader, maker, guild)).toEqual([
      false,
      false,
      false,
      true,
      true,
    ])
    expect(answers({ level: { atMost: 'maker' } }, guest, pia, reader, maker, guild)).toEqual([
      false,
      false,
      true,
      true,
      false,
    ])
    expect(answers({ level: { in: ['reader', 'guild'] } }, guest, reader, maker, guild)).toEqual([
      false,
      true,
      false,
      true,
    ])
    expect(answers({ level: { in: ['reader'] } }, guest, reader, maker)).toEqual([false, true, false])
    for (const unknown of [{ atLeast: 'gone' }, { atMost: 'gone' }, { in: ['gone'] }])
      expect(answers({ level: unknown }, guest, pia, guild)).toEqual([false, false, false])
    // What a guest is said to hold, they do not.
    expect(answers({ level: { atLeast: 'reader' } }, { ...guest, levels: guild.levels! })).toEqual([false])
    expect(answers({ level: { atMost: 'guild' } }, { ...guest, levels: guild.levels! })).toEqual([false])
  })

  it('is a role, any of some or all of them, whether held or brought by a level; and what it permits', () => {
    const both: Visitor = { ...pia, roles: ['islander', 'weaver'] }
    const one: Visitor = { ...pia, roles: ['weaver'] }
    expect(answers({ role: { anyOf: ['islander'] } }, guest, one, both, maker)).toEqual([false, false, true, true])
    expect(answers({ role: { anyOf: ['islander', 'other'] } }, guest, one, both, maker)).toEqual([
      false,
      false,
      true,
      true,
    ])
    expect(answers({ role: { allOf: ['islander', 'weaver'] } }, guest, one, both, maker)).toEqual([
      false,
      false,
      true,
      false,
    ])
    expect(answers({ role: { allOf: ['weaver'] } }, guest, one, maker)).toEqual([false, true, false])
    expect(answers({ role: { anyOf: ['islander'] } }, { ...guest, roles: ['islander'] })).toEqual([false])
    expect(answers({ permission: 'dye' }, guest, one, both, maker)).toEqual([false, false, true, true])
  })

  it('is who they are and to what firm they belong', () => {
    expect(answers({ person: { in: ['p-guda', 'p-pia'] } }, guest, pia)).toEqual([false, true])
    expect(answers({ person: { in: ['p-guda'] } }, pia)).toEqual([false])
    const firm = { firm: { in: ['gullhaven'] } }
    expect(
      answers(
        firm,
        guest,
        pia,
        { ...pia, firm: 'gullhaven' },
        { ...pia, firm: 'other' },
        { ...guest, firm: 'gullhaven' },
      ),
    ).toEqual([false, false, true, false, false])
  })

  it('is what they bought, how often and for how much, and what lies in their basket', () => {
    const had = (bought: object): Visitor => ({ ...pia, bought }) as Visitor
    expect(
      answers(
        { bought: { product: 'hank' } },
        guest,
        pia,
        had({ products: ['hank'] }),
        had({ products: ['moss'] }),
        had({ products: ['bobbin'] }),
      ),
    ).toEqual([false, false, true, true, false])
    expect(
      answers({ bought: { category: 'yarn' } }, pia, had({ categories: ['yarn'] }), had({ categories: ['fine'] })),
    ).toEqual([false, true, false])
    expect(answers({ orders: { atLeast: 2 } }, guest, pia, had({ orders: 1 }), had({ orders: 2 }))).toEqual([
      false,
      false,
      false,
      true,
    ])
    expect(answers({ orders: { atLeast: 0 } }, guest, pia)).toEqual([false, true])
    expect(answers({ spent: { atLeast: 500 } }, guest, pia, had({ spent: 499 }), had({ spent: 500 }))).toEqual([
      false,
      false,
      false,
      true,
    ])
    expect(answers({ spent: { atLeast: 0 } }, guest, pia)).toEqual([false, true])
    const holding = (product: string): Visitor => ({ ...guest, basket: [{ product, quantity: 1 }] })
    expect(
      answers({ basket: { product: 'hank' } }, guest, holding('hank'), holding('moss'), holding('bobbin')),
    ).toEqual([false, true, true, false])
    expect(
      answers({ basket: { category: 'yarn' } }, guest, holding('moss'), holding('bobbin'), holding('gone')),
    ).toEqual([false, true, false, false])
  })

  it('is how long they have held a level, or any', () => {
    const since = (at: string) => holds('maker', at)
    expect(
      answers(
        { memberFor: { atLeast: 'P30D' } },
        guest,
        pia,
        since('2026-10-25T10:00:00Z'),
        since('2026-10-25T11:00:00Z'),
      ),
    ).toEqual([false, false, true, false])
    expect(
      answers({ memberFor: { atLeast: 'P30D', level: 'maker' } }, guest, since('2026-01-01T00:00:00Z'), holds('guild')),
    ).toEqual([false, true, false])
    const several: Visitor = { ...pia, levels: [...since('2026-11-20T00:00:00Z').levels!, ...holds('reader').levels!] }
    expect(answers({ memberFor: { atLeast: 'P30D' } }, several)).toEqual([true])
    expect(answers({ memberFor: { atLeast: 'P30D', level: 'maker' } }, several)).toEqual([false])
  })

  it('is the lowest level there is, and by the first of several lists', () => {
    const low = new CompiledRules({ ...book, levels: [{ id: 'first', rank: 1 }] } as never, site)
    const holder = holds('first')
    expect(new CompiledDecider(low, holder, now).admits({ level: { atMost: 'first' } })).toBe(true)
    const plain = { asker: new Asker(holder, low.holdings, now), record: undefined } as never
    expect(leafOf('level')!.test({ atMost: 'first' } as never, plain)).toBe(2)
    expect(answers({ language: { in: ['fr', 'de'] } }, asks({ language: 'de-AT' }))).toEqual([true])
    expect(answers({ referrer: { in: ['a.example', 'hill.example'] } }, asks({ referrer: 'hill.example' }))).toEqual([
      true,
    ])
    const long: Visitor = {
      ...pia,
      levels: [...holds('reader', '2026-11-01T00:00:00Z').levels!, ...holds('maker', '2026-11-20T00:00:00Z').levels!],
    }
    expect(
      leafOf('memberFor')!.ways!({ atLeast: 'P30D' } as never, {
        asker: new Asker(long, rules.holdings, now),
        wanted: true,
      }),
    ).toEqual([[{ at: '2026-12-01T00:00:00.000Z' }]])
  })

  it('is a condition with a name, and whether something else opens', () => {
    expect(answers({ audience: 'makers' }, guest, maker)).toEqual([false, true])
    expect(answers({ audience: 'gone' }, guest)).toEqual(['unknown'])
    expect([...answers({ opens: { page: 'wool' } }, guest), ...answers({ opens: { page: 'shut' } }, guest)]).toEqual([
      true,
      false,
    ])
  })

  it('is the day, the hour and the weekday, as the clock of the site tells them', () => {
    // A Tuesday, ten in the morning in Dublin.
    const day = (from?: string, until?: string) =>
      answers({ date: { ...(from ? { from } : {}), ...(until ? { until } : {}) } }, guest)[0]
    expect([day('2026-11-24'), day('2026-11-25'), day('2026-11-23')]).toEqual([true, false, true])
    expect([day(undefined, '2026-11-24'), day(undefined, '2026-11-23'), day('2026-11-01', '2026-11-30')]).toEqual([
      true,
      false,
      true,
    ])
    const hours = (from: string, until: string) => answers({ time: { from, until } }, guest)[0]
    expect([hours('10:00', '11:00'), hours('09:00', '10:00'), hours('10:01', '11:00')]).toEqual([true, false, false])
    expect([
      hours('22:00', '10:01'),
      hours('22:00', '10:00'),
      hours('10:00', '09:00'),
      hours('10:01', '10:00'),
    ]).toEqual([true, false, true, false])
    expect([
      ...answers({ weekday: { in: ['tue'] } }, guest),
      ...answers({ weekday: { in: ['mon', 'wed'] } }, guest),
    ]).toEqual([true, false])
  })

  it('is what they ask with: what is not known is neither so nor not', () => {
    for (const [key, value, other] of [
      ['device', 'phone', 'tablet'],
      ['browser', 'firefox', 'other'],
      ['region', 'IE-D', 'IE-C'],
      ['country', 'IE', 'FR'],
    ] as const) {
      const here = asks({ [key]: value })
      for (const list of [[value], [value, other]])
        expect([key, answers({ [key]: { in: list } }, guest, here)]).toEqual([key, ['unknown', true]])
      expect([key, answers({ [key]: { in: [other] } }, here)]).toEqual([key, [false]])
    }
    expect(
      answers(
        { language: { in: ['de'] } },
        guest,
        asks({ language: 'DE-at' }),
        asks({ language: 'de' }),
        asks({ language: 'den' }),
      ),
    ).toEqual(['unknown', true, true, false])
    expect(answers({ language: { in: ['de-AT'] } }, asks({ language: 'de' }))).toEqual([false])
    const from = (referrer: string) => asks({ referrer })
    expect(
      answers(
        { referrer: { in: ['Hill.example'] } },
        guest,
        from('https://hill.example/x'),
        from('www.hill.example'),
        from('hill.example'),
        from('overhill.example'),
        from('https://['),
      ),
    ).toEqual([false, true, true, true, false, false])
    const network = { address: { in: ['192.0.2.0/24', '2001:db8::/32'] } }
    const at = (address: string) => asks({ address })
    expect(
      answers(
        network,
        guest,
        at('192.0.2.9'),
        at('192.0.3.9'),
        at('2001:db8::1'),
        at('2001:db9::1'),
        at('::ffff:192.0.2.1'),
        at('nothing'),
      ),
    ).toEqual(['unknown', true, false, true, false, true, 'unknown'])
    const query = (name: string, list?: string[]) => ({ query: { name, ...(list ? { in: list } : {}) } })
    const poster = asks({ query: { from: 'poster' } })
    expect([
      ...answers(query('from'), guest, poster),
      ...answers(query('from', ['poster', 'x']), guest, poster),
      ...answers(query('from', ['x']), poster),
      ...answers(query('toString'), poster),
    ]).toEqual([false, true, false, true, false, false])
  })

  it('is a fact of them, compared with what it is asked for; of another type it is not so', () => {
    expect(answers({ fact: { name: 'craft', is: 'dyer' } }, guest, pia, craft('dyer'), craft('spinner'))).toEqual([
      'unknown',
      'unknown',
      true,
      false,
    ])
    expect(answers({ fact: { name: 'craft', in: ['dyer', 'x'] } }, craft('dyer'), craft('spinner'))).toEqual([
      true,
      false,
    ])
    expect(answers({ fact: { name: 'sheep', atLeast: 3 } }, craft(2), craft(3), craft(4), craft('many'))).toEqual([
      false,
      true,
      true,
      'unknown',
    ])
    expect(answers({ fact: { name: 'sheep', atMost: 3 } }, craft(2), craft(3), craft(4))).toEqual([true, true, false])
    expect(
      answers({ fact: { name: 'craft', atLeast: 'd', atMost: 'f' } }, craft('dyer'), craft('aaa'), craft('spinner')),
    ).toEqual([true, false, false])
    expect(answers({ fact: { name: 'sheep', is: 3, atLeast: 4 } }, craft(3))).toEqual([false])
    expect(answers({ fact: { name: 'sheep', atLeast: '1' } }, craft(2))).toEqual([false])
    expect(answers({ fact: { name: 'gone', is: 3 } }, craft(3))).toEqual(['unknown'])
  })

  it('is the record that is asked about: whose it is, who is assigned, what stands in it', () => {
    const of = (condition: object, visitor: Visitor, record: object = {}) =>
      answer(condition as Condition, visitor, { id: 'r', register: 'loans', ...record })
    expect([
      of({ mine: true }, pia, { owner: 'p-pia' }),
      of({ mine: true }, pia, { owner: 'p-guda' }),
      of({ mine: true }, guest, { owner: undefined }),
    ]).toEqual([true, false, false])
    const by = (held: unknown, visitor: Visitor = pia) => of({ assigned: 'by' }, visitor, { values: { by: held } })
    expect([
      by('p-pia'),
      by(['p-guda', 'p-pia']),
      by('p-guda'),
      by(['p-guda']),
      by(undefined, guest),
      of({ assigned: 'by' }, pia),
    ]).toEqual([true, true, false, false, false, false])
    const days = (asked: object, value: unknown) =>
      of({ record: { field: 'days', ...asked } }, pia, { values: { days: value } })
    expect([days({ is: 3 }, 3), days({ is: 3 }, 4), days({ atLeast: 3 }, 2), days({ in: [2, 3] }, 2)]).toEqual([
      true,
      false,
      false,
      true,
    ])
    for (const empty of [undefined, null, '', []]) expect(days({ is: 3 }, empty)).toBe('unknown')
    expect(of({ record: { field: 'days', is: 3 } }, pia)).toBe('unknown')
    expect(days({ is: false }, false)).toBe(true)
  })
})

describe('joined', () => {
  const [yes, no, open] = [{ everyone: true }, { nobody: true }, { country: { in: ['IE'] } }] as Condition[]
  it('all, any and not are read in three values', () => {
    const one = (condition: object) => answers(condition, guest)[0]
    expect(
      [[yes], [yes, yes], [yes, no], [no, open], [yes, open], [yes, yes, open], [open, yes, no], []].map(all =>
        one({ all }),
      ),
    ).toEqual([true, true, false, false, 'unknown', 'unknown', false, true])
    expect(
      [[no], [no, no], [yes, no], [no, open], [yes, open], [open, yes], [no, no, open], [open, no, yes], []].map(any =>
        one({ any }),
      ),
    ).toEqual([false, false, true, 'unknown', true, true, 'unknown', true, false])
    expect([one({ not: yes! }), one({ not: no! }), one({ not: open! })]).toEqual([false, true, 'unknown'])
    expect(one({ not: { audience: 'makers' } })).toBe(true)
    const all = (...parts: (Condition | undefined)[]) => one({ all: parts })
    const any = (...parts: (Condition | undefined)[]) => one({ any: parts })
    expect([all(open, yes), all(open, open), all(open, no), all(yes, yes, yes), all(open, yes, yes)]).toEqual([
      'unknown',
      'unknown',
      false,
      true,
      'unknown',
    ])
    expect([any(open, no), any(open, open), any(no, yes), any(no, no, no), any(open, no, no)]).toEqual([
      'unknown',
      'unknown',
      true,
      false,
      'unknown',
    ])
  })
})

describe('what would make it so', () => {
  const ways = (condition: object, visitor: Visitor = guest, wanted = true) => {
    const [key, argument] = Object.entries(condition)[0]!
    return leafOf(key)!.ways?.(argument, { asker: new Asker(visitor, rules.holdings, now), wanted })
  }

  it('is to come in, to hold, to buy or to wait', () => {
    expect([ways({ signedIn: true }), ways({ signedIn: false }), ways({ signedIn: true }, pia, false)]).toEqual([
      [[{ sign: 'in' }]],
      [[{ sign: 'out' }]],
      [[{ sign: 'out' }]],
    ])
    expect(ways({ level: { atLeast: 'maker' } })).toEqual([[{ level: 'maker' }]])
    expect(ways({ level: { atMost: 'maker' } })).toEqual([[{ level: 'reader' }], [{ level: 'maker' }]])
    expect(ways({ level: { atMost: 'gone' } })).toEqual([])
    expect(ways({ level: { in: ['reader', 'guild'] } })).toEqual([[{ level: 'reader' }], [{ level: 'guild' }]])
    expect(ways({ role: { anyOf: ['a', 'b'] } })).toEqual([[{ role: 'a' }], [{ role: 'b' }]])
    expect(ways({ role: { allOf: ['a', 'b'] } })).toEqual([[{ role: 'a' }, { role: 'b' }]])
    expect(ways({ permission: 'dye' })).toEqual([[{ role: 'islander' }]])
    expect(ways({ firm: { in: ['a', 'b'] } })).toEqual([[{ firm: 'a' }], [{ firm: 'b' }]])
    expect(ways({ bought: { product: 'hank' } })).toEqual([[{ product: 'hank' }]])
    expect(ways({ date: { from: '2026-12-01' } })).toEqual([[{ date: '2026-12-01' }]])
    expect([ways({ date: { from: '2026-11-24' } }), ways({ date: { until: '2026-12-01' } })]).toEqual([[], []])
    expect(ways({ date: { until: '2026-12-01' } }, guest, false)).toEqual([[{ date: '2026-12-02' }]])
    expect(ways({ date: { from: '2026-12-01' } }, guest, false)).toEqual([])
    expect([
      ways({ time: { from: '10:00', until: '12:00' } }),
      ways({ time: { from: '10:00', until: '12:00' } }, guest, false),
    ]).toEqual([[[{ time: '10:00' }]], [[{ time: '12:00' }]]])
    expect(ways({ weekday: { in: ['mon', 'tue'] } })).toEqual([[{ weekday: 'mon' }], [{ weekday: 'tue' }]])
    expect(ways({ memberFor: { atLeast: 'P30D' } }, holds('maker', '2026-11-20T00:00:00Z'))).toEqual([
      [{ at: '2026-12-20T00:00:00.000Z' }],
    ])
    expect(ways({ memberFor: { atLeast: 'P30D', level: 'maker' } }, holds('maker', '2026-11-20T00:00:00Z'))).toEqual([
      [{ at: '2026-12-20T00:00:00.000Z' }],
    ])
    expect([
      ways({ memberFor: { atLeast: 'P30D' } }, pia),
      ways({ memberFor: { atLeast: 'P30D', level: 'guild' } }, maker),
      ways({ memberFor: { atLeast: 'P30D' } }, maker, false),
    ]).toEqual([[], [], []])
  })

  it('is to ask otherwise, or for a fact to be', () => {
    expect(ways({ country: { in: ['IE', 'FR'] } })).toEqual([[{ country: 'IE' }], [{ country: 'FR' }]])
    expect([
      ways({ browser: { in: ['firefox'] } }),
      ways({ region: { in: ['IE-D'] } }),
      ways({ language: { in: ['de'] } }),
    ]).toEqual([[[{ browser: 'firefox' }]], [[{ region: 'IE-D' }]], [[{ language: 'de' }]]])
    expect(ways({ device: { in: ['phone'] } })).toEqual([[{ device: 'phone' }]])
    const others = ways({ device: { in: ['phone'] } }, guest, false) as object[][]
    expect(others.flat()).not.toContainEqual({ device: 'phone' })
    expect(others.length).toBeGreaterThan(1)
    const fact = (asked: object, wanted = true) => ways({ fact: { name: 'craft', ...asked } }, guest, wanted)
    const so = (value: unknown) => [{ fact: 'craft', value }]
    expect([
      fact({ is: 'dyer' }),
      fact({ in: ['a', 'b'] }),
      fact({ atLeast: 3 }),
      fact({ atMost: 4 }),
      fact({}),
    ]).toEqual([[so('dyer')], [so('a'), so('b')], [so(3)], [so(4)], [so(true)]])
    expect(fact({ is: 'dyer' }, false)).toEqual([])
  })

  it('is nothing where it would have to be undone, or nobody can come by it', () => {
    for (const condition of [
      { level: { atLeast: 'maker' } },
      { role: { anyOf: ['a'] } },
      { permission: 'dye' },
      { firm: { in: ['a'] } },
      { bought: { product: 'hank' } },
      { country: { in: ['IE'] } },
      { weekday: { in: ['mon'] } },
    ])
      expect(ways(condition, maker, false)).toEqual([])
    for (const condition of [
      { everyone: true },
      { nobody: true },
      { person: { in: ['p'] } },
      { orders: { atLeast: 1 } },
      { spent: { atLeast: 1 } },
      { basket: { product: 'hank' } },
      { address: { in: [] } },
      { referrer: { in: [] } },
      { query: { name: 'x' } },
      { mine: true },
      { assigned: 'by' },
      { record: { field: 'x' } },
      { audience: 'makers' },
      { opens: { page: 'wool' } },
    ])
      expect(ways(condition) ?? null).toBeNull()
  })
})

describe('cut by what they look for, visitors', () => {
  const spaceOf = (...conditions: object[]) => {
    const space = new Space(rules.holdings, now)
    for (const condition of conditions) {
      const [key, argument] = Object.entries(condition)[0]!
      leafOf(key)!.cut?.(argument as never, space)
    }
    return space
  }
  const answersIn = (condition: object) => [
    ...new Set([...spaceOf(condition).visitors()].map(one => answer(condition as Condition, one))),
  ]

  it('are some of whom it is so, and some of whom it is not; where that can be unknown, some of that', () => {
    for (const condition of [
      { signedIn: true },
      { level: { atLeast: 'maker' } },
      { level: { atMost: 'maker' } },
      { level: { in: ['maker', 'guild'] } },
      { role: { anyOf: ['weaver', 'other'] } },
      { role: { allOf: ['weaver', 'other'] } },
      { permission: 'dye' },
      { person: { in: ['p-pia'] } },
      { firm: { in: ['gullhaven'] } },
      { bought: { product: 'hank' } },
      { bought: { category: 'yarn' } },
      { orders: { atLeast: 3 } },
      { spent: { atLeast: 300 } },
      { memberFor: { atLeast: 'P30D' } },
      { memberFor: { atLeast: 'P30D', level: 'maker' } },
      { basket: { product: 'hank' } },
      { basket: { category: 'yarn' } },
      { date: { from: '2026-12-01' } },
      { date: { until: '2026-12-01' } },
      { time: { from: '09:00', until: '12:00' } },
      { weekday: { in: ['tue'] } },
      { referrer: { in: ['hill.example'] } },
      { query: { name: 'from' } },
      { query: { name: 'from', in: ['poster'] } },
    ])
      expect([condition, answersIn(condition).toSorted()]).toEqual([condition, [false, true]])
    for (const condition of [
      { device: { in: ['phone'] } },
      { browser: { in: ['firefox'] } },
      { region: { in: ['IE-D'] } },
      { country: { in: ['IE'] } },
      { language: { in: ['de'] } },
      { address: { in: ['192.0.2.0/24'] } },
      { fact: { name: 'craft', is: 'dyer' } },
      { fact: { name: 'craft', in: ['dyer'] } },
      { fact: { name: 'sheep', atLeast: 3 } },
      { fact: { name: 'sheep', atMost: 3 } },
    ])
      expect([condition, answersIn(condition).length]).toEqual([condition, 3])
    expect([answersIn({ everyone: true }), answersIn({ nobody: true })]).toEqual([[true], [false]])
  })

  it('are told apart by each of several constants', () => {
    const told = (...conditions: object[]) =>
      new Set(
        [...spaceOf(...conditions).visitors()].map(one =>
          conditions.map(condition => answer(condition as Condition, one)).join(),
        ),
      ).size
    const each = (key: string, ...lists: object[]) => told(...lists.map(list => ({ [key]: list })))
    expect(each('level', { atLeast: 'reader' }, { atLeast: 'maker' }, { atLeast: 'guild' })).toBe(4)
    expect(each('role', { anyOf: ['weaver'] }, { anyOf: ['other'] })).toBe(4)
    expect(told({ role: { anyOf: ['islander'] } }, { level: { in: ['maker'] } })).toBe(3)
    expect(each('orders', { atLeast: 1 }, { atLeast: 5 })).toBe(3)
    expect(each('spent', { atLeast: 1 }, { atLeast: 5 })).toBe(3)
    expect(each('person', { in: ['a'] }, { in: ['b'] })).toBe(3)
    expect(each('firm', { in: ['a'] }, { in: ['b'] })).toBe(3)
    expect(each('date', { from: '2026-12-01' }, { from: '2026-12-05' }, { until: '2026-12-02' })).toBe(4)
    expect(each('time', { from: '09:00', until: '12:00' }, { from: '11:00', until: '14:00' })).toBe(4)
    expect(each('weekday', { in: ['mon'] }, { in: ['tue', 'mon'] })).toBe(3)
    expect(each('country', { in: ['IE'] }, { in: ['FR'] })).toBe(4)
    expect(each('address', { in: ['192.0.2.0/24'] }, { in: ['192.0.2.128/25'] }, { in: ['2001:db8::/32'] })).toBe(5)
    expect(each('query', { name: 'a', in: ['1'] }, { name: 'a', in: ['2'] }, { name: 'b' })).toBe(6)
    expect(each('basket', { product: 'hank' }, { category: 'yarn' }, { product: 'bobbin' })).toBe(4)
    expect(each('bought', { product: 'hank' }, { product: 'bobbin' }, { category: 'yarn' })).toBe(8)
    expect(each('memberFor', { atLeast: 'P30D' }, { atLeast: 'P60D' })).toBe(3)
    const sheep = (...asked: object[]) => told(...asked.map(one => ({ fact: { name: 'sheep', ...one } })))
    expect(sheep({ atLeast: 3 }, { atMost: 5 }, { is: 4 })).toBe(5)
    expect(told({ fact: { name: 'craft', in: ['a', 'b'] } }, { fact: { name: 'craft', is: 'a' } })).toBe(4)
  })

  it('are no more than are needed', () => {
    const count = (...conditions: object[]) => spaceOf(...conditions).count
    const alone = count()
    // Guests; and who holds the role or not, the level that brings it or not, another level or not.
    expect(count({ permission: 'dye' })).toBe(1 + 2 ** 3)
    // Of goods: none, the product that is named, whichever of its variants.
    expect(count({ basket: { product: 'hank' } })).toBe(alone * 2)
    expect(count({ basket: { product: 'gone' } })).toBe(alone)
    expect(count({ basket: { category: 'yarn' } })).toBe(alone * 2)
    expect(count({ basket: { product: 'bobbin' } }, { basket: { category: 'fine' } })).toBe(alone * 4)
  })

  it('at the edges of networks are in them, and beside them are not', () => {
    const toldBy = (...networks: string[]) => {
      const conditions = networks.map(network => ({ address: { in: [network] } }))
      return new Set(
        [...spaceOf(...conditions).visitors()].map(one =>
          conditions.map(condition => answer(condition as Condition, one)).join(),
        ),
      ).size
    }
    expect(toldBy('192.0.2.0/25', '192.0.2.128/25')).toBe(4)
    expect(toldBy('0.0.0.0/1', '255.255.255.255/32')).toBe(4)
    expect(toldBy('0.0.0.0/0')).toBe(2)
    expect(toldBy('192.0.2.4/32', '192.0.2.5/32', '192.0.2.4/31')).toBe(4)
    expect(toldBy('::/0', '10.0.0.0/8')).toBe(4)
    expect(toldBy('2001:db8::/33', '2001:db8:8000::/33')).toBe(4)
  })

  it('cannot be told apart by what comes after a text, nor by the record or by other rules', () => {
    expect(spaceOf({ fact: { name: 'craft', atLeast: 'd' } }).undecidable).toBe(true)
    expect(spaceOf({ fact: { name: 'craft', atMost: 'd' } }).undecidable).toBe(true)
    expect(spaceOf({ fact: { name: 'craft', is: 'd' } }).undecidable).toBe(false)
    expect(spaceOf({ fact: { name: 'sheep', atLeast: 3 } }).undecidable).toBe(false)
    const counted = (condition: object) => {
      const space = spaceOf(condition)
      return [space.count, space.undecidable]
    }
    // A fact nobody defined has no pieces.
    expect(counted({ fact: { name: 'gone', is: 3 } })).toEqual([2, true])
    expect(counted({ fact: { name: 'craft', is: 'd' } })).toEqual([6, false])
    for (const key of ['mine', 'assigned', 'record', 'audience', 'opens']) expect(leafOf(key)!.cut).toBeNull()
    expect(leafOf('nothing')).toBeUndefined()
    const months = spaceOf({ memberFor: { atLeast: 'P1M' } }, { memberFor: { atLeast: 'P30D' } })
    expect(months.undecidable).toBe(true)
  })
})

describe('what a rule names', () => {
  const issues = (open: object, on: object = { page: 'wool' }) =>
    validateRulebook({ ...book, gates: [{ id: 'g', on, open }] }, site).map(
      ({ at, code }) => `${at.replace('/gates/0/open', '')} ${code}`,
    )

  it('is there, or is named as what is not', () => {
    for (const right of [
      { level: { atLeast: 'maker' } },
      { level: { in: ['maker'] } },
      { role: { anyOf: ['islander'] } },
      { permission: 'dye' },
      { audience: 'makers' },
      { bought: { product: 'hank' } },
      { basket: { category: 'yarn' } },
      { opens: { page: 'shut' } },
      { memberFor: { atLeast: 'P30D' } },
      { memberFor: { atLeast: 'P30D', level: 'maker' } },
      { fact: { name: 'craft', is: 'dyer' } },
    ])
      expect([right, issues(right)]).toEqual([right, []])
    for (const [wrong, at] of [
      [{ level: { atLeast: 'gone' } }, '/level/atLeast'],
      [{ level: { atMost: 'gone' } }, '/level/atMost'],
      [{ level: { in: ['maker', 'gone'] } }, '/level/in/1'],
      [{ role: { anyOf: ['gone'] } }, '/role/anyOf/0'],
      [{ role: { allOf: ['islander', 'gone'] } }, '/role/allOf/1'],
      [{ permission: 'gone' }, '/permission'],
      [{ audience: 'gone' }, '/audience'],
      [{ bought: { product: 'gone' } }, '/bought/product'],
      [{ bought: { category: 'gone' } }, '/bought/category'],
      [{ basket: { product: 'gone' } }, '/basket/product'],
      [{ basket: { category: 'gone' } }, '/basket/category'],
      [{ opens: { post: 'gone' } }, '/opens/post'],
      [{ memberFor: { atLeast: 'P30D', level: 'gone' } }, '/memberFor/level'],
      [{ fact: { name: 'gone', is: 1 } }, '/fact/name'],
    ] as const)
      expect([wrong, issues(wrong)]).toEqual([wrong, [expect.stringContaining(`${at} `)]])
  })

  it('of a record is a field of its register, of that type', () => {
    const of = (open: object) => issues(open, { records: 'loans' })
    expect([of({ assigned: 'by' }), of({ record: { field: 'days', is: 3 } }), of({ mine: true })]).toEqual([[], [], []])
    expect(
      [
        of({ assigned: 'gone' }),
        of({ assigned: 'days' }),
        of({ record: { field: 'gone', is: 3 } }),
        of({ record: { field: 'days', is: 'x' } }),
      ].map(list => list.length),
    ).toEqual([1, 1, 1, 1])
    expect(of({ record: { field: 'days' } })).toEqual(['/record one-key'])
    expect(issues({ mine: true })).toHaveLength(1)
  })

  it('is of its shape', () => {
    for (const wrong of [
      { time: { from: '10:00', until: '10:00' } },
      { date: {} },
      { date: { from: '2026-02-30' } },
      { level: {} },
      { level: { atLeast: 'maker', in: ['maker'] } },
      { role: { anyOf: [] } },
      { orders: { atLeast: -1 } },
      { spent: { atLeast: 1.5 } },
      { country: { in: ['Ireland'] } },
      { device: { in: ['toaster'] } },
      { address: { in: ['1.2.3.4/33'] } },
      { bought: {} },
      { mine: false },
      { signedIn: 'yes' },
      { date: { from: '2026-05-02', until: '2026-05-01' } },
      { address: { in: [3] } },
    ])
      expect([wrong, issues(wrong).length > 0]).toEqual([wrong, true])
    for (const range of [{ from: '2026-05-01' }, { until: '2026-05-01' }, { from: '2026-05-01', until: '2026-05-01' }])
      expect(issues({ date: range })).toEqual([])
    expect(issues({ date: {} })).toEqual(['/date one-key'])
    expect(issues({ date: { from: '2026-05-02', until: '2026-05-01' } })).toEqual(['/date/until ends-before-start'])
    for (const key of ['level', 'role', 'bought', 'basket', 'opens', 'memberFor', 'fact', 'record'])
      for (const argument of [null, 3, 'x', []]) expect(issues({ [key]: argument }).length).toBeGreaterThan(0)
  })
})
