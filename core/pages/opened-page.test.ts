import { describe, expect, it } from 'vitest'
import { askAt, assembledAt, forMakers, guest, maker, pia, viewAt } from '../../tests/support/page-at'
import { assemble, assembleEntries } from './assemble'
import type { Rendering } from '../texts/passages'
import type { MarkedBlock } from './made-from/page-source'
import type { SmallSite } from '../../tests/support/page-at'

const picture = `${'a'.repeat(64)}-100x50.png`
const mark = 'a'.repeat(16)
const small: SmallSite = {
  things: {
    pages: [
      { id: 'wool', title: 'Wool', path: '/wool', language: 'de' },
      { id: 'dyes', title: 'Dyes', path: '/wool/dyes', parent: 'wool' },
      { id: 'weld', path: '/wool/dyes/weld', parent: 'dyes' },
    ],
    topics: [{ id: 'notes', title: 'Notes' }],
    posts: [
      { id: 'vat', title: 'The vat', path: '/notes/vat', topics: ['notes'], date: '2026-03-02' },
      { id: 'bare', path: '/notes/bare', topics: ['notes'] },
    ],
    categories: [
      { id: 'yarn', title: 'Yarn', path: '/yarn' },
      { id: 'fine', title: 'Fine', path: '/yarn/fine', parent: 'yarn' },
    ],
    products: [{ id: 'bobbin', title: 'Bobbin', path: '/yarn/bobbin', price: 400, categories: ['yarn'] }],
    folders: [{ id: 'charts', title: 'Charts' }],
    downloads: [
      { id: 'chart', title: 'Chart', path: '/chart', folder: 'charts' },
      { id: 'empty', title: 'Empty', path: '/empty', folder: 'charts' },
    ],
    blocks: [
      { id: 'in-page', in: { page: 'wool' } },
      { id: 'in-post', in: { post: 'vat' } },
      { id: 'group', kind: 'group', in: { post: 'vat' } },
      { id: 'in-group', in: { block: 'group' } },
      { id: 'call', kind: 'call', in: { post: 'vat' } },
      { id: 'in-category', in: { category: 'yarn' } },
      { id: 'in-product', in: { product: 'bobbin' } },
      { id: 'head', in: { frame: 'header' } },
      { id: 'band', in: { frame: 'banner' } },
      { id: 'foot', in: { frame: 'footer' } },
    ],
    menus: [{ id: 'main', title: 'Main', items: [{ id: 'm', label: 'Wool', to: { page: 'wool' } }] }],
  },
  content: {
    'page:wool': { summary: 'Of sheep', picture: 'twill' },
    'page:dyes': { picture },
    'post:vat': { words: 'First', author: 'Guda', summary: 'Blue' },
    'product:bobbin': { words: 'Wound', picture: 'plain' },
    'download:chart': { words: 'A chart', file: `${'b'.repeat(64)}-2048.pdf`, summary: 'Drawn' },
    'category:yarn': { picture: 'plain' },
    ...Object.fromEntries(
      ['in-page', 'in-post', 'in-group', 'in-category', 'in-product', 'head', 'band', 'foot'].map(id => [
        `block:${id}`,
        { body: { markdown: id } },
      ]),
    ),
    'block:group': { body: {} },
    'block:call': { body: { label: 'Go', href: 'https://mill.example/' } },
  },
}
const text = (id: string) => ({ kind: 'text', title: '', html: `<${id}>` })
const at = (path: string, more: SmallSite = {}) => viewAt(path, { ...small, ...more })

