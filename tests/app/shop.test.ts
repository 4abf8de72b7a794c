import { describe, expect, it } from 'vitest'
import Shop from '../../app/components/loft/GoodsTable.vue'
import type { LoftAnswer } from '../../app/composables/loft-api'
import { mountScreen, refusal } from './loft-screen'
import type { Answers, Call } from './loft-screen'

type Goods = LoftAnswer<'GET products'>[number]
const sent = (calls: Call[]) =>
  calls.filter(call => call.method !== 'GET').map(({ method, path, body }) => [`${method} ${path}`, body])

describe('the shop', () => {
  const kit: Goods = {
    id: 'mitts-kit',
    version: { id: 3, revision: 2 },
    title: 'Beginner mitts kit',
    picture: 'gansey',
    price: 2400,
    stock: 22,
    cost: 1180,
    may: ['title', 'picture', 'price', 'stock', 'cost'],
  }
  const shop = (products: Goods[], answers: Answers = {}) =>
    mountScreen(Shop, { answers: { 'GET products': products, ...answers } })

  it('is kept part by part, with amounts as they are typed here', async () => {
    const { type, text, calls } = await shop([kit])
    await type('Price of Beginner mitts kit', '24,5')
    await type('Cost of Beginner mitts kit', 'twelve')
    expect(text()).toContain('“twelve” is no amount.')
    await type('Stock of Beginner mitts kit', '20')
    expect(text()).toContain('Beginner mitts kit is kept.')
    expect(sent(calls)).toEqual([
      ['PUT things/product/mitts-kit', { price: 2450, expects: { id: 3, revision: 2 } }],
      ['PUT products/mitts-kit/stock', { stock: 20 }],
    ])
  })

  it('shows a hand the stock to count, and no cost at all', async () => {
    const { price: _price, cost: _cost, ...rest } = kit
    const { find, text } = await shop([{ ...rest, may: ['stock'] }])
    expect(text()).not.toContain('Cost')
    expect(find('Stock of Beginner mitts kit')).toBeTruthy()
    expect(() => find('Name of Beginner mitts kit')).toThrow()
  })

  it('goes back to what holds when a change is refused', async () => {
    const { type, text, find } = await shop([kit], {
      'PUT products/mitts-kit/stock': refusal('bad-input', 'Stock is a whole number from zero.'),
    })
    await type('Stock of Beginner mitts kit', '-3')
    expect(text()).toContain('Stock is a whole number from zero.')
    expect((find('Stock of Beginner mitts kit') as HTMLInputElement).value).toBe('22')
  })
})
