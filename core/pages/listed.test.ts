import { describe, expect, it } from 'vitest'
import { contextAt, forMakers, guest, maker } from '../../tests/support/page-at'
import type { SmallSite } from '../../tests/support/page-at'
import type { Resource } from '../kinds/kinds'
import { cards, filesOf, listed, shelfOf } from './listed'
import { notSold, waysBack, waysTo } from './told'

const file = `${'b'.repeat(64)}-2048.pdf`
const small: SmallSite = {
  things: {
    posts: [
      { id: 'one', title: 'One', path: '/one', date: '2026-03-02' },
      { id: 'two', path: '/two' },
    ],
    categories: [{ id: 'yarn', title: 'Yarn', path: '/yarn' }],
    products: [
      { id: 'bobbin', title: 'Bobbin', path: '/bobbin', price: 400, categories: ['yarn'] },
      { id: 'hank', title: 'Hank', path: '/hank', categories: ['yarn'] },
      {
        id: 'moss',
        of: 'hank',
        path: '/moss',
        price: 300,
        options: { colour: 'moss' },
        sale: { price: 200, until: '2026-12-01' },
      },
      { id: 'weld', of: 'hank', price: 500, options: { colour: 'weld' } },
      { id: 'loose', title: 'Without a page', price: 100 },
    ],
    downloads: [{ id: 'chart', title: 'Chart', path: '/chart' }, { id: 'bare' }, { id: 'empty', title: 'Empty' }],
    pages: [{ id: 'wool', path: '/wool' }],
    blocks: [
      { id: 'part', in: { page: 'wool' } },
      { id: 'inner', in: { block: 'part' } },
      { id: 'head', in: { frame: 'header' } },
    ],
  },
  content: {
    'product:bobbin': { picture: 'twill' },
    'download:chart': { file, summary: 'Drawn' },
    'download:bare': { file },
  },
}
const at = (more: SmallSite = {}) => contextAt('/list', { ...small, ...more })
const posts = ['one', 'two'].map((id): Resource => ({ kind: 'post', id }))
const goods = ['bobbin', 'hank', 'loose'].map((id): Resource => ({ kind: 'product', id }))

describe('things in a list', () => {
  it('are those that may be found and have a page, the first so many, with the day they are of', async () => {
    const one = { title: 'One', summary: '', href: '/one', opens: true, day: '2 March 2026' }
    const two = { title: 'two', summary: '', href: '/two', opens: true }
    expect(await listed(at(), posts)).toEqual([one, two])
    expect(await listed(at(), posts, { most: 1 })).toEqual([one])
    const hidden = [{ on: { post: 'one' }, find: forMakers }]
    expect(await listed(at({ gates: hidden }), posts, { most: 1 })).toEqual([two])
    const shut = [{ on: { post: 'one' }, open: forMakers, find: { everyone: true } }]
    expect(await listed(at({ gates: shut }), posts)).toEqual([{ ...one, opens: false }, two])
    expect(await listed(at(), goods)).toHaveLength(2)
  })

  it('that are goods say what they cost whoever they open to; cards have their picture', async () => {
    const [bobbin, hank] = await cards(at(), goods)
    expect(bobbin).toEqual({
      title: 'Bobbin',
      summary: '',
      href: '/bobbin',
      opens: true,
      price: { now: '€4.00' },
      picture: 'twill',
    })
    expect(hank!.price).toEqual({ now: '€2.00', was: '€3.00', until: '1 December 2026', from: true })
    expect(await cards(at(), goods, 1)).toHaveLength(1)
    expect((await listed(at(), goods))[0]).not.toHaveProperty('picture')
    const shut = [{ on: { product: 'bobbin' }, open: forMakers, find: { everyone: true } }]
    expect((await listed(at({ gates: shut }), goods))[0]).not.toHaveProperty('price')
    expect(await shelfOf(at(), 'yarn')).toMatchObject({
      things: [{ title: 'Bobbin' }, { title: 'Hank' }],
      shelf: { total: 2 },
    })
    expect(
      await shelfOf(at({ visitor: { ...guest, request: { query: { only: 'colour:moss' } } } }), undefined),
    ).toMatchObject({
      things: [{ title: 'Hank' }],
      shelf: { all: '/list' },
    })
  })

  it('that are files can be fetched by whom they are for; without a file they are none', async () => {
    const files = ['chart', 'bare', 'empty'].map((id): Resource => ({ kind: 'download', id }))
    const chart = { title: 'Chart', summary: 'Drawn', href: '/chart', type: 'PDF', size: '2 kB', fetch: '/fetch/chart' }
    const bare = { title: 'bare', summary: '', type: 'PDF', size: '2 kB', fetch: '/fetch/bare' }
    expect(await filesOf(at(), files)).toEqual([chart, bare])
    expect(await filesOf(at({ gates: [{ on: { download: 'chart' }, find: forMakers }] }), files)).toEqual([bare])
    const { fetch: _, ...kept } = chart
    expect(await filesOf(at({ gates: [{ on: { download: 'chart' }, take: forMakers }] }), files)).toEqual([kept, bare])
    const query = { ...guest, request: { query: { from: 'poster' } } }
    const gates = [{ on: { download: 'chart' }, take: { query: { name: 'from' } } }]
    expect((await filesOf(at({ gates, visitor: query }), files))[0]!.fetch).toBe('/fetch/chart?from=poster')
    expect((await filesOf(at({ ask: { base: '/walk/x' } }), files))[0]!.fetch).toBe('/walk/x/fetch/chart')
  })
})

