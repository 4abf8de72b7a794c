import { describe, expect, it } from 'vitest'
import { bookOf, forMakers, siteOf } from '../../tests/support/page-at'
import { validateRulebook } from '../check/validate'
import { mostPatternLength } from '../site/path-pattern'
import { levelCalled, levelCalledIn, levelShown, roleCalled, roleShown } from './public-name'
import { entriesOf, rulebookOf } from './rulebook'

const site = siteOf({
  pages: [{ id: 'wool', path: '/wool' }],
  products: [{ id: 'bobbin', path: '/bobbin', price: 400 }],
  blocks: [{ id: 'a', in: { page: 'wool' } }],
})
/** Where something is wrong, and what, in a rulebook of this besides. */
const issues = (more: object, gates: object[] = []) =>
  validateRulebook({ ...bookOf(gates), ...more }, site).map(({ at, code }) => `${at} ${code}`)
const wrongWith = (where: string, of: (what: object) => string[], sound: object[], wrong: [object, string[]][]) => {
  for (const one of sound) expect([one, of(one)]).toEqual([one, []])
  for (const [one, at] of wrong) expect([one, of(one)]).toEqual([one, at.map(place => where + place)])
}

describe('a gate', () => {
  it('stands at one place, and says something', () => {
    const gate = (on: object) => issues({}, [{ on, open: { everyone: true } }])
    const long = `/${'x'.repeat(mostPatternLength)}`
    wrongWith(
      '/gates/0/on',
      gate,
      [
        { everything: true },
        { kind: 'page' },
        { page: 'wool' },
        { page: 'wool', below: true },
        { path: '/wool/**' },
        { path: long.slice(1) && long.slice(0, -1) },
      ],
      [
        [{}, [' one-key']],
        [{ page: 'wool', kind: 'page' }, [' one-key']],
        [{ kind: 'nothing' }, ['/kind bad-value']],
        [{ everything: false }, ['/everything bad-value']],
        [{ path: 'wool' }, ['/path bad-value']],
        [{ path: 3 }, ['/path bad-value']],
        [{ path: long }, ['/path bad-value']],
        [{ product: 'bobbin', below: true }, ['/below unknown-key']],
      ],
    )
    expect(issues({}, [{ on: { page: 'wool' } }])).toEqual(['/gates/0 states-nothing'])
    for (const one of [
      { open: forMakers },
      { find: forMakers },
      { search: forMakers },
      { otherwise: { absent: true } },
    ])
      expect(issues({}, [{ on: { page: 'wool' }, ...one }])).toEqual([])
    for (const one of [{ price: forMakers }, { take: forMakers }])
      expect(issues({}, [{ on: { product: 'bobbin' }, ...one }])).toEqual([])
  })

  it('says what the refused get, to all of them or apart', () => {
    const otherwise = (one: unknown) => issues({}, [{ on: { page: 'wool' }, otherwise: one }])
    wrongWith(
      '/gates/0/otherwise',
      otherwise,
      [
        { absent: true },
        { teaser: true },
        { dimmed: true },
        { dimmed: { keep: ['heading'] } },
        { notice: { text: 'Ask', link: '/trade' } },
        { notice: { text: 'Ask', link: 'HTTPS://mill.example/x' } },
        { swap: { block: 'a' } },
        { redirect: { to: '/join' } },
        { guest: { teaser: true } },
        { signedIn: { absent: true } },
        { guest: { teaser: true }, signedIn: { absent: true } },
      ],
      [
        [{}, [' one-key']],
        [{ absent: false }, ['/absent bad-value']],
        [{ teaser: true, absent: true }, [' one-key']],
        [{ dimmed: { keep: [] } }, ['/dimmed/keep empty-list']],
        [{ notice: {} }, ['/notice/text bad-value']],
        [{ notice: { text: 'Ask', link: 3 } }, ['/notice/link bad-value']],
        [{ notice: { text: 'Ask', link: 'javascript:alert(1)' } }, ['/notice/link not-a-site-path']],
        [{ notice: { text: 'Ask', link: 'https://a b' } }, ['/notice/link not-a-site-path']],
        [{ redirect: { to: 'http://else.example/' } }, ['/redirect/to not-a-lead']],
        [{ guest: { teaser: true }, absent: true }, ['/absent unknown-key']],
        [{ guest: { guest: { teaser: true } } }, ['/guest/guest unknown-key']],
      ],
    )
    expect(otherwise('nothing')).toHaveLength(1)
  })
})

