import { describe, expect, it } from 'vitest'
import { deciderAt, forMakers, guest, maker } from '../../../tests/support/page-at'
import type { SmallSite } from '../../../tests/support/page-at'
import { GoodsView } from './goods-view'

const things = {
  categories: [{ id: 'yarn', title: 'Yarn', path: '/yarn' }],
  products: [
    { id: 'bobbin', title: 'Bobbin', path: '/yarn/bobbin', price: 400, categories: ['yarn'] },
    { id: 'hank', title: 'Hank', path: '/yarn/hank', categories: ['yarn'] },
    { id: 'moss', title: 'Moss', of: 'hank', path: '/yarn/hank/moss', options: { colour: 'moss' }, price: 900 },
    {
      id: 'weld',
      title: 'Weld',
      of: 'hank',
      options: { colour: 'weld' },
      price: 800,
      sale: { price: 700, until: '2026-12-01' },
    },
    { id: 'gift', title: 'Gift', path: '/yarn/gift', categories: ['yarn'] },
  ],
}
const tools = {
  money: (minor: number) => `${minor}`,
  day: (date: string) => date,
  href: (path: string) => `~${path}`,
  walked: false,
}
const viewFor = (small: SmallSite = {}, more: Partial<typeof tools & { codes: string }> = {}) =>
  new GoodsView(deciderAt({ things, ...small }), { ...tools, ...more })
const closed = (right: string, id: string, more: object = {}) => ({
  gates: [{ on: { product: id }, [right]: forMakers, ...more }],
})

describe('goods', () => {
  it('in a list cost what they cost, or the lowest of theirs; where no price is told that is said', () => {
    expect(viewFor().listed('bobbin')).toEqual({ price: { now: '400' } })
    expect(viewFor().listed('hank')).toEqual({ price: { now: '700', was: '800', until: '2026-12-01', from: true } })
    expect(viewFor().listed('gift')).toEqual({})
    expect(viewFor(closed('price', 'bobbin')).listed('bobbin')).toEqual({ untold: true })
    expect(viewFor({ ...closed('price', 'bobbin'), visitor: maker }).listed('bobbin')).toEqual({
      price: { now: '400' },
    })
    expect(viewFor(closed('price', 'weld')).listed('hank')).toEqual({ price: { now: '900' } })
    expect(viewFor(closed('price', 'hank')).listed('hank')).toEqual({ untold: true })
    expect(viewFor(closed('find', 'weld')).listed('hank')).toEqual({ price: { now: '900' } })
  })

  it('without variants can be bought by whom they are sold to, and in no walk', () => {
    const bobbin = { price: { now: '400' }, steps: [], variants: [] }
    expect(viewFor().shown('bobbin')).toEqual({ ...bobbin, buy: 'bobbin' })
    expect(viewFor({}, { walked: true }).shown('bobbin')).toEqual(bobbin)
    expect(viewFor({}, { codes: '/codes' }).shown('bobbin')).toEqual({ ...bobbin, buy: 'bobbin', codes: '/codes' })
    expect(viewFor(closed('take', 'bobbin')).shown('bobbin')).toEqual(bobbin)
    expect(viewFor({ ...closed('take', 'bobbin'), visitor: maker }).shown('bobbin')).toEqual({
      ...bobbin,
      buy: 'bobbin',
    })
    expect(viewFor(closed('price', 'bobbin')).shown('bobbin')).toEqual({ steps: [], variants: [] })
    expect(viewFor().shown('gift')).toEqual({ steps: [], variants: [] })
  })

  it('with variants are chosen first; each says its own', () => {
    const moss = { name: 'moss', href: '~/yarn/hank/moss', price: { now: '900' } }
    const weld = { name: 'weld', price: { now: '700', was: '800', until: '2026-12-01' } }
    expect(viewFor().shown('hank')).toEqual({ price: { ...weld.price, from: true }, steps: [], variants: [moss, weld] })
    expect(viewFor().shown('moss')).toEqual({
      price: moss.price,
      steps: [],
      buy: 'moss',
      variants: [{ ...moss, here: true }, weld],
    })
    const variants = (small: SmallSite) => viewFor(small).shown('hank').variants
    expect(variants(closed('take', 'moss'))).toEqual([{ ...moss, notSold: true }, weld])
    const { price: __, ...untold } = moss
    expect(variants(closed('price', 'moss'))).toEqual([{ ...untold, notSold: true }, weld])
    const { href: ___, ...shut } = untold
    expect(variants(closed('open', 'moss', { find: { everyone: true } }))).toEqual([{ ...shut, notSold: true }, weld])
    expect(variants(closed('find', 'moss'))).toEqual([weld])
    // Of the product the sale of the lowest counts, of the variant its own.
    expect(viewFor(closed('find', 'weld')).shown('hank').price).toEqual({ now: '900' })
    const untoldAll = viewFor(closed('price', 'hank')).shown('hank')
    expect([untoldAll.price, untoldAll.steps]).toEqual([undefined, []])
  })

  it('tell from how many on they cost less, of what is chosen or of the lowest', () => {
    const bands = [{ from: 10, off: { percent: 50 } }]
    const offers = [{ id: 'o', name: 'Ten', on: { products: ['bobbin', 'weld'] }, by: 'quantity', bands }]
    const small = { book: { offers } as never }
    expect(viewFor(small).shown('bobbin').steps).toEqual([{ from: 10, price: '200' }])
    expect(
      viewFor(small)
        .shown('hank')
        .steps.map(one => one.from),
    ).toEqual([10])
    expect(viewFor(small).shown('moss').steps).toEqual([])
    expect(viewFor({ ...small, ...closed('price', 'bobbin') }).shown('bobbin').steps).toEqual([])
    expect(viewFor({ ...small, ...closed('price', 'bobbin'), visitor: maker }).shown('bobbin').steps).toHaveLength(1)
  })

  it('stand on shelves of their category or all, as asked behind the path', () => {
    const ids = (category?: string, query?: Record<string, string>, visitor = guest) =>
      viewFor({ visitor }).shelf(category, query, '/yarn').ids
    expect(ids('yarn')).toEqual(['bobbin', 'hank', 'gift'])
    expect(ids(undefined)).toEqual(['bobbin', 'hank', 'gift'])
    expect(ids('none')).toEqual([])
    expect(ids('yarn', { only: 'colour:moss' })).toEqual(['hank'])
    expect(ids('yarn', { sort: 'price-high' })).toEqual(['hank', 'bobbin', 'gift'])
    expect(viewFor().shelf('yarn', { only: 'colour:moss' }, '/yarn').shelf).toMatchObject({ total: 1, all: '/yarn' })
  })
})
