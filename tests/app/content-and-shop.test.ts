import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import Content from '../../app/components/loft/Content.vue'
import Shop from '../../app/pages/loft/shop.vue'
import type { StaffRule } from '../../core/staff/staff-rule'
import type { LoftAnswer, LookedThing } from '../../app/composables/loft-api'
import { everybody, listed, startData, mountScreen, refusal } from './loft-screen'
import type { Answers, Call } from './loft-screen'

type Goods = LoftAnswer<'GET products'>[number]
const looked = (kind: LookedThing['kind'], id: string, position: number, thing: LookedThing['thing']): LookedThing => ({
  kind,
  id,
  position,
  thing,
  version: { id: 7, revision: 1 },
  madeBy: 'p-ines',
  assignedTo: null,
  changedBy: 'Ines Varga',
  changedAt: '2026-11-24T09:05:00Z',
})
const block = (id: string, kind: string, position: number, more: object = {}) =>
  looked('block', id, position, { kind, in: { page: 'visit' }, summary: '', body: { markdown: id }, ...more })
const visit: LoftAnswer<'GET things/:kind/:key'> = {
  ...looked('page', 'visit', 4, { path: '/visit', title: 'Visit the mill', summary: 'The boat.' }),
  inside: [
    block('third', 'text', 2),
    block('box', 'group', 1, { body: {}, title: 'Box' }),
    block('inner', 'text', 0, { in: { block: 'box' } }),
    block('first', 'text', 0),
  ],
}
const content = async (answers: Answers = {}, data = startData()) => {
  const screen = await mountScreen(Content, {
    answers: {
      'GET things/page/visit': visit,
      'GET people': everybody(listed('p-tomas', 'Tomas Orre')),
      ...answers,
    },
    data,
  })
  await screen.press('Visit the mill')
  return screen
}
const sent = (calls: Call[]) =>
  calls.filter(call => call.method !== 'GET').map(({ method, path, body }) => [`${method} ${path}`, body])
const blocks = () =>
  [...document.querySelectorAll('form.card')]
    .slice(1)
    .map(form => form.querySelector('p')!.textContent!.trim().split(/\s+/)[1])
const submit = async (form: Element) => {
  form.dispatchEvent(new Event('submit', { cancelable: true }))
  await flushPromises()
}
const rightsTo = (...rules: Omit<StaffRule, 'role'>[]) =>
  startData({
    me: {
      id: 'p-tomas',
      name: 'Tomas',
      masterKey: false,
      roles: ['page-hand'],
      rules: rules.map(rule => ({ role: 'page-hand', ...rule })),
    },
  })

describe('a page', () => {
  it('is saved with what was typed, and keeps what was typed when it may not be so', async () => {
    const { type, find, text, calls, answers } = await content()
    await type('Title', 'Come and see')
    await type('Looked after by', 'p-tomas')
    answers['PUT things/page/visit'] = refusal('taken', '“Trade desk” already has the address /trade.')
    await type('Address', '/trade')
    await submit(find('Title').closest('form')!)
    expect(sent(calls)).toEqual([
      [
        'PUT things/page/visit',
        {
          path: '/trade',
          title: 'Come and see',
          assignedTo: 'p-tomas',
          expects: { id: 7, revision: 1 },
        },
      ],
    ])
    expect([
      text().includes('“Trade desk” already has the address /trade.'),
      (find('Title') as HTMLInputElement).value,
    ]).toEqual([true, 'Come and see'])
  })

  it('shows its blocks in order, each with those it holds, and moves them among those beside', async () => {
    const { press, find, calls } = await content()
    expect(blocks()).toEqual(['first', 'box', 'inner', 'third'])
    expect((find('Move first up') as HTMLButtonElement).disabled).toBe(true)
    expect((find('Move inner down') as HTMLButtonElement).disabled).toBe(true)
    await press('Move third up')
    expect(blocks()).toEqual(['first', 'third', 'box', 'inner'])
    await press('Move first down')
    expect(blocks()).toEqual(['third', 'first', 'box', 'inner'])
    await press('Move first down')
    expect(blocks()).toEqual(['third', 'box', 'inner', 'first'])
    expect(sent(calls)).toEqual([
      ['POST things/block/third/move', { before: 'box' }],
      ['POST things/block/first/move', { before: 'box' }],
      ['POST things/block/first/move', { before: null }],
    ])
  })

  it('keeps what is typed in a block while another is moved', async () => {
    const { press, type, find } = await content()
    await type('Text, in Markdown', 'Half a sentence')
    await press('Move third up')
    expect((find('Text, in Markdown') as HTMLTextAreaElement).value).toBe('Half a sentence')
  })

  it('saves a block without its place, which only a move changes', async () => {
    const { press, type, find, calls } = await content()
    await press('Move third up')
    await type('Text, in Markdown', 'Whole sentence.')
    await submit(find('Text, in Markdown').closest('form')!)
    const [what, body] = sent(calls).at(-1)!
    expect([what, body]).toEqual([
      'PUT things/block/first',
      {
        kind: 'text',
        summary: '',
        body: { markdown: 'Whole sentence.' },
        expects: { id: 7, revision: 1 },
      },
    ])
  })

  it('grows by a block at its end, or in a group of it', async () => {
    const { press, calls } = await content()
    await press('+ Text')
    await press('Add a picture to Box')
    expect(sent(calls).map(([what, body]) => [what, { ...(body as object), id: '' }])).toEqual([
      ['POST things/block', { id: '', kind: 'text', in: { page: 'visit' }, body: { markdown: 'Write here.' } }],
      [
        'POST things/block',
        {
          id: '',
          kind: 'picture',
          in: { block: 'box' },
          body: { pattern: 'plain', palette: 'fleece', alt: 'Say what it shows' },
        },
      ],
    ])
  })

  it('that is new gets its id from its address', async () => {
    const boats = {
      ...visit,
      ...looked('page', 'visit-boats', 9, { path: '/visit/boats', title: 'Boats' }),
      inside: [],
    }
    const { press, type, find, calls } = await content({ 'GET things/page/visit-boats': boats })
    await press('+ Page')
    const [title, address] = [...document.querySelectorAll<HTMLInputElement>('[role=dialog] input')]
    for (const [field, value] of [
      [title!, 'Boats'],
      [address!, '/visit/boats'],
    ] as const) {
      field.value = value
      field.dispatchEvent(new Event('input'))
    }
    await submit(title!.closest('form')!)
    expect(sent(calls)[0]).toEqual(['POST things/page', { id: 'visit-boats', title: 'Boats', path: '/visit/boats' }])
    await expect(type('Nothing', '')).rejects.toThrow()
    expect(find('Title')).toBeTruthy()
  })

  it("is changed only in what one may change of what is one's own", async () => {
    const { find, text } = await content(
      {},
      rightsTo(
        { kind: 'pages', actions: ['look'], whose: 'anyone' },
        { kind: 'pages', actions: ['change'], fields: ['summary'], whose: 'anyone' },
        { kind: 'blocks-text', actions: ['look'], whose: 'anyone' },
      ),
    )
    expect((find('Title') as HTMLInputElement).disabled).toBe(true)
    expect((find('Summary, shown in lists') as HTMLInputElement).disabled).toBe(false)
    // The group may not be looked at; what stands in it comes as if by itself.
    expect(blocks()).toEqual(['first', 'inner', 'third'])
    for (const name of ['Remove the page', 'Save the block', '+ Page', 'Move third up', '+ Text'])
      expect(() => find(name), name).toThrow()
    expect(text()).toContain('Save the page')
  })
})

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