describe('an offer', () => {
  const base = { id: 'o', on: { shop: true }, bands: [{ off: { percent: 10 } }] }
  const offer = (more: object) => issues({ offers: [{ ...base, ...more }] })
  const band = (more: object, off: object = { percent: 10 }) => ({ ...more, off })
  const at = (more: object, bands: object[]) => ({ ...more, bands })

  it('takes off what can be taken off, in bands that do not overlap', () => {
    const quantity = { by: 'product' }
    wrongWith(
      '/offers/0',
      offer,
      [
        {},
        { on: { products: ['bobbin'] } },
        at({}, [band({}, { amount: 0 })]),
        at({}, [band({}, { price: 100 })]),
        at({}, [band({}, { percent: '12.5' })]),
        at(quantity, [band({ from: 1, to: 9 }), band({ from: 10 })]),
        at(quantity, [band({ from: 10 }), band({ to: 9 })]),
        at(quantity, [band({ from: 5, to: 5 })]),
        at({ by: 'spend' }, [band({ from: 1000 })]),
      ],
      [
        [{ bands: [] }, ['/bands bands-count']],
        [at({}, [band({}), band({ from: 2 })]), ['/bands bands-count']],
        [at({ by: 'each' }, [band({}), band({ from: 2 })]), ['/bands bands-count']],
        [at(quantity, []), ['/bands bands-count']],
        [at(quantity, [band({ from: 1, to: 10 }), band({ from: 10 })]), ['/bands/1/from bands-overlap']],
        [at(quantity, [band({ from: 10 }), band({ from: 1, to: 10 })]), ['/bands/1/from bands-overlap']],
        [at(quantity, [band({}), band({ from: 2, to: 3 })]), ['/bands/1/from bands-overlap']],
        [at(quantity, [band({ from: 5, to: 4 })]), ['/bands/0/to ends-before-start']],
        [at({}, [band({ from: 5, to: 4 })]), ['/bands/0/to ends-before-start']],
        [at(quantity, [band({ from: 0 })]), ['/bands/0/from band-start']],
        [at(quantity, [band({ from: 1.5 })]), ['/bands/0/from bad-value']],
        [at({ by: 'spend' }, [band({}, { price: 5 })]), ['/bands/0/off/price spend-price']],
        [at({}, [band({}, { percent: 101 })]), ['/bands/0/off/percent bad-value']],
        [at({}, [band({}, {})]), ['/bands/0/off one-key']],
      ],
    )
    expect(offer({ bands: 'none' })).toEqual(['/offers/0/bands bad-value'])
    expect(offer({ bands: [3] })).toEqual(['/offers/0/bands/0 bad-value'])
  })

  it('is stacked only on what a thing costs now, and has codes and uses only with a code', () => {
    wrongWith(
      '/offers/0',
      offer,
      [
        { combine: 'stack' },
        { combine: 'stack', base: 'current' },
        { combine: 'best', base: 'regular' },
        { base: 'regular', bonus: { buy: 2, get: 1 } },
        { code: 'WOOL', codes: 'single', uses: { person: 1 } },
      ],
      [
        [{ combine: 'stack', base: 'regular' }, ['/combine stack-needs-current']],
        [{ combine: 'stack', bonus: { buy: 2, get: 1 } }, ['/combine stack-needs-current']],
        [{ codes: 'single' }, ['/codes needs-code']],
        [{ uses: { all: 1 } }, ['/uses needs-code']],
        [{ by: 'spend', bonus: { buy: 2, get: 1 } }, ['/bonus spend-bonus']],
      ],
    )
  })
})

