import { describe, expect, it } from 'vitest'
import { deciderAt, forMakers, guest, maker, viewAt } from '../../tests/support/page-at'
import type { Rulebook } from '../rulebook/rulebook'
import type { PageView } from '../view/view'
import type { Visitor } from '../visitor/visitor'
import { codeShown, codesPlace } from './goods/codes-view'

const things = {
  pages: [
    { id: 'wool', title: 'Wool', path: '/wool' },
    { id: 'washing', title: 'Washing wool', path: '/wool/washing', parent: 'wool' },
    { id: 'soaps', title: 'Soaps', path: '/wool/washing/soaps', parent: 'washing' },
  ],
  categories: [{ id: 'yarn', title: 'Yarn', path: '/yarn' }],
  products: [{ id: 'bobbin', title: 'Bobbin', path: '/yarn/bobbin', price: 400, categories: ['yarn'] }],
}
const book = (more: Partial<Rulebook>) => more
const content = (kind: string, id: string) => ({ summary: `About ${kind} ${id}` })
const pageOf = (path: string, visitor: Visitor, rulebook: Partial<Rulebook>): Promise<PageView> =>
  viewAt(path, { things, visitor, book: rulebook, source: { content } })
const deciderOf = (rulebook: Partial<Rulebook>, visitor: Visitor) => deciderAt({ things, visitor, book: rulebook })
const words = (view: PageView) => JSON.stringify(view)

describe('a page', () => {
  it('says what it lies in, but for what its visitor may not find', async () => {
    const rules = book({ gates: [{ id: 'washing', on: { page: 'washing' }, find: forMakers, spares: true } as never] })
    const trail = async (visitor: Visitor, rulebook: Partial<Rulebook>) =>
      (await pageOf('/wool/washing/soaps', visitor, rulebook)).trail.map(one => one.title)
    expect(await trail(maker, rules)).toEqual(['Wool', 'Washing wool'])
    expect(await trail(guest, book({}))).toEqual(['Wool', 'Washing wool'])
    expect(await trail(guest, rules)).not.toContain('Washing wool')
    expect(words(await pageOf('/wool/washing/soaps', guest, rules))).not.toContain('Washing wool')
  })

  it('of goods says that they are not sold, or that their price is not told, to whom that is so', async () => {
    const of = (right: 'price' | 'take') =>
      book({ gates: [{ id: 'g', on: { product: 'bobbin' }, [right]: forMakers } as never] })
    const shown = async (visitor: Visitor, rulebook: Partial<Rulebook>) => {
      const { blocks, below, goods } = await pageOf('/yarn/bobbin', visitor, rulebook)
      return JSON.stringify([blocks, below, goods])
    }
    const [untold, unsold] = [await shown(guest, of('price')), await shown(guest, of('take'))]
    expect(untold).toContain('The price of this is for some of us.')
    expect(untold).not.toMatch(/4\.00|is not sold|"buy"/)
    expect(unsold).toContain('This can be looked at here, and is not sold to everybody.')
    expect(unsold).toContain('4.00')
    expect(unsold).not.toMatch(/is for some of us|"buy"/)
    for (const right of ['price', 'take'] as const)
      expect(await shown(maker, of(right))).toBe(await shown(maker, book({})))
  })

  it('that is refused and one that is not there are the same', async () => {
    const rules = book({ gates: [{ id: 'g', on: { page: 'wool' }, open: forMakers, find: forMakers } as never] })
    const [shut, none] = [await pageOf('/wool', guest, rules), await pageOf('/nothing-here', guest, rules)]
    expect(words(shut).replaceAll('/wool', '')).toBe(words(none).replaceAll('/nothing-here', ''))
    expect((await pageOf('/wool', maker, rules)).title).toBe('Wool')
  })
})

describe('codes', () => {
  const offer = { id: 'o', code: 'WOOL', bands: [{ off: { percent: 10 } }], for: forMakers }
  const offers = (more: object = {}) => book({ offers: [{ ...offer, ...more } as never] })

  it('are given where an offer takes one, and in no walk', () => {
    const at = (rulebook: Partial<Rulebook>, base = '') => codesPlace(deciderOf(rulebook, guest), '/yarn', base)
    expect(at(offers())).toContain('back=')
    expect(at(offers(), '/walk/x')).toBeUndefined()
    expect(at(offers({ active: false }))).toBeUndefined()
    expect(at(offers({ code: undefined }))).toBeUndefined()
    expect(at(book({}))).toBeUndefined()
  })

  it('are shown to whom the offer is for; single ones to nobody', () => {
    const shown = (visitor: Visitor, more: object = {}) => codeShown(deciderOf(offers(more), visitor), 'o')
    expect(shown(maker)).toEqual({ given: false, code: 'WOOL' })
    expect(shown(guest)).toBeNull()
    expect(shown(guest, { for: undefined })).toEqual({ given: false, code: 'WOOL' })
    expect(shown(maker, { active: false })).toBeNull()
    expect(shown(maker, { codes: 'single' })).toEqual({ given: false })
  })
})
