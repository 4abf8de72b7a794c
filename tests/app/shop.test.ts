import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { partsChanged } from '../../app/loft/shop/goods/goods-together'
import Goods from '../../app/loft/shop/goods/Goods.vue'
import type { LoftAnswer } from '../../app/loft/core/loft-api'
import { wexlowSite } from '../support/wexlow-site'
import { mountScreen, refusal } from './loft-screen'
import type { Answers, Call } from './loft-screen'

type Counted = LoftAnswer<'GET products'>
const sent = (calls: Call[]) =>
  calls.filter(call => call.method !== 'GET').map(({ method, path, body }) => [`${method} ${path}`, body])
const everything = ['title', 'categories', 'price', 'stock', 'cost'] as Counted['may'][number]
const counted = (may = everything, more: Partial<Counted> = {}): Counted => ({
  may: [may],
  goods: Object.fromEntries(wexlowSite.products!.map(one => [one.id, 0])),
  stock: { 'fell-dk-moss': 37, 'fell-dk-weld': 5, 'mitts-kit': 22 },
  reserved: { 'fell-dk-moss': 6 },
  cost: { 'mitts-kit': 1180 },
  ...more,
})

async function goods(answer = counted(), answers: Answers = {}) {
  const screen = await mountScreen(Goods, {
    answers: {
      'GET products': answer,
      'GET products/:id/stock': { pieces: 37, reserved: 6, free: 31, holds: [], moves: [] },
      'GET things': [],
      ...answers,
    },
  })
  await flushPromises()
  const cell = (id: string, column: string) => document.getElementById(`goods-${id}-${column}`)
  const words = (id: string, column: string) => cell(id, column)!.textContent!.replaceAll(/\s+/g, ' ').trim()
  const grid = () => screen.find('Goods')
  const write = async (id: string, column: string, text: string) => {
    cell(id, column)!.click()
    await flushPromises()
    await screen.key(grid(), 'Enter')
    const field = cell(id, column)!.querySelector('input')!
    field.value = text
    field.dispatchEvent(new Event('input'))
    await screen.key(field, 'Enter')
    await flushPromises()
    await flushPromises()
  }
  return { ...screen, cell, words, write, grid }
}

describe('the grid of goods', () => {
  it('tells what each costs, what follows its product, and what is there and free', async () => {
    const { words, key, grid, cell } = await goods()
    expect(words('fell-dk', 'title')).toBe('▾Fell DK, 50 g · 6 kinds')
    expect([words('fell-dk', 'price'), words('fell-dk-moss', 'price')]).toEqual(['6.90', '6.90'])
    expect(words('fell-dk', 'stock')).toBe('42 6 aside, 36 free')
    expect(words('fell-dk-moss', 'stock')).toBe('37 6 aside, 31 free')
    expect(words('harbour-aran', 'sale')).toContain('9.60 to 31.01')
    cell('fell-dk', 'title')!.click()
    await key(grid(), ' ')
    expect(cell('fell-dk-moss', 'title')).toBeNull()
  })

  it('is written in place, each part where it is kept, and says what is no amount', async () => {
    const { write, text, calls } = await goods()
    await write('mitts-kit', 'price', '24,5')
    await write('mitts-kit', 'cost', 'twelve')
    expect(text()).toContain('“twelve” is no amount.')
    await write('mitts-kit', 'price', '-1')
    expect(text()).toContain('“-1” is no amount.')
    await write('mitts-kit', 'stock', '20')
    expect(text()).toContain('Beginner mitts kit: counted.')
    await write('mitts-kit', 'stock', 'many')
    expect(text()).toContain('“many” is no number of pieces.')
    // A variant without a price follows its product again.
    await write('fell-dk-overdyed-black', 'price', '')
    expect(sent(calls)).toEqual([
      ['PUT things/product/mitts-kit', { price: 2450, expects: { id: 1, revision: 1 } }],
      ['PUT products/mitts-kit/stock', { stock: 20, was: 22 }],
      ['PUT things/product/fell-dk-overdyed-black', { price: null, expects: { id: 1, revision: 1 } }],
    ])
  })

  it('shows a hand the stock to count, and no cost at all', async () => {
    const { cost: _, ...uncosted } = counted(['stock'])
    const { cell, text, key, grid } = await goods(uncosted as Counted)
    expect(text()).not.toContain('Cost')
    expect(cell('mitts-kit', 'cost')).toBeNull()
    cell('mitts-kit', 'price')!.click()
    await flushPromises()
    await key(grid(), 'Enter')
    expect(cell('mitts-kit', 'price')!.querySelector('input')).toBeNull()
  })

  it('keeps what holds where the server refuses, and says why', async () => {
    const { write, text, words } = await goods(counted(), {
      'PUT products/mitts-kit/stock': refusal('changed-meanwhile', 'Somebody counted meanwhile: there are 9 now.'),
    })
    await write('mitts-kit', 'stock', '3')
    expect(text()).toContain('Somebody counted meanwhile: there are 9 now.')
    expect(words('mitts-kit', 'stock')).toBe('22')
  })

  it('changes many together, after saying what becomes of each', async () => {
    const { type, text, press, calls, key, grid, cell } = await goods()
    await type('Category', 'kits')
    for (const id of ['mitts-kit']) {
      cell(id, 'title')!.click()
      await flushPromises()
      await key(grid(), 't')
    }
    await type('By', '-7.5 %')
    await type('Ends on', '10')
    expect(text()).toContain('1 product would change')
    expect(text()).toContain('€24.00€22.20')
    await press('Keep it in the draft')
    expect(sent(calls)).toEqual([
      ['PUT products', { products: [{ id: 'mitts-kit', expects: { id: 1, revision: 1 }, parts: { price: 2220 } }] }],
    ])
  })
})

describe('one change of many goods', () => {
  const yarn = { id: 'y', price: 1000, categories: ['yarn'] }
  it('leaves alone what it does nothing to', () => {
    expect(partsChanged({ id: 'v', of: 'y' }, { do: 'price', by: { percent: '5' }, step: 1 }, 1000)).toBeNull()
    expect(partsChanged({ id: 'v', of: 'y' }, { do: 'sale', by: { percent: '-5' }, step: 1 }, 1000)).toEqual({
      sale: { price: 950 },
    })
    expect(partsChanged(yarn, { do: 'price', by: { amount: 0 }, step: 1 })).toBeNull()
    expect(partsChanged(yarn, { do: 'endSale' })).toBeNull()
    expect(partsChanged(yarn, { do: 'addCategory', category: 'yarn' })).toBeNull()
    expect(partsChanged({ id: 'v', of: 'y' }, { do: 'addCategory', category: 'kits' })).toBeNull()
    expect(partsChanged(yarn, { do: 'takeCategory', category: 'yarn' })).toEqual({ categories: [] })
    expect(partsChanged({ ...yarn, taxCategory: 'reduced' }, { do: 'tax', category: '' })).toEqual({
      taxCategory: null,
    })
  })
})
