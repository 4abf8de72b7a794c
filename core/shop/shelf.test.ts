import { wexlowFrame } from '../../tests/support/wexlow-frame'
import { describe, expect, it } from 'vitest'
import type { Site } from '../site/site'
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import type { Rulebook } from '../rulebook/rulebook'
import type { Visitor } from '../visitor/visitor'
import { Pricer } from './pricer'
import { goodsIn, Shelves } from './shelf'
import type { ShelfAsk } from './shelf'

const site = {
  bravik: 'site/1',
  ...wexlowFrame,
  categories: [
    { id: 'yarn', title: 'Yarn', path: '/yarn' },
    { id: 'lace', title: 'Lace', path: '/yarn/lace', parent: 'yarn' },
    { id: 'tools', title: 'Tools', path: '/tools' },
  ],
  products: [
    { id: 'aran', title: 'Aran', price: 900, categories: ['yarn'] },
    { id: 'mist', title: 'Mist', price: 700, categories: ['lace'] },
    { id: 'mist-moss', title: 'Mist, moss', of: 'mist', price: 800, options: { colour: 'moss' } },
    { id: 'mist-sea', title: 'Mist, sea', of: 'mist', price: 750, options: { colour: 'sea' } },
    { id: 'bobbin', title: 'Bobbin', price: 300, categories: ['tools'] },
  ],
} as unknown as Site
const forMakers = { level: { atLeast: 'maker' } }
const book = (gates: object[] = []) =>
  ({ bravik: 'rulebook/1', levels: [{ id: 'maker', rank: 20 }], gates }) as unknown as Rulebook
const guest: Visitor = { person: null }
function shelvesOf(visitor: Visitor = guest, gates: object[] = []) {
  const rules = new CompiledRules(book(gates), site)
  const decider = new CompiledDecider(rules, visitor, Date.parse('2026-11-24T10:00:00Z'))
  const shelves = new Shelves(decider, new Pricer(decider))
  const ids = (more: Partial<ShelfAsk> = {}) =>
    shelves.shelf({ sort: 'shown', only: {}, page: 1, perPage: 10, ...more }).ids
  return { rules, shelves, ids }
}

describe('a shelf', () => {
  it('holds the goods of a category and those below it, and no variant by itself', () => {
    const { rules, ids } = shelvesOf()
    expect(goodsIn(rules, 'yarn').map(one => one.id)).toEqual(['aran', 'mist'])
    expect(goodsIn(rules, 'lace').map(one => one.id)).toEqual(['mist'])
    expect(goodsIn(rules).map(one => one.id)).toEqual(['aran', 'mist', 'bobbin'])
    expect(ids({ category: 'tools' })).toEqual(['bobbin'])
  })

  it('stands in the order that is asked for, a page at a time', () => {
    const { ids, shelves } = shelvesOf()
    expect(ids({ sort: 'name' })).toEqual(['aran', 'bobbin', 'mist'])
    expect(ids({ sort: 'price' })).toEqual(['bobbin', 'mist', 'aran'])
    expect(ids({ sort: 'price-high' })).toEqual(['aran', 'mist', 'bobbin'])
    const second = shelves.shelf({ sort: 'name', only: {}, page: 2, perPage: 2 })
    expect(second).toMatchObject({ ids: ['mist'], total: 3, page: 2, pages: 2 })
    expect(shelves.shelf({ sort: 'name', only: {}, page: 9, perPage: 2 }).page).toBe(2)
  })

  it('leaves out what may not be found, and a price that is not told moves nothing', () => {
    const hidden = shelvesOf(guest, [{ id: 'g', on: { product: 'bobbin' }, find: forMakers }])
    expect(hidden.ids()).toEqual(['aran', 'mist'])
    const untold = shelvesOf(guest, [{ id: 'g', on: { product: 'mist-sea' }, price: forMakers }])
    expect(untold.shelves.lowest('mist')).toMatchObject({ id: 'mist-moss', unit: 800, several: false })
    expect(shelvesOf().shelves.lowest('mist')).toMatchObject({ id: 'mist-sea', unit: 750, several: true })
  })

  it('is narrowed by what variants differ in, as far as they may be found', () => {
    const { shelves, ids } = shelvesOf()
    const shelf = shelves.shelf({ sort: 'shown', only: { colour: 'moss' }, page: 1, perPage: 10 })
    expect(shelf.ids).toEqual(['mist'])
    expect(shelf.facets).toEqual([{ name: 'colour', values: ['moss', 'sea'] }])
    expect(ids({ only: { colour: 'coal' } })).toEqual([])
    const hidden = shelvesOf(guest, [{ id: 'g', on: { product: 'mist-moss' }, find: forMakers }])
    expect(hidden.shelves.sold('mist')).toEqual(['mist-sea'])
    expect(hidden.ids({ only: { colour: 'moss' } })).toEqual([])
  })
})