describe('what somebody is told of what they do not get', () => {
  const way = [{ words: 'as Maker, €6.00 a month', href: '/sign-up' }]
  const found = { find: { everyone: true } }
  const ways = (thing: Resource, gates: object[], more: SmallSite = {}) => waysTo(at({ gates, ...more }), thing)
  const block = (id: string): Resource => ({ kind: 'block', id })

  it('is of what may be found; of a part where what it stands in opens', async () => {
    const one = posts[0]!
    const shut = { open: forMakers }
    expect(await ways(one, [{ on: { post: 'one' }, ...shut, ...found }])).toEqual(way)
    expect(await ways(one, [{ on: { post: 'one' }, ...shut }])).toEqual([])
    expect(await ways(block('part'), [{ on: { block: 'part' }, ...shut }])).toEqual(way)
    expect(await ways(block('head'), [{ on: { block: 'head' }, ...shut }])).toEqual(way)
    expect(await ways(block('gone'), [])).toEqual([])
    const page = { on: { page: 'wool' }, ...shut }
    expect(await ways(block('part'), [{ on: { block: 'part' }, ...shut }, page])).toEqual([])
    expect(
      await ways(block('inner'), [
        { on: { block: 'inner' }, ...shut },
        { on: { block: 'part' }, ...shut },
      ]),
    ).toEqual([])
    expect(await ways(block('part'), [{ on: { kind: 'block' }, find: forMakers, ...shut }])).toEqual([])
    expect(await ways(block('part'), [{ on: { block: 'part' }, ...shut }], { visitor: maker })).toEqual([])
    const context = at({ gates: [{ on: { post: 'one' }, ...shut, ...found }] })
    expect(await waysTo(context, one)).toBe(await waysTo(context, one))
    expect([...context.facts]).toContain('person')
  })

  it('of where they came from is nothing where that opens', async () => {
    const gates = [{ on: { post: 'one' }, open: forMakers, ...found }]
    expect([
      await waysBack(at({ gates }), '/one'),
      await waysBack(at({ gates }), '/two'),
      await waysBack(at({ gates }), '/gone'),
    ]).toEqual([way, [], []])
  })

  it('of goods that are not sold is why, and to whom they are', async () => {
    const bobbin = goods[0]!
    const told = (gate: object, more: SmallSite = {}) =>
      notSold(at({ gates: [{ on: { product: 'bobbin' }, ...gate }], ...more }), bobbin)
    const notice = { kind: 'notice', guest: true, ways: way }
    expect(await told({})).toEqual([])
    expect(await told({ take: forMakers })).toEqual([
      { ...notice, text: 'This can be looked at here, and is not sold to everybody.', to: 'take' },
    ])
    expect(await told({ price: forMakers })).toEqual([
      { ...notice, text: 'The price of this is for some of us.', to: 'price' },
    ])
    const takeNotice = { text: 'Ask', link: '/trade' }
    expect(await told({ take: forMakers, takeNotice }, { ask: { base: '/walk/x' } })).toEqual([
      {
        kind: 'notice',
        text: 'Ask',
        guest: true,
        link: '/walk/x/trade',
        ways: [{ ...way[0], href: '/walk/x/list' }].map(() => way[0]),
        to: 'take',
      },
    ])
    const never = await told({ take: { nobody: true } })
    expect(never).toEqual([{ kind: 'notice', text: expect.stringContaining('not sold'), guest: true }])
    expect((await told({ take: forMakers, find: forMakers }))[0]).not.toHaveProperty('ways')
  })
})
