import { describe, expect, it } from 'vitest'
import StaffTable from '../../app/loft/who/StaffTable.vue'
import { appBlocks } from '../../app/blocks/blocks'
import type { BlockKind } from '../../core/blocks/blocks'
import { staffKindOfBlock } from '../../core/staff/block-kind'
import { staffKinds } from '../../core/staff/staff-kinds'
import type { StaffRule } from '../../core/staff/staff-rule'
import { startData, mountScreen } from './loft-screen'

const allButTitle = ['address', 'summary', 'pictures', 'categories', 'place', 'assignment']
const rules: StaffRule[] = [
  { role: 'shop-hand', kind: 'products', actions: ['look', 'change'], fields: allButTitle, whose: 'anyone' },
  { role: 'shop-hand', kind: 'stock', actions: ['look', 'change'], whose: 'anyone' },
  { role: 'page-hand', kind: 'pages', actions: ['look'], whose: 'anyone' },
  { role: 'page-hand', kind: 'pages', actions: ['change'], whose: 'me' },
  { role: 'front-desk', kind: 'people', actions: ['look'], whose: 'anyone' },
]
async function board(data = startData()) {
  const screen = await mountScreen(StaffTable, { answers: { 'GET staff': { rules } }, data })
  const cell = (kind: string, role: string) =>
    document.getElementById(
      `staff-${kind}-${['keeper', 'page-hand', 'shop-hand', 'front-desk', 'together'].indexOf(role)}`,
    )!
  const said = (kind: string, role: string) => cell(kind, role).textContent!.trim()
  const choose = async (kind: string, role: string) => {
    cell(kind, role).click()
    await Promise.resolve()
  }
  const why = () => document.querySelector('[aria-label="Why"]')!.textContent!.replaceAll(/\s+/g, ' ').trim()
  const put = () =>
    screen.calls
      .filter(call => call.method === 'PUT')
      .map(({ path, body }) => [path, (body as { rules: StaffRule[] }).rules] as const)
  return { ...screen, said, choose, why, put }
}

describe('the board of staff roles', () => {
  it('says of every cell what the role may do, in words too', async () => {
    const { said } = await board()
    expect(said('pages', 'keeper')).toBe('Keeper, pages: everything')
    expect(said('stock', 'front-desk')).toBe('Front desk, stock: nothing')
    expect(said('people', 'front-desk')).toBe('Front desk, people: look')
    expect(said('pages', 'page-hand')).toBe('Page hand, pages: look at, change, narrowed')
    expect(said('products', 'shop-hand')).toBe('Shop hand, products: look at, change, narrowed')
  })

  it('tells all kinds of part in one row, said at once of all of them, and unfolded of each by the name Site has', async () => {
    const { said, choose, press, put, why, find } = await board()
    expect(said('parts', 'page-hand')).toBe('Page hand, Parts: nothing')
    expect(document.getElementById('staff-blocks-text-1')).toBeNull()
    await choose('parts', 'page-hand')
    expect(why()).toContain('Said of all kinds of part at once')
    await press('+ do the work')
    const given = put()
      .at(-1)![1]
      .filter(rule => rule.kind.startsWith('blocks-'))
    expect(given.map(rule => rule.kind).sort()).toEqual(Object.values(staffKindOfBlock).sort())
    expect(new Set(given.map(rule => rule.actions.join()))).toEqual(new Set(['look,add,change,withdraw']))
    find('▸ Parts 16 kinds').click()
    await Promise.resolve()
    for (const [kind, staff] of Object.entries(staffKindOfBlock))
      expect(staffKinds[staff].one).toBe(appBlocks[kind as BlockKind].name)
    await choose('blocks-code', 'page-hand')
    await press('+ look')
    expect(
      put()
        .at(-1)![1]
        .filter(rule => rule.kind.startsWith('blocks-')),
    ).toEqual([{ role: 'page-hand', kind: 'blocks-code', actions: ['look'], whose: 'anyone' }])
  })

  it('sums the roles that are ticked: what somebody with all of them may do', async () => {
    const { press, said } = await board()
    await press('Add Shop hand to the sum')
    await press('Add Front desk to the sum')
    expect([said('people', 'together'), said('products', 'together')]).toEqual([
      'Together, people: look',
      'Together, products: look at, change, narrowed',
    ])
  })

  it('changes a role by the words of its sentence, and leaves its other sentences alone', async () => {
    const { choose, press, put, why } = await board()
    await choose('products', 'shop-hand')
    expect(why()).toContain('Shop hand may')
    await press('title')
    expect(put().at(-1)).toEqual([
      'staff/shop-hand',
      [rules[1], { role: 'shop-hand', kind: 'products', actions: ['look', 'change'], whose: 'anyone' }],
    ])
    await press('withdraw')
    expect(put().at(-1)![1]).toContainEqual({ ...rules[0], actions: ['look', 'change', 'withdraw'] })
    await press('take this sentence out')
    expect(put().at(-1)).toEqual(['staff/shop-hand', [rules[1]]])
  })

  it('begins with a ready-made set, and narrows it to whose thing it is', async () => {
    const { choose, press, type, put } = await board()
    await choose('posts', 'page-hand')
    await press('+ do the work')
    expect(
      put()
        .at(-1)![1]
        .filter(rule => rule.kind === 'posts'),
    ).toMatchObject([{ role: 'page-hand', whose: 'anyone' }])
    await choose('pages', 'page-hand')
    await type('Made by whom', 'assigned')
    expect(
      put()
        .at(-1)![1]
        .filter(rule => rule.kind === 'pages'),
    ).toEqual([{ ...rules[2], whose: 'assigned' }, rules[3]])
    await type('Made by whom', 'audience')
    expect(
      put()
        .at(-1)![1]
        .find(rule => rule.whose === 'audience'),
    ).toEqual({ ...rules[2], whose: 'audience', audience: 'gansey-circle' })
  })

  it('keeps the master key fixed, and reads only for who may only look', async () => {
    const { choose, why } = await board()
    await choose('pages', 'keeper')
    expect(why()).toContain('Holds the master key: it may do everything, and that is fixed.')
    const looking = await board(
      startData({
        me: {
          id: 'p',
          name: 'P',
          masterKey: false,
          roles: ['front-desk'],
          rules: [{ role: 'front-desk', kind: 'staff', actions: ['look'], whose: 'anyone' }],
        },
      }),
    )
    await looking.choose('pages', 'page-hand')
    expect(looking.why()).toContain('Page hand may look at pages')
    expect(document.querySelectorAll('aside button')).toHaveLength(0)
  })

  it('is walked by arrows', async () => {
    const { key } = await board()
    const grid = document.querySelector<HTMLElement>('[role=grid]')!
    for (const pressed of ['ArrowDown', 'ArrowRight', 'ArrowUp', 'ArrowUp']) await key(grid, pressed)
    expect(grid.getAttribute('aria-activedescendant')).toBe('staff-pages-2')
  })
})
