import { describe, expect, it } from 'vitest'
import { assembledAt, guest, viewAt } from '../../tests/support/page-at'
import type { SmallSite } from '../../tests/support/page-at'
import type { MarkedBlock } from '../pages/made-from/page-source'

const things = {
  pages: [
    { id: 'wool', title: 'Wool', path: '/wool' },
    { id: 'dyes', title: 'Dyes', path: '/wool/dyes', parent: 'wool' },
    { id: 'mine', title: 'Mine', path: '/account' },
  ],
  categories: [
    { id: 'yarn', title: 'Yarn', path: '/shop/yarn' },
    { id: 'lace', title: 'Lace', path: '/shop/lace', parent: 'yarn' },
  ],
  products: [{ id: 'mist', title: 'Mist', path: '/shop/mist', categories: ['lace'], price: 1850 }],
  blocks: [
    { id: 'all', in: { frame: 'footer' } },
    { id: 'below', in: { not: [{ page: 'dyes' }], frame: 'footer', around: [{ page: 'wool', below: true }] } },
    { id: 'yarns', in: { around: [{ category: 'yarn' }], frame: 'footer' } },
    { id: 'own', in: { frame: 'footer', around: [{ own: 'account' }] } },
  ],
}
const content = Object.fromEntries(things.blocks.map(({ id }) => [`block:${id}`, { body: { markdown: id } }]))
const small: SmallSite = { things, content }
const footerAt = async (path: string, more: SmallSite = {}) =>
  (await viewAt(path, { ...small, ...more })).footer.map(block => (block as { html: string }).html)

describe('a part of the frame', () => {
  it.each([
    ['/wool', ['<all>', '<below>']],
    ['/wool/dyes', ['<all>']],
    ['/shop/yarn', ['<all>', '<yarns>']],
    ['/shop/mist', ['<all>', '<yarns>']],
    ['/account', ['<all>', '<own>']],
    ['/nothing', ['<all>']],
  ])('around %s is sent with what it stands around, and nowhere else', async (path, parts) => {
    expect(await footerAt(path)).toEqual(parts)
  })

  it("stands around the site's own pages by what they are for", async () => {
    expect(await footerAt('', { ask: { own: 'account' } })).toEqual(['<all>', '<own>'])
    expect(await footerAt('', { ask: { own: 'shop' } })).toEqual(['<all>'])
  })

  it('tells by standing there nothing of what may not be found', async () => {
    const hidden = { on: { category: 'yarn' }, open: { signedIn: true }, otherwise: { notice: { text: 'Ask us' } } }
    expect(await footerAt('/shop/mist', { gates: [hidden] })).toEqual(['<all>'])
    const listed = { ...hidden, find: { everyone: true } }
    expect(await footerAt('/shop/mist', { gates: [listed] })).toEqual(['<all>', '<yarns>'])
  })

  it('is shown to whoever writes wherever they are, and marked as not sent', async () => {
    const marked: MarkedBlock[] = []
    const mark = async (block: MarkedBlock) => {
      marked.push(block)
      return block.sent
    }
    const { view } = await assembledAt('/wool', { ...small, visitor: guest, ask: { writing: { mark, picked: {} } } })
    expect(view.footer).toHaveLength(2)
    expect(marked.map(({ id, opens, sent }) => [id, opens, sent.length])).toEqual([
      ['all', true, 1],
      ['below', true, 1],
      ['yarns', false, 0],
      ['own', false, 0],
    ])
  })
})
