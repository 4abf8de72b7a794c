import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import MenuDesk from '../../app/loft/site/menus/MenuDesk.vue'
import { mountScreen } from './loft-screen'

async function menuDesk() {
  const screen = await mountScreen(MenuDesk, { props: { id: 'main' }, answers: { 'GET things': [] } })
  await vi.waitUntil(() => document.querySelector('tr'))
  await flushPromises()
  return screen
}
const row = (label: string) => [...document.querySelectorAll('tr')].find(one => one.textContent!.includes(label))!
const cells = (label: string) => [...row(label).querySelectorAll('td')].map(one => one.textContent!.trim())

describe('a menu at its desk', () => {
  it('shows how each tier gets every entry: with its link, without, or not at all', async () => {
    await menuDesk()
    expect(cells('Sign in')[0]).toBe('Sign in')
    expect(cells('Sign in')[1]).toBe('Sign out')
    expect(cells('Trade desk')).toEqual(['·', '·', '·', '·', '·', 'Trade desk', '·', '·', '·'])
    expect(row('Gansey course').querySelectorAll('td .italic')).toHaveLength(7)
  })

  it('makes an entry, and moves those there are by keys', async () => {
    const { press, calls, key } = await menuDesk()
    await press('+ Sign in or out')
    expect(calls.find(one => one.path === 'things/menuItem')!.body).toEqual({
      id: 'main-sign-in',
      menu: 'main',
      label: 'Sign in',
      labelIn: 'Sign out',
      to: { own: 'entrance' },
    })
    await key(row('Visit') as HTMLElement, 'ArrowRight', { altKey: true })
    await key(row('Visit') as HTMLElement, 'ArrowUp', { altKey: true })
    const sent = calls.filter(one => one.path === 'draft/steps')
    expect(sent.map(({ method, body }) => [method, body])).toEqual([
      [
        'POST',
        { steps: [{ do: 'change', kind: 'menuItem', key: 'm-visit', parts: { under: 'm-shop' }, before: null }] },
      ],
      ['POST', { steps: [{ do: 'move', kind: 'menuItem', key: 'm-visit', before: 'm-shop' }] }],
    ])
  })
})
