import { describe, expect, it } from 'vitest'
import type { Shelf } from '../../shop/shelf'
import { readShelfQuery, shownPrice, shownShelf, shownSteps } from './shelf-view'

const tools = {
  tell: (id: string, minor: number) => ({ words: `${id} ${minor}`, note: '' }),
  day: (date: string) => `on ${date}`,
}
const price = { id: 'bobbin', unit: 400, regular: 400, onSale: false, won: [] }

describe('a price as it is read', () => {
  it('is what it is now; what it was where that is more, and until when', () => {
    expect(shownPrice(price, tools)).toEqual({ now: 'bobbin 400' })
    expect(shownPrice({ ...price, unit: 300 }, tools)).toEqual({ now: 'bobbin 300', was: 'bobbin 400' })
    expect(shownPrice({ ...price, unit: 500 }, tools)).toEqual({ now: 'bobbin 500' })
    const sale = { price: 300, until: '2026-12-01' }
    expect(shownPrice({ ...price, onSale: true }, tools, sale)).toEqual({ now: 'bobbin 400', until: 'on 2026-12-01' })
    expect(shownPrice(price, tools, sale)).toEqual({ now: 'bobbin 400' })
    expect(shownPrice({ ...price, onSale: true }, tools, { price: 300 })).toEqual({ now: 'bobbin 400' })
    expect(shownPrice({ ...price, onSale: true }, tools)).toEqual({ now: 'bobbin 400' })
  })

  it('says that it is one of several, from which code it is, and what its tax is', () => {
    expect(shownPrice({ ...price, several: true }, tools)).toEqual({ now: 'bobbin 400', from: true })
    const won = [{ id: 'o' }, { id: 'p', code: 'wool', codeAsWritten: 'Wool' }] as never
    expect(shownPrice({ ...price, won }, tools)).toEqual({ now: 'bobbin 400', code: 'Wool' })
    const noted = { ...tools, tell: () => ({ words: '€4', note: 'with tax' }) }
    expect(shownPrice(price, noted)).toEqual({ now: '€4', note: 'with tax' })
  })

  it('of many pieces is told from where it is less', () => {
    const pricer = {
      ladder: () => [
        { from: 1, unit: 400 },
        { from: 10, unit: 300 },
        { from: 50, unit: 200 },
      ],
    }
    expect(shownSteps('bobbin', pricer as never, tools)).toEqual([
      { from: 10, price: 'bobbin 300' },
      { from: 50, price: 'bobbin 200' },
    ])
  })
})

describe('what a shelf is asked for', () => {
  it('is read from behind the path; what is not understood is not there', () => {
    expect(readShelfQuery()).toEqual({ sort: 'shown', only: {}, page: 1 })
    expect({ ...readShelfQuery({ sort: 'price', only: 'colour:moss,size:M:L', page: '2' }) }).toEqual({
      sort: 'price',
      only: { colour: 'moss', size: 'M:L' },
      page: 2,
    })
    expect(readShelfQuery({ sort: 'cheap', only: 'moss,:moss,', page: '0' })).toEqual({
      sort: 'shown',
      only: {},
      page: 1,
    })
    for (const page of ['-1', '1.5', '01', '1234567', '2x', 'x2', '']) expect(readShelfQuery({ page }).page).toBe(1)
    expect(readShelfQuery({ page: '123456' }).page).toBe(123_456)
    expect(Object.keys(readShelfQuery({ only: 'a:1,b:1,c:1,d:1,e:1,f:1' }).only)).toEqual(['a', 'b', 'c', 'd', 'e'])
    expect(readShelfQuery({ only: `a:${'x'.repeat(500)}` }).only.a).toHaveLength(398)
  })
})

describe('a shelf', () => {
  const shelf: Shelf = {
    ids: [],
    total: 50,
    page: 2,
    pages: 3,
    facets: [
      { name: 'colour', values: ['moss', 'weld'] },
      { name: 'size', values: ['M'] },
    ],
    priced: true,
  }
  const asked = { sort: 'name' as const, only: { colour: 'moss' }, page: 2 }

  it('is led through by links, which keep what else was asked', () => {
    expect(shownShelf(shelf, asked, '/yarn')).toEqual({
      total: 50,
      page: 2,
      pages: 3,
      sorts: [
        { sort: 'shown', href: '/yarn?only=colour%3Amoss', here: false },
        { sort: 'name', href: '/yarn?sort=name&only=colour%3Amoss', here: true },
        { sort: 'price', href: '/yarn?sort=price&only=colour%3Amoss', here: false },
        { sort: 'price-high', href: '/yarn?sort=price-high&only=colour%3Amoss', here: false },
      ],
      facets: [
        {
          name: 'colour',
          values: [
            { value: 'moss', here: true, href: '/yarn?sort=name' },
            { value: 'weld', here: false, href: '/yarn?sort=name&only=colour%3Aweld' },
          ],
        },
        { name: 'size', values: [{ value: 'M', here: false, href: '/yarn?sort=name&only=colour%3Amoss%2Csize%3AM' }] },
      ],
      all: '/yarn?sort=name',
      before: '/yarn?sort=name&only=colour%3Amoss',
      after: '/yarn?sort=name&only=colour%3Amoss&page=3',
    })
  })

  it('has no way on at its end, none back at its beginning, and none in order of prices nobody is told', () => {
    const plain = { sort: 'shown' as const, only: {}, page: 1 }
    const one = shownShelf({ ...shelf, facets: [], total: 1, page: 1, pages: 1 }, plain, '/yarn')
    expect(one).toEqual({ total: 1, page: 1, pages: 1, sorts: [], facets: [] })
    const first = shownShelf({ ...shelf, page: 1, priced: false, total: 2 }, plain, '/yarn')
    expect(first.sorts).toEqual([
      { sort: 'shown', href: '/yarn', here: true },
      { sort: 'name', href: '/yarn?sort=name', here: false },
    ])
    expect([first.before, first.after]).toEqual([undefined, '/yarn?page=2'])
    const last = shownShelf({ ...shelf, page: 3 }, plain, '/yarn')
    expect([last.before, last.after]).toEqual(['/yarn?page=2', undefined])
  })
})