describe('a thing that opens', () => {
  it('has its parts, what lies below it, and the frame around it', async () => {
    const view = await at('/wool')
    expect(view).toMatchObject({
      status: 200,
      siteName: 'Wexlow Mill',
      title: 'Wool',
      summary: 'Of sheep',
      here: '/wool',
    })
    expect(view).toMatchObject({
      base: '',
      lang: 'de',
      picture: 'twill',
      trail: [],
      ways: [],
      blocks: [text('in-page')],
    })
    expect(view.below).toEqual([{ title: 'Dyes', summary: '', href: '/wool/dyes', opens: true }])
    expect([view.header, view.banner, view.footer]).toEqual([[text('head')], [text('band')], [text('foot')]])
    expect(view.menu).toEqual([{ label: 'Wool', href: '/wool', locked: false, here: true, items: [] }])
    expect(view.look).toEqual({ mark: null, sheet: null, typeface: 'book' })
    expect(view.signIn).toBe('/sign-in?back=%2Fwool')
    expect([view.walked, view.said]).toEqual([undefined, undefined])
    expect((await at('/wool/dyes')).lang).toBe('de')
    expect((await at('/yarn')).lang).toBe('en-IE')
  })

  it('shows a stored picture where it is served: with what the page turned on, where it did', async () => {
    const src = `/picture/page/dyes/${mark}`
    expect((await at('/wool/dyes')).picture).toEqual({ src, width: 100, height: 50 })
    const elsewhere = { source: { picture: (thing: { id: string }, name: string) => `/${thing.id}/${name.length}` } }
    expect((await at('/wool/dyes', elsewhere)).picture).toMatchObject({ src: `/dyes/${picture.length}` })
    const query = { ...guest, request: { query: { from: 'poster' }, referrer: 'https://hill.example/' } }
    const gates = [{ on: { page: 'dyes' }, open: { any: [{ query: { name: 'from', is: 'poster' } }, forMakers] } }]
    expect((await at('/wool/dyes', { visitor: query })).picture).toMatchObject({ src })
    expect((await at('/wool/dyes', { visitor: query, gates })).picture).toMatchObject({ src: `${src}?from=poster` })
  })

  it('says what it lies in, by its name or its id, and when and by whom it was written', async () => {
    expect((await at('/wool/dyes/weld')).trail).toEqual([
      { title: 'Wool', href: '/wool' },
      { title: 'Dyes', href: '/wool/dyes' },
    ])
    expect((await at('/wool/dyes/weld', { ask: { base: '/walk/x' } })).trail[0]!.href).toBe('/walk/x/wool')
    expect((await at('/wool/dyes/weld')).title).toBe('weld')
    const post = await at('/notes/vat')
    expect(post.byline).toEqual({ author: 'Guda', day: '2 March 2026' })
    expect(post.about).toEqual({ kind: 'post', free: true, day: '2026-03-02', author: 'Guda' })
    expect(post.trail).toEqual([])
    expect(post.blocks).toEqual([
      text('First'),
      text('in-post'),
      { kind: 'group', title: '', blocks: [text('in-group')] },
      { kind: 'call', title: '', label: 'Go', href: 'https://mill.example/' },
    ])
    const bare = await at('/notes/bare')
    expect([bare.byline, bare.blocks, bare.about]).toEqual([undefined, [], { kind: 'post', free: true }])
    const dated = await at('/notes/vat', { content: {} })
    expect([dated.byline, dated.summary]).toEqual([{ day: '2 March 2026' }, ''])
    const signed = { 'post:bare': { author: 'Guda' } }
    expect((await at('/notes/bare', { content: signed })).byline).toEqual({ author: 'Guda' })
  })

  it('is free where everybody gets it, as far as whoever looks can tell', async () => {
    const gates = [{ on: { page: 'wool' }, open: { signedIn: true } }]
    expect((await at('/wool')).about).toEqual({ kind: 'page', free: true })
    expect((await at('/wool', { visitor: pia })).about).toEqual({ kind: 'page', free: true })
    expect((await at('/wool', { visitor: pia, gates })).about).toEqual({ kind: 'page', free: false })
  })

  it('of a category has a shelf, and categories below it but no goods', async () => {
    const view = await at('/yarn')
    expect(view.picture).toBe('plain')
    expect(view.below.map(one => one.title)).toEqual(['Fine'])
    expect(view.blocks).toEqual([
      text('in-category'),
      {
        kind: 'goods',
        title: '',
        things: [
          {
            title: 'Bobbin',
            summary: '',
            href: '/yarn/bobbin',
            opens: true,
            price: { now: '€4.00' },
            picture: 'plain',
          },
        ],
        shelf: { total: 1, page: 1, pages: 1, sorts: [], facets: [] },
      },
    ])
  })

  it('of goods has its price, its words and its parts', async () => {
    const view = await at('/yarn/bobbin')
    expect(view.goods).toEqual({ price: { now: '€4.00' }, steps: [], buy: 'bobbin', variants: [] })
    expect([view.picture, view.blocks]).toEqual(['plain', [text('Wound'), text('in-product')]])
    expect(view.trail).toEqual([{ title: 'Yarn', href: '/yarn' }])
  })

  it('of a download has its words and its file, which its page is not told of twice', async () => {
    const { blocks } = await at('/chart')
    const file = { title: '', summary: '', type: 'PDF', size: '2 kB', fetch: '/fetch/chart' }
    expect(blocks).toEqual([text('A chart'), { kind: 'files', title: '', files: [file] }])
    expect((await at('/empty')).blocks).toEqual([])
    const taken = { gates: [{ on: { download: 'chart' }, take: forMakers }] }
    const { fetch: _, ...kept } = file
    expect((await at('/chart', taken)).blocks[1]).toEqual({ kind: 'files', title: '', files: [kept] })
    expect((await at('/chart', { ...taken, visitor: maker })).blocks[1]).toMatchObject({ files: [file] })
  })

  it('is read once, with all that stands in it and in the frame', async () => {
    const asked = askAt('/notes/vat', small)
    await assemble(asked)
    const frame = ['block:head', 'block:band', 'block:foot']
    expect(asked.read).toEqual([
      ...frame,
      'post:vat',
      ...['in-post', 'group', 'in-group', 'call'].map(id => `block:${id}`),
    ])
  })

  it('tells what was just done, in a walk who is walked as, and what is looked at of whoever looks', async () => {
    expect((await at('/wool', { ask: { done: 'end-session' } })).said).toBe('That browser is signed out.')
    for (const done of ['nothing', '', undefined]) expect((await at('/wool', { ask: { done } })).said).toBeUndefined()
    const walked = { tier: 'guest', draft: true }
    const walk = await at('/wool', { ask: { base: '/walk/x', walked } })
    expect(walk).toMatchObject({ walked, base: '/walk/x', signIn: '/walk/x/wool', here: '/wool' })
    const gates = [{ on: { page: 'wool' }, open: { country: { in: ['IE'] } } }]
    const { facts, asked } = await assembledAt('/wool', { ...small, gates })
    expect([...facts]).toContain('country')
    expect([...asked.questions]).toContain('words')
    expect(asked.weaves.size).toBeGreaterThan(0)
  })

  it('has of its text what is for whoever looks, with the reader’s own words marked', async () => {
    const said: unknown[][] = []
    const text = (markdown: string, { admitted, reader, marked, base }: Rendering) => {
      said.push([admitted, marked, base, reader('name'), reader('firm')])
      return markdown
    }
    const told = async (post: object, more: SmallSite = {}) => {
      said.length = 0
      const things = { posts: [{ id: 'p', path: '/p', ...post }] }
      const content = { 'post:p': { words: 'Words' } }
      await viewAt('/p', { ...more, things, content, source: { text, ...more.source } })
      return said[0]!
    }
    const passages = [forMakers, null, { signedIn: true }]
    expect(await told({ passages })).toEqual([[false, false, false], undefined, '', null, null])
    expect(await told({ passages }, { visitor: maker })).toEqual([[true, false, true], undefined, '', '[name]', null])
    expect(await told({})).toEqual([[], undefined, '', null, null])
    expect((await told({ passages, broken: true }, { visitor: maker }))[0]).toBeNull()
    const source = { passages: () => [{ everyone: true as const }] }
    expect((await told({ passages, broken: true }, { source }))[0]).toEqual([true])
    expect((await told({ passages }, { source: { passages: () => null } }))[0]).toBeNull()
    expect((await told({ passages }, { source: { passages: () => undefined } }))[0]).toEqual([false, false, false])
    const writing = { mark: async ({ sent }: MarkedBlock) => sent, picked: {} }
    expect((await told({}, { ask: { writing, base: '/walk/x' } })).slice(0, 3)).toEqual([[], true, '/walk/x'])
  })

  it('looks as the operator said', async () => {
    const look = { mark: null, colour: '#345678', ground: '#ffffff', typeface: 'hanken', own: [] } as never
    const view = await at('/wool', { source: { look } })
    expect(view.look).toEqual({
      mark: { pattern: null },
      sheet: expect.stringContaining('#345678'),
      typeface: 'hanken',
    })
  })
})

describe('a feed', () => {
  const entries = (visitor: object, gates: object[] = []) => {
    const ids = ['vat', 'bare', 'gone'].map(id => ({ kind: 'post' as const, id }))
    return assembleEntries(askAt('/feed', { ...small, gates, visitor }), ids)
  }

  it('tells of what may be found, with the words of what opens', async () => {
    const vat = {
      thing: { kind: 'post', id: 'vat' },
      title: 'The vat',
      summary: 'Blue',
      path: '/notes/vat',
      day: '2026-03-02',
      author: 'Guda',
      html: '<First><in-post><in-group>',
    }
    const bare = { thing: { kind: 'post', id: 'bare' }, title: 'bare', summary: '', path: '/notes/bare', html: '' }
    expect(await entries(guest)).toEqual([vat, bare])
    const open = [{ on: { post: 'vat' }, open: forMakers, find: { everyone: true } }]
    const { author: _, html: __, ...told } = vat
    expect(await entries(guest, open)).toEqual([told, bare])
    expect(await entries(maker, open)).toEqual([vat, bare])
    expect(await entries(guest, [{ on: { post: 'vat' }, find: forMakers }])).toEqual([bare])
  })
})
