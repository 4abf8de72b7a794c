import { describe, expect, it } from 'vitest'
import { assembledAt, contextAt, forMakers, guest, maker, pia } from '../../tests/support/page-at'
import type { SmallSite } from '../../tests/support/page-at'
import { menuOf } from './page-menu'

const found = { find: { everyone: true } }
const small = (items: object[], more: SmallSite = {}): SmallSite => ({
  ...more,
  things: {
    pages: [
      { id: 'wool', title: 'Wool', path: '/wool' },
      { id: 'dyes', title: 'Dyes', path: '/dyes' },
    ],
    menus: [{ id: 'main', title: 'Main', items }],
    ...more.things,
  },
})
const menuAt = (items: object[], more: SmallSite = {}) => menuOf(contextAt('/wool', small(items, more)), 'main')
const entry = { locked: false, here: false, items: [] }
const dyes = { id: 'm', label: 'Dyes', to: { page: 'dyes' }, whenRefused: 'locked' }
const shut = { gates: [{ on: { page: 'dyes' }, open: forMakers, ...found }] }

describe('the menu of a page', () => {
  it('has its entries where they lead, with those under them', () => {
    const items = [
      { id: 'a', label: 'Wool', to: { page: 'wool' } },
      { id: 'b', label: 'Dyes', to: { page: 'dyes' }, under: 'a' },
      { id: 'c', label: 'Hill', to: { url: 'https://hill.example/' } },
      { id: 'd', label: 'More' },
      { id: 'e', label: 'Wool again', to: { page: 'wool' }, under: 'd' },
      { id: 'f', label: 'Alone', to: { page: 'wool' }, under: 'gone' },
    ]
    const inWalk = menuAt(items, { ask: { base: '/walk/x' } })
    expect(inWalk).toEqual([
      {
        label: 'Wool',
        href: '/walk/x/wool',
        locked: false,
        here: true,
        items: [{ ...entry, label: 'Dyes', href: '/walk/x/dyes' }],
      },
      { ...entry, label: 'Hill', href: 'https://hill.example/' },
      { ...entry, label: 'More', items: [{ ...entry, label: 'Wool again', href: '/walk/x/wool', here: true }] },
      { ...entry, label: 'Alone', href: '/walk/x/wool', here: true },
    ])
    expect(menuOf(contextAt('/wool', small(items)), 'none')).toEqual([])
  })

  it('hides what does not open, or locks it and says what unlocks it, or leads there all the same', () => {
    expect(menuAt([{ ...dyes, whenRefused: 'hide' }], shut)).toEqual([])
    expect(menuAt([dyes], shut)).toEqual([{ label: 'Dyes', locked: true, from: 'Maker', here: false, items: [] }])
    expect(menuAt([dyes], { gates: [{ on: { page: 'dyes' }, open: forMakers }] })).toEqual([
      { label: 'Dyes', locked: true, here: false, items: [] },
    ])
    expect(menuAt([{ ...dyes, whenRefused: 'show' }], shut)).toEqual([{ ...entry, label: 'Dyes', href: '/dyes' }])
    expect(menuAt([dyes], { ...shut, visitor: maker })).toEqual([{ ...entry, label: 'Dyes', href: '/dyes' }])
    const never = { gates: [{ on: { page: 'dyes' }, open: { country: { in: ['FR'] } }, ...found }] }
    expect(menuAt([dyes], never)[0]).not.toHaveProperty('from')
  })

  it('hides an entry of its own gates, found or opened', () => {
    const plain = [{ id: 'm', label: 'Dyes', to: { page: 'dyes' } }]
    for (const right of ['find', 'open'])
      expect(menuAt(plain, { gates: [{ on: { menuItem: 'm' }, [right]: forMakers }] })).toEqual([])
    expect(menuAt(plain, { gates: [{ on: { menuItem: 'm' }, open: forMakers }], visitor: maker })).toHaveLength(1)
  })

  it('leads in, and out whoever is in; to what is their own, and to what they buy', () => {
    const way = [{ id: 'm', label: 'Sign in', labelIn: 'Leave', to: { own: 'entrance' } }]
    expect(menuAt(way)).toEqual([{ ...entry, label: 'Sign in', href: '/sign-in?back=%2Fwool' }])
    expect(menuAt(way, { visitor: pia })).toEqual([{ ...entry, label: 'Leave', wayOut: true }])
    const { labelIn: _, ...bare } = way[0]!
    const under = [bare, { id: 'n', label: 'Wool', to: { page: 'wool' }, under: 'm' }]
    expect(menuAt(under, { visitor: pia })).toEqual([
      { ...entry, label: 'Sign out', wayOut: true, items: [{ ...entry, label: 'Wool', href: '/wool', here: true }] },
    ])
    const account = [{ id: 'm', label: 'Mine', to: { own: 'account' } }]
    expect(menuAt(account)).toEqual([])
    expect(menuAt(account, { visitor: pia })).toEqual([{ ...entry, label: 'Mine', href: '/account/profile' }])
    const pages = [{ id: 'home', title: 'Home', path: '/account' }]
    expect(menuAt(account, { visitor: pia, things: { pages } })[0]!.href).toBe('/account')
    const basket = [{ id: 'm', label: 'Basket', to: { own: 'basket' } }]
    expect(menuAt(basket)).toEqual([{ ...entry, label: 'Basket', href: '/basket', count: '[basket]' }])
    expect(menuAt(basket, { ask: { base: '/walk/x' } })[0]).not.toHaveProperty('href')
    expect(menuAt([{ ...dyes, to: { page: 'gone' } }])).toEqual([{ ...entry, label: 'Dyes', locked: true }])
  })

  it('turns on what lies in the basket only where it counts that', async () => {
    const factsOf = async (to: object, visitor = guest) =>
      (await assembledAt('/wool', { ...small([{ id: 'm', label: 'x', to }]), visitor })).facts
    expect([...(await factsOf({ own: 'basket' }))]).toContain('basket')
    expect([...(await factsOf({ page: 'dyes' }))]).not.toContain('basket')
  })

  it('is nowhere of a page that is not there', async () => {
    const { view } = await assembledAt('/none', small([{ id: 'm', label: 'None', to: { url: '/none' } }]))
    expect(view.menu).toEqual([{ ...entry, label: 'None', href: '/none' }])
  })
})
