import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Menu, MenuItem } from '../kinds/menu-item'
import { menuFor } from './menu'
import type { MenuAsk } from './menu'

const asking = ({
  admits = () => true,
  opens = () => true,
  signedIn = false,
}: { admits?: (id: string) => boolean; opens?: (id: string) => boolean; signedIn?: boolean } = {}): MenuAsk => ({
  signedIn: () => signedIn,
  ownAdmits: item => admits(item.id),
  opens: one => opens(one.id),
})
const shown = (menu: Menu, ask: MenuAsk) => menuFor(menu, ask).map(({ item, state }) => `${item.id} ${state}`)
const menu = (...items: MenuItem[]): Menu => ({ id: 'main', items })
const page = (id: string, more: Partial<MenuItem> = {}): MenuItem => ({ id, label: id, to: { page: id }, ...more })

describe('a menu', () => {
  it('follows what its items lead to, unless they say otherwise', () => {
    const items = menu(page('a'), page('b'), page('c', { follow: false }), {
      id: 'd',
      label: 'd',
      to: { url: 'https://guild.example' },
    })
    expect(shown(items, asking({ opens: id => id === 'a' }))).toEqual(['a shown', 'c shown', 'd shown'])
    expect(shown(items, asking({ admits: id => id !== 'd' }))).toEqual(['a shown', 'b shown', 'c shown'])
  })

  it('has the way in and out for everybody, and an account for whoever is in', () => {
    const items = menu(
      { id: 'in', label: 'Sign in', to: { own: 'entrance' } },
      { id: 'mine', label: 'Account', to: { own: 'account' } },
    )
    expect(shown(items, asking())).toEqual(['in shown'])
    expect(shown(items, asking({ signedIn: true }))).toEqual(['in shown', 'mine shown'])
  })

  it('hides, locks or keeps what is refused, as the item says or else the menu', () => {
    const refused = asking({ opens: () => false })
    expect(
      shown(
        {
          ...menu(page('a'), page('b', { whenRefused: 'hide' }), page('c', { whenRefused: 'show' })),
          whenRefused: 'locked',
        },
        refused,
      ),
    ).toEqual(['a locked', 'c shown'])
    expect(shown(menu(page('a'), page('b', { whenRefused: 'locked' })), refused)).toEqual(['b locked'])
  })

  it('hides what lies under the hidden, and a heading with nothing under it', () => {
    const items = menu(
      { id: 'head', label: 'head' },
      page('a', { under: 'head' }),
      page('b', { under: 'a' }),
      page('c', { under: 'b' }),
    )
    expect(shown(items, asking())).toEqual(['head shown', 'a shown', 'b shown', 'c shown'])
    expect(shown(items, asking({ opens: id => id !== 'a' }))).toEqual([])
    expect(shown(items, asking({ opens: id => id !== 'b' }))).toEqual(['head shown', 'a shown'])
  })

  it('ends rings of what lies under what, and answers for every item in order', () => {
    expect(
      shown(menu(page('a', { under: 'b' }), page('b', { under: 'a' }), page('c', { under: 'c' })), asking()),
    ).toEqual([])
    const anyItem = (i: number) =>
      fc
        .record(
          {
            follow: fc.boolean(),
            whenRefused: fc.constantFrom('hide' as const, 'locked' as const, 'show' as const),
            under: fc.constantFrom('i0', 'i1', 'i2', 'i3', 'gone'),
            heading: fc.boolean(),
          },
          { requiredKeys: ['heading'] },
        )
        .map(({ heading, ...one }): MenuItem => ({
          id: `i${i}`,
          label: 'x',
          ...(heading ? {} : { to: { page: `i${i}` } }),
          ...one,
        }))
    fc.assert(
      fc.property(
        fc.tuple(...[0, 1, 2, 3].map(anyItem)),
        fc.array(fc.boolean(), { minLength: 8, maxLength: 8 }),
        (items, admits) => {
          const seen = menuFor(menu(...items), {
            signedIn: () => false,
            ownAdmits: item => admits[Number(item.id[1])]!,
            opens: one => admits[4 + Number(one.id[1])]!,
          })
          const ids = seen.map(({ item }) => item.id)
          expect(ids).toEqual(items.map(item => item.id).filter(id => ids.includes(id)))
          for (const { item } of seen) {
            // What it lies under shows too, as far as there is such an item.
            if (item.under && items.some(one => one.id === item.under)) expect(ids).toContain(item.under)
            if (!item.to) expect(items.some(one => one.under === item.id && ids.includes(one.id))).toBe(true)
          }
        },
      ),
      { numRuns: 500 },
    )
  })
})
