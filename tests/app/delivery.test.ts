import { describe, expect, it, vi } from 'vitest'
import Deliveries from '~/loft/shop/delivery/Deliveries.vue'
import { mountScreen } from './loft-screen'

async function deliveries() {
  const screen = await mountScreen(Deliveries, {
    answers: { 'POST deliveries/order': { changed: [], version: 1 } } as never,
  })
  const cell = (way: string, tier: number) =>
    document.getElementById(`delivery-${way}-${tier}`)?.textContent?.replaceAll(/\s+/g, ' ').trim()
  await vi.waitFor(() => expect(cell('post', 0)).toContain('6.15'), { timeout: 5000 })
  const at = (name: string) => screen.loft.tiers.findIndex(one => one.name === name)
  return { ...screen, cell, at }
}

describe('the board of deliveries', () => {
  it('tells what each way costs each tier as their receipt shows it, and why it is not theirs', async () => {
    const { cell, at, find, text, type } = await deliveries()
    const classroom = at('Classroom')
    expect([cell('collect', 0), cell('carrier', 0), cell('abroad', 0)]).toEqual(['free', 'not for them', 'not there'])
    // Schools are taxed nothing on delivery.
    expect([cell('post', classroom), cell('carrier', classroom)]).toEqual(['5.00', '7.80 up to 5 kg'])
    document.getElementById('delivery-post-0')!.click()
    await vi.waitFor(() =>
      expect(text()).toMatch(/Guest, By post on the island: The parcel weighs .+ more and it would/),
    )
    await type('Where it is sent: a country or region, and a postcode', 'Germany')
    await vi.waitFor(() => expect(cell('post', 0)).toBe('not there'))
    expect(cell('abroad', 0)).toMatch(/up to 0.5 kg$/)
    await type('What is in the basket: 2 Fell DK; niddy-noddy', '900 Fell DK')
    await vi.waitFor(() => expect(cell('abroad', 0)).toBe('too heavy'))
    expect(text()).toContain('no way there')
    expect(find('What sending costs each tier').getAttribute('aria-rowcount')).toBe('6')
  })

  it('takes a way said in one line, tells what it would move, and reads it back to be said otherwise', async () => {
    const { cell, at, text, type, press, loft, find } = await deliveries()
    await type('Say a way of delivery', 'by bicycle to Ireland, up to 2 kg 3, free from 20, for stockists and weavers')
    expect(text()).toContain('expected')
    await type('Say a way of delivery', 'by bicycle to Ireland, up to 2 kg 3, for stockists')
    await vi.waitFor(() => expect(text()).toMatch(/sent there: Stockist 3\.69/))
    await press('Keep it in the draft Ctrl ⏎')
    const made = loft.draft.deliveries!.at(-1)!
    expect(made).toEqual({
      id: 'by-bicycle',
      name: 'By bicycle',
      to: [{ country: 'IE' }],
      cost: { byWeight: [{ upTo: 2000, cost: 300 }] },
      for: { role: { anyOf: ['stockist'] } },
    })
    await vi.waitFor(() => expect(cell('by-bicycle', at('Stockist'))).toBe('3.69 up to 2 kg'))
    await press('By bicycle to Ireland, up to 2 kg 3.00, for Stockists')
    const line = find('Say By bicycle otherwise') as HTMLInputElement
    expect(line.value).toBe('By bicycle to Ireland, up to 2 kg 3.00, for Stockists')
    await type('Say By bicycle otherwise', 'By bicycle to Ireland, up to 2 kg 3.00')
    await vi.waitFor(() => expect(text()).toMatch(/Guest not for them → 3\.69/))
    await press('Keep it in the draft Ctrl ⏎')
    expect(loft.draft.deliveries!.at(-1)).toEqual({ ...made, for: undefined })
    await vi.waitFor(() => expect(cell('by-bicycle', 0)).toBe('3.69 up to 2 kg'))
  })

  it('offers ways to buyers in the order they are put in', async () => {
    const { press, calls } = await deliveries()
    await press('Later: By post on the island')
    await press('Earlier: By post abroad')
    await vi.waitFor(() => expect(calls.filter(one => one.method === 'POST').length).toBe(2))
    expect(calls.filter(one => one.method === 'POST').map(({ path, body }) => [path, body])).toEqual([
      ['deliveries/order', { key: 'post', before: 'abroad' }],
      ['deliveries/order', { key: 'abroad', before: 'carrier' }],
    ])
  })
})
