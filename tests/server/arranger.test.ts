import { afterEach, describe, expect, it } from 'vitest'
import { arrangeAsk } from '../../core/arrange/arrangement'
import type { ArrangeAsk } from '../../core/arrange/arrangement'
import { arranged, useArranger } from '../../server/services/arrange/arranger'

afterEach(() => useArranger())
const ask = arrangeAsk.parse({ brief: 'Join us.', title: 'Red', texts: ['Madder. Alum.'], teaser: true })

describe('whoever arranges', () => {
  it('is told of a teaser no more than may be quoted', async () => {
    const told: ArrangeAsk[] = []
    useArranger({ arrange: async given => void told.push(given) })
    await arranged(ask).catch(() => {})
    await arranged({ ...ask, quote: 'first sentence' }).catch(() => {})
    expect(told.map(({ title, texts }) => [title, texts])).toEqual([
      ['', []],
      ['Red', ['Madder.']],
    ])
  })

  it.each([
    ['nothing', undefined],
    ['two', [{ says: 'a', parts: [] }]],
    ['a part nobody knows', Array(3).fill({ says: 'a', parts: [{ kind: 'script', body: { markdown: 'x' } }] })],
    [
      'an address that is none',
      Array(3).fill({ says: 'a', parts: [{ kind: 'call', body: { label: 'x', href: 'javascript:alert(1)' } }] }),
    ],
  ])('that answers %s is of no use', async (_, answer) => {
    useArranger({ arrange: async () => answer })
    await expect(arranged(ask)).rejects.toMatchObject({ code: 'unavailable' })
  })

  it('that fails is of no use either, and the bundled one answers', async () => {
    useArranger({ arrange: () => Promise.reject(new Error('gone')) })
    await expect(arranged(ask)).rejects.toMatchObject({ code: 'unavailable' })
    useArranger()
    expect(await arranged(ask)).toHaveLength(3)
  })
})
