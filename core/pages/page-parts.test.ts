import { describe, expect, it } from 'vitest'
import { forMakers, guest, maker, pia, viewAt, assembledAt } from '../../tests/support/page-at'
import type { MarkedBlock } from './made-from/page-source'
import type { SmallSite } from '../../tests/support/page-at'

const way = { words: 'as Maker, €6.00 a month', href: '/sign-up' }

type Part = { id: string; body?: object | null; summary?: string } & Record<string, unknown>
/** A page of these parts; each says its own id. */
function pageOf(parts: Part[], more: SmallSite = {}): SmallSite {
  return {
    ...more,
    things: {
      pages: [{ id: 'wool', title: 'Wool', path: '/wool' }],
      blocks: parts.map(({ body: _, summary: __, ...part }) => ({ in: { page: 'wool' }, ...part })),
      ...more.things,
    },
    content: {
      ...Object.fromEntries(
        parts.map(({ id, body = { markdown: id }, summary }) => [
          `block:${id}`,
          { ...(body ? { body } : {}), ...(summary === undefined ? {} : { summary }) },
        ]),
      ),
      ...more.content,
    },
  }
}
const blocksOf = async (small: SmallSite) => (await viewAt('/wool', small)).blocks
const text = (id: string, title = '') => ({ kind: 'text', title, html: `<${id}>` })
const refusedWith = (otherwise: object | undefined, part: object = {}, more: SmallSite = {}) =>
  blocksOf(
    pageOf([{ id: 'a', title: 'Dyes', summary: 'Of madder', ...part }, { id: 'b' }], {
      ...more,
      gates: [{ on: { block: 'a' }, open: forMakers, otherwise }, ...(more.gates ?? [])],
    }),
  )