describe('taxes and delivery', () => {
  it('are of a place, whose region is in a country', () => {
    const rate = (place: object, percent: unknown = 10) =>
      issues({ tax: { taxes: [{ id: 't' }], rates: [{ id: 'r', tax: 't', category: 'all', place, percent }] } })
    for (const place of [{}, { country: 'IE' }, { country: 'ES', region: 'ES-CT' }, { startsWith: ['35'] }])
      expect([place, rate(place)]).toEqual([place, []])
    expect(rate({ region: 'ES-CT' })).toEqual(['/tax/rates/0/place/country region-needs-country'])
    for (const [percent, right] of [
      [0, true],
      ['10000', true],
      [10_001, false],
      ['1.23456', false],
      ['-1', false],
      ['1,5', false],
    ] as const)
      expect([percent, rate({}, percent).length === 0]).toEqual([percent, right])
  })

  it('cost always the same, or by weight', () => {
    const way = (more: object) => issues({ deliveries: [{ id: 'd', cost: { flat: 100 }, ...more }] })
    for (const sound of [
      {},
      { cost: { byWeight: [{ upTo: 1000, cost: 500 }, { cost: 900 }] } },
      { to: [{ country: 'IE' }] },
      { freeFrom: 0 },
    ])
      expect([sound, way(sound)]).toEqual([sound, []])
    expect(way({ cost: { flat: -1 } })).toEqual(['/deliveries/0/cost/flat bad-value'])
    expect(way({ cost: { byWeight: [] } })).toEqual(['/deliveries/0/cost/byWeight empty-list'])
    expect(way({ to: [] })).toEqual(['/deliveries/0/to empty-list'])
  })
})

describe('what visitors are told', () => {
  it('has a name that is one line of plain text', () => {
    const level = (publicName: string) => issues({ levels: [{ id: 'maker', rank: 1, publicName }] })
    for (const name of ['Maker', '<b>', 'x'.repeat(80)]) expect([name, level(name)]).toEqual([name, []])
    for (const name of ['', ' ', ' Maker', 'Maker ', 'a\nb', 'x'.repeat(81)])
      expect([name, level(name).length > 0]).toEqual([name, true])
  })

  it('of levels is their name unless they are not told of; of roles only where that is said', () => {
    const named = { id: 'maker', name: 'Maker', publicName: 'a maker' }
    expect([levelCalled(named), levelCalled({ id: 'maker', name: 'Maker' }), levelCalled({ id: 'maker' })]).toEqual([
      'a maker',
      'Maker',
      'maker',
    ])
    expect([levelCalledIn([named], 'maker'), levelCalledIn([named], 'gone'), levelCalledIn(undefined, 'gone')]).toEqual(
      ['a maker', 'gone', 'gone'],
    )
    expect([levelShown(named), levelShown({ ...named, shown: true }), levelShown({ ...named, shown: false })]).toEqual([
      'a maker',
      'a maker',
      null,
    ])
    expect([roleCalled(named), roleCalled({ id: 'x', name: 'X' })]).toEqual(['a maker', null])
    expect([roleShown(named), roleShown({ ...named, shown: true }), roleShown({ id: 'x', shown: true })]).toEqual([
      null,
      'a maker',
      null,
    ])
  })
})

describe('a rulebook', () => {
  it('is put together of entries in their order, and taken apart again', () => {
    const book = {
      ...bookOf([
        { on: { page: 'wool' }, open: forMakers },
        { on: { page: 'wool' }, find: forMakers },
      ]),
      tax: { settings: { typed: 'withTax', origin: { country: 'IE' } }, taxes: [{ id: 't' }] },
      settings: { masterKeys: ['keeper'] },
    } as never
    const entries = entriesOf(book)
    expect(entries.map(({ kind, key }) => [kind, key])).toEqual([
      ['level', 'maker'],
      ['role', 'keeper'],
      ['role', 'islander'],
      ['gate', 'g0'],
      ['gate', 'g1'],
      ['tax', 't'],
      ['settings', 'site'],
      ['tax-settings', 'site'],
    ])
    expect(rulebookOf(entries)).toEqual(book)
    expect(rulebookOf([])).toEqual({ bravik: 'rulebook/1' })
    expect(entriesOf({ bravik: 'rulebook/1' })).toEqual([])
  })

  it('refuses conditions too deep or of too many parts', () => {
    const open = (condition: object) => issues({}, [{ on: { page: 'wool' }, open: condition }])
    let deep: object = { everyone: true }
    for (let i = 1; i < 60; i++) deep = { not: deep }
    const many = (count: number) => ({ any: Array.from({ length: count }, () => ({ everyone: true })) })
    expect([open(deep), open(many(499))]).toEqual([[], []])
    expect([open({ not: deep }), open(many(500)), open({ all: [many(300), many(300)] })]).toEqual([
      ['/gates/0/open bad-value'],
      ['/gates/0/open bad-value'],
      ['/gates/0/open bad-value'],
    ])
    expect(open({ any: 'all' })).toEqual(['/gates/0/open/any bad-value'])
  })
})