describe('parts', () => {
  it('stand as they are for whom they are, in the order of the site', async () => {
    const small = pageOf([
      { id: 'a', title: 'Dyes' },
      { id: 'b', kind: 'text' },
      { id: 'c', body: null },
    ])
    expect(await blocksOf(small)).toEqual([text('a', 'Dyes'), text('b')])
    const shut = { ...small, gates: [{ on: { block: 'a' }, open: forMakers }] }
    expect(await blocksOf(shut)).toEqual([text('b')])
    expect(await blocksOf({ ...shut, visitor: maker })).toEqual([text('a', 'Dyes'), text('b')])
  })

  it('leave nothing, or what is said: a teaser, a notice, their shape, something else', async () => {
    const rest = text('b')
    for (const otherwise of [undefined, { absent: true }, { redirect: { to: '/' } }])
      expect(await refusedWith(otherwise)).toEqual([rest])
    const teaser = { kind: 'teaser', title: 'Dyes', summary: 'Of madder', guest: true, ways: [way] }
    expect(await refusedWith({ teaser: true })).toEqual([teaser, rest])
    expect(await refusedWith({ teaser: true }, { title: '' })).toEqual([{ ...teaser, title: '' }, rest])
    expect(await refusedWith({ teaser: true }, { title: undefined, summary: undefined })).toEqual([rest])
    const notice = { kind: 'notice', text: 'Ask us', guest: true, ways: [way] }
    expect(await refusedWith({ notice: { text: 'Ask us' } })).toEqual([notice, rest])
    expect(await refusedWith({ notice: { text: 'Ask us', link: '/trade' } }, {}, { ask: { base: '/walk/x' } })).toEqual(
      [{ ...notice, link: '/walk/x/trade' }, rest],
    )
    const [shown] = await refusedWith({ notice: { text: 'Ask us' } }, {}, { visitor: pia })
    expect(shown).toEqual({ ...notice, guest: false, ways: [{ ...way, href: '/account/buy?level=maker' }] })
  })

  it('that are dimmed keep of themselves what is said', async () => {
    const call = { kind: 'call', body: { label: 'To the dyers', href: '/elsewhere' } }
    const shape = { kind: 'dimmed', lines: 3 }
    const rest = text('b')
    expect(await refusedWith({ dimmed: true }, call)).toEqual([shape, rest])
    const keep = (...parts: string[]) => ({ dimmed: { keep: parts } })
    expect(await refusedWith(keep('heading'), call)).toEqual([{ ...shape, title: 'Dyes' }, rest])
    expect(await refusedWith(keep('heading'), { ...call, title: '' })).toEqual([shape, rest])
    expect(await refusedWith(keep('label', 'picture'), call)).toEqual([{ ...shape, label: 'To the dyers' }, rest])
    expect(await refusedWith(keep('label'), { ...call, body: null })).toEqual([shape, rest])
    const picture = { kind: 'picture', body: { alt: 'A vat', pattern: 'twill' } }
    expect(await refusedWith(keep('picture'), picture)).toEqual([{ ...shape, picture: true }, rest])
    expect(await refusedWith(keep('heading', 'label'), picture)).toEqual([{ ...shape, title: 'Dyes' }, rest])
    expect(
      await refusedWith(keep('sight', 'picture'), { kind: 'picture', body: { ...picture.body, caption: 'In May' } }),
    ).toEqual([{ ...shape, sight: { alt: 'A vat', pattern: 'twill' } }, rest])
    const tile = { kind: 'panel', body: { shows: 'words', text: 'Ask at the vat', pattern: 'twill' } }
    const head = { alt: '', pattern: 'twill', palette: 'fleece' }
    expect(await refusedWith(keep('sight'), tile)).toEqual([{ ...shape, sight: head }, rest])
    expect(await refusedWith(keep('words'), tile)).toEqual([{ ...shape, words: 'Ask at the vat' }, rest])
    const bare = { kind: 'panel', body: { shows: 'words', text: 'Ask at the vat' } }
    expect(await refusedWith(keep('sight', 'picture'), bare)).toEqual([shape, rest])
    const written = (markdown: string) => ({ kind: 'text', body: { markdown } })
    const long = `# Woad\n\nWe **keep** :for[a secret]{who="makers"} [the vat](/vat). ${'slow '.repeat(30)}`
    expect(await refusedWith(keep('words'), written(long))).toEqual([
      { ...shape, words: `Woad We keep the vat. ${'slow '.repeat(15)}…` },
      rest,
    ])
    expect(await refusedWith(keep('words'), written(':::for{who="makers"}\nHidden\n\nstill\n'))).toEqual([shape, rest])
    expect(await refusedWith(keep('words'), written(':::for{who="makers"}\nHidden without an end'))).toEqual([
      shape,
      rest,
    ])
    expect(await refusedWith(keep('words'), written('Out at 8:10.'))).toEqual([
      { ...shape, words: 'Out at 8:10.' },
      rest,
    ])
    expect(await refusedWith(keep('heading'), written(long))).toEqual([{ ...shape, title: 'Dyes' }, rest])
  })

  it('have something else in their place, which has gates of its own, and in which whatever leads back ends', async () => {
    const swap = (block: string) => ({ swap: { block } })
    const away = { in: { frame: 'shelf' } }
    const others = (gates: object[] = [], visitor = guest) =>
      blocksOf(
        pageOf(
          [
            { id: 'a' },
            { id: 'other', kind: 'group', body: {}, ...away },
            { id: 'inner', in: { block: 'other' } },
            { id: 'third', ...away },
          ],
          { visitor, gates: [{ on: { block: 'a' }, open: forMakers, otherwise: swap('other') }, ...gates] },
        ),
      )
    expect(await others()).toEqual([{ kind: 'group', title: '', blocks: [text('inner')] }])
    expect(await others([], maker)).toEqual([text('a')])
    const shut = (otherwise: object) => ({ on: { block: 'other' }, open: forMakers, otherwise })
    expect(await others([shut(swap('third'))])).toEqual([text('third')])
    expect(await others([shut(swap('a'))])).toEqual([])
    expect(await others([shut(swap('other'))])).toEqual([])
    expect(await others([{ on: { block: 'inner' }, open: forMakers, otherwise: swap('other') }])).toEqual([
      { kind: 'group', title: '', blocks: [] },
    ])
    expect(await refusedWith(swap('nothing'))).toEqual([text('b')])
  })

  it('of the shelf show where they are shared, and nothing else does', async () => {
    const shared = (id: string) => ({ id: 'a', kind: 'shared', body: {}, shares: id })
    const shelf = [
      { id: 's', in: { frame: 'shelf' } },
      { id: 'f', in: { frame: 'footer' } },
      { id: 'p', in: { page: 'other' } },
    ]
    const of = (id: string | undefined, gates: object[] = []) =>
      blocksOf(pageOf([{ ...shared(id!) }, ...shelf], { gates }))
    expect(await of('s')).toEqual([text('s')])
    expect(await of('s', [{ on: { block: 's' }, open: forMakers }])).toEqual([])
    for (const id of ['f', 'p', 'nothing', undefined]) expect(await of(id)).toEqual([])
    const ring = { id: 's', kind: 'shared', body: {}, shares: 's', in: { frame: 'shelf' } }
    expect(await blocksOf(pageOf([shared('s'), ring]))).toEqual([])
  })

  it('look otherwise to those it is said of', async () => {
    const accented = (accent: object, visitor = guest, more: object = {}) =>
      blocksOf(pageOf([{ id: 'a', accent, ...more }], { visitor }))
    const tinted = [{ kind: 'accent', look: 'tint', blocks: [text('a')] }]
    expect(await accented({ look: 'tint' })).toEqual(tinted)
    expect(await accented({ look: 'tint', for: forMakers })).toEqual([text('a')])
    expect(await accented({ look: 'tint', for: forMakers }, maker)).toEqual(tinted)
    expect(await accented({ look: 'tint' }, guest, { kind: 'list', body: { of: { topic: 'none' } } })).toEqual([])
  })

  it('of which one stands show the first that opens, or the one that is looked at', async () => {
    const small = pageOf(
      [
        { id: 'a', oneOf: true },
        { id: 'first', in: { block: 'a' } },
        { id: 'second', in: { block: 'a' } },
      ],
      { gates: [{ on: { block: 'first' }, open: forMakers }] },
    )
    expect(await blocksOf(small)).toEqual([text('second')])
    expect(await blocksOf({ ...small, visitor: maker })).toEqual([text('first')])
    const picked = (id: string) => ({
      ...small,
      visitor: maker,
      ask: { writing: { mark: async ({ sent }: MarkedBlock) => sent, picked: { a: id } } },
    })
    expect(await blocksOf(picked('second'))).toEqual([text('second')])
    expect(await blocksOf(picked('elsewhere'))).toEqual([text('first')])
    const none = {
      ...small,
      gates: [
        { on: { block: 'first' }, open: forMakers },
        { on: { block: 'second' }, open: forMakers },
      ],
    }
    expect(await blocksOf(none)).toEqual([])
  })

  it('are marked for whoever writes, with what would be sent if they opened', async () => {
    const marks: unknown[] = []
    await blocksOf(
      pageOf([{ id: 'a' }, { id: 'b' }], {
        gates: [{ on: { block: 'a' }, open: forMakers, otherwise: { notice: { text: 'Ask us' } } }],
        ask: {
          writing: {
            picked: {},
            mark: async ({ id, opens, sent, whole }) => {
              marks.push([id, opens, sent.map(one => one.kind), await whole()])
              return sent
            },
          },
        },
      }),
    )
    expect(marks).toEqual([
      ['a', false, ['notice'], [text('a')]],
      ['b', true, ['text'], [text('b')]],
    ])
  })

  it('say who is in, by marks; what is theirs is kept by nobody', async () => {
    const account = pageOf([{ id: 'a', kind: 'account', body: {} }])
    const personOf = async (visitor: object) => (await blocksOf({ ...account, visitor }))[0]
    expect(await personOf(guest)).toEqual({ kind: 'account', person: null })
    expect(await personOf(pia)).toEqual({ kind: 'account', person: { name: '[name]', roles: '[roles]', loft: false } })
    expect(await personOf({ ...pia, roles: ['islander'] })).toMatchObject({ person: { loft: false } })
    expect(await personOf({ ...pia, roles: ['keeper'] })).toMatchObject({ person: { loft: true } })
    const panel = (shows: string) => pageOf([{ id: 'a', kind: 'panel', body: { shows } }])
    const isPersonal = async (shows: string, visitor: object) =>
      (await assembledAt('/wool', { ...panel(shows), visitor })).personal
    expect(await isPersonal('profile', pia)).toBe(true)
    expect(await isPersonal('profile', guest)).toBeUndefined()
    expect(await isPersonal('words', pia)).toBeUndefined()
    const shown = await blocksOf({ ...panel('profile'), visitor: pia, source: { panel: async () => null } })
    expect(shown).toEqual([])
  })

  it('show codes, files, menus, lists and pictures with the rights of whoever looks', async () => {
    const small = pageOf(
      [
        { id: 'code', kind: 'code', body: { offer: 'o' } },
        { id: 'list', kind: 'list', title: 'Read', body: { of: { topic: 'notes' } } },
        { id: 'one', kind: 'list', body: { of: { topic: 'notes' }, most: 1 } },
        { id: 'goods', kind: 'goods', body: { of: { category: 'yarn' } } },
        { id: 'files', kind: 'files', body: { folder: 'charts' } },
        { id: 'menu', kind: 'menu', body: { menu: 'foot' } },
        { id: 'picture', kind: 'picture', body: { alt: 'A vat', file: `${'a'.repeat(64)}-100x50.png` } },
        { id: 'call', kind: 'call', body: { label: 'Go', href: '/wool' } },
        { id: 'shut', kind: 'call', body: { label: 'Go', href: '/one' } },
      ],
      {
        things: {
          topics: [{ id: 'notes', title: 'Notes' }],
          posts: [
            { id: 'one', title: 'One', path: '/one', topics: ['notes'] },
            { id: 'two', title: 'Two', path: '/two', topics: ['notes'] },
          ],
          categories: [{ id: 'yarn', title: 'Yarn', path: '/yarn' }],
          products: [{ id: 'bobbin', title: 'Bobbin', path: '/yarn/bobbin', price: 400, categories: ['yarn'] }],
          folders: [{ id: 'charts', title: 'Charts' }],
          downloads: [{ id: 'chart', title: 'Chart', folder: 'charts' }],
          menus: [{ id: 'foot', title: 'Foot', items: [{ id: 'm', label: 'Two', to: { post: 'two' } }] }],
        },
        content: {
          'download:chart': { file: `${'b'.repeat(64)}-2048.pdf` },
          'product:bobbin': { picture: 'twill', summary: 'Wound' },
        },
        gates: [{ on: { post: 'one' }, open: forMakers, find: { everyone: true } }],
        book: { offers: [{ id: 'o', on: { products: [] }, code: 'WOOL', bands: [], for: forMakers }] as never },
      },
    )
    const { blocks } = await viewAt('/wool', { ...small, visitor: maker, ask: { base: '/walk/x' } })
    const two = { title: 'Two', summary: '', href: '/walk/x/two', opens: true }
    const one = { title: 'One', summary: '', href: '/walk/x/one', opens: true }
    expect(blocks).toEqual([
      { kind: 'code', title: '', offer: 'o', code: 'WOOL' },
      { kind: 'list', title: 'Read', things: [one, two] },
      { kind: 'list', title: '', things: [one] },
      {
        kind: 'goods',
        title: '',
        things: [
          {
            title: 'Bobbin',
            summary: 'Wound',
            href: '/walk/x/yarn/bobbin',
            opens: true,
            price: { now: '€4.00' },
            picture: 'twill',
          },
        ],
      },
      {
        kind: 'files',
        title: '',
        files: [{ title: 'Chart', summary: '', type: 'PDF', size: '2 kB', fetch: '/walk/x/fetch/chart' }],
      },
      {
        kind: 'menu',
        title: '',
        items: [{ label: 'Two', href: '/walk/x/two', locked: false, here: false, items: [] }],
      },
      {
        kind: 'picture',
        alt: 'A vat',
        src: '/walk/x/picture/block/picture/aaaaaaaaaaaaaaaa',
        width: 100,
        height: 50,
      },
      { kind: 'call', title: '', label: 'Go', href: '/walk/x/wool' },
      { kind: 'call', title: '', label: 'Go', href: '/walk/x/one' },
    ])
    const guests = await blocksOf(small)
    expect(guests.map(block => block.kind)).toEqual(['list', 'list', 'goods', 'files', 'menu', 'picture', 'call'])
    expect(guests[0]).toEqual({
      kind: 'list',
      title: 'Read',
      things: [
        { title: 'One', summary: '', href: '/one', opens: false },
        { title: 'Two', summary: '', href: '/two', opens: true },
      ],
    })
  })

  it('of sign-up say what is asked', async () => {
    const small = pageOf([{ id: 'a', kind: 'signUp', body: {} }])
    expect(await blocksOf(small)).toEqual([{ kind: 'signUp', title: '', form: { mode: 'open', facts: [] } }])
    const asked = [{ id: 'craft', name: 'Craft', type: 'text', choices: [], required: true }]
    const asking = (mode: 'open' | 'closed') => blocksOf({ ...small, source: { signUp: { mode, facts: asked } } })
    expect(await asking('open')).toEqual([{ kind: 'signUp', title: '', form: { mode: 'open', facts: asked } }])
    expect(await asking('closed')).toEqual([])
    // What is asked of others only is left out, and of whom is told to nobody.
    const ofSome = [
      { ...asked[0]!, of: { nobody: true as const } },
      { ...asked[0]!, id: 'hall', of: { signedIn: false } },
    ]
    expect(await blocksOf({ ...small, source: { signUp: { mode: 'open', facts: ofSome } } })).toEqual([
      { kind: 'signUp', title: '', form: { mode: 'open', facts: [{ ...asked[0]!, id: 'hall' }] } },
    ])
  })

  it('are told of to whom they may be: to nobody where what they stand in is hidden, or they are', async () => {
    const untold = async (gates: object[], part: object = {}) => {
      const [shown] = await refusedWith({ notice: { text: 'Ask us' } }, part, { gates })
      return shown
    }
    const bare = { kind: 'notice', text: 'Ask us', guest: true }
    expect(await untold([])).toEqual({ ...bare, ways: [way] })
    expect(await untold([{ on: { block: 'a' }, find: forMakers }])).toEqual(bare)
    expect(await untold([{ on: { block: 'a' }, find: { everyone: true } }])).toEqual({ ...bare, ways: [way] })
  })
})
