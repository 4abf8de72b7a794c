import { describe, expect, it } from 'vitest'
import { assembledAt, forMakers, guest, pia, viewAt } from '../../tests/support/page-at'
import type { MarkedBlock } from './made-from/page-source'
import type { SmallSite } from '../../tests/support/page-at'

const way = { words: 'as Maker, €6.00 a month', href: '/sign-up' }
const things = {
  pages: [
    { id: 'wool', title: 'Wool', path: '/wool' },
    { id: 'dyes', title: 'Dyes', path: '/wool/dyes', parent: 'wool' },
    { id: 'trade', title: 'Trade', path: '/trade' },
  ],
  blocks: [
    { id: 'a', title: 'Madder', in: { page: 'dyes' } },
    { id: 'b', in: { page: 'dyes' }, kind: 'call' },
    { id: 'instead', in: { frame: 'shelf' } },
  ],
}
const content = {
  'page:dyes': { summary: 'Of madder' },
  'block:a': { body: { markdown: 'a' } },
  'block:b': { body: { label: 'Go', href: '/x' } },
  'block:instead': { body: { markdown: 'instead' } },
}
const found = { find: { everyone: true } }
const refused = (otherwise: object, more: SmallSite & { gate?: object } = {}): SmallSite => ({
  things,
  content,
  ...more,
  gates: [{ on: { page: 'dyes' }, open: forMakers, otherwise, ...more.gate }, ...(more.gates ?? [])],
})
const at = (otherwise: object, more: SmallSite & { gate?: object } = {}) =>
  assembledAt('/wool/dyes', refused(otherwise, more))
const trail = [{ title: 'Wool', href: '/wool' }]

describe('in place of a page that is refused stands', () => {
  it('a teaser, which a search engine may keep as it is', async () => {
    const { view, thing, refused: isRefused } = await at({ teaser: true }, { gate: found })
    expect(view).toMatchObject({ status: 200, title: 'Dyes', summary: 'Of madder', trail })
    expect(view.blocks).toEqual([{ kind: 'teaser', title: 'Dyes', summary: 'Of madder', guest: true, ways: [way] }])
    expect(view.about).toEqual({ kind: 'page', free: false })
    expect([thing, isRefused]).toEqual([{ kind: 'page', id: 'dyes' }, true])
  })

  it('a notice, with its name and place only for those who may find it', async () => {
    const said = { notice: { text: 'Ask us', link: '/trade' } }
    const notice = { kind: 'notice', text: 'Ask us', guest: true, link: '/trade' }
    const { view } = await at(said, { gate: found })
    expect(view).toMatchObject({ status: 401, title: 'Dyes', summary: '', trail, blocks: [{ ...notice, ways: [way] }] })
    const { view: hidden } = await at(said)
    expect(hidden).toMatchObject({ status: 401, title: '', trail: [], blocks: [notice] })
    expect(hidden.about).toBeUndefined()
    const { view: forPia } = await at(said, { gate: found, visitor: pia })
    expect([forPia.status, forPia.blocks[0]]).toMatchObject([403, { guest: false }])
  })

  it('the shape of its parts, with ways in', async () => {
    const { view } = await at({ dimmed: { keep: ['heading', 'label'] } }, { gate: found })
    expect(view).toMatchObject({ status: 401, title: 'Dyes', ways: [way] })
    expect(view.blocks).toEqual([
      { kind: 'dimmed', lines: 3, title: 'Madder' },
      { kind: 'dimmed', lines: 3, label: 'Go' },
    ])
    expect((await at({ dimmed: true })).view).toMatchObject({ title: '', ways: [] })
  })

  it('a part of the shelf, as far as that opens', async () => {
    const swap = { swap: { block: 'instead' } }
    const { view } = await at(swap, { gate: found })
    expect(view).toMatchObject({ status: 401, title: 'Dyes' })
    expect(view.blocks).toEqual([{ kind: 'text', title: '', html: '<instead>' }])
    const { view: none } = await at(swap, { gates: [{ on: { block: 'instead' }, open: forMakers }] })
    expect([none.status, none.title]).toEqual([404, 'Nothing here'])
  })

  it('nothing, as where there is nothing; whoever writes sees what it would be', async () => {
    const { view, whole, refused: isRefused } = await at({ absent: true })
    expect([view.status, view.here, whole, isRefused]).toEqual([404, '', undefined, true])
    const writing = { mark: async ({ sent }: MarkedBlock) => sent, picked: {} }
    const written = await at({ absent: true }, { ask: { writing } })
    expect(written.view.status).toBe(404)
    expect(written.whole).toMatchObject({ status: 200, title: 'Dyes' })
    const { whole: opened } = await assembledAt('/wool', { things, ask: { writing } })
    expect(opened).toBeUndefined()
  })
})

describe('a refusal that leads elsewhere', () => {
  const away = (to: string, more: SmallSite = {}) => at({ redirect: { to } }, more)

  it('says where one came from', async () => {
    const sent = await away('/trade')
    expect([sent.view.status, sent.redirect]).toEqual([303, '/trade?back=%2Fwool%2Fdyes'])
    expect((await away('/trade?via=x')).redirect).toBe('/trade?via=x&back=%2Fwool%2Fdyes')
    expect((await away('/trade', { ask: { base: '/walk/x' } })).redirect).toBe('/walk/x/trade?back=%2Fwool%2Fdyes')
    expect((await away('/nowhere')).redirect).toBe('/nowhere?back=%2Fwool%2Fdyes')
  })

  it('is none where it would come back, by others too', async () => {
    const there = (to: string, otherwise?: object) =>
      away(to, { gates: otherwise ? [{ on: { page: 'trade' }, open: forMakers, otherwise }] : [] })
    for (const sent of [await there('/wool/dyes'), await there('/wool/dyes?again=1')])
      expect([sent.redirect, sent.view.status]).toEqual([undefined, 404])
    expect((await there('/trade', { redirect: { to: '/wool/dyes' } })).redirect).toBeUndefined()
    expect((await there('/trade#top', { redirect: { to: '/trade' } })).redirect).toBeUndefined()
    // The first leads on by itself.
    for (const otherwise of [{ redirect: { to: '/wool' } }, { redirect: { to: '/none' } }, { teaser: true }, undefined])
      expect((await there('/trade', otherwise)).redirect).toBe('/trade?back=%2Fwool%2Fdyes')
  })
})

describe('where nothing is', () => {
  it('the same is said to everybody, whatever stands there', async () => {
    const none = await viewAt('/none', { things })
    expect(none).toMatchObject({ status: 404, title: 'Nothing here', here: '', trail: [], ways: [] })
    expect(none.blocks).toEqual([
      { kind: 'notice', text: 'There is no page at this address, or it is not for you.', guest: true, ways: [] },
    ])
    expect(none.signIn).toBe('/sign-in?back=[back]')
    expect((await viewAt('/none', { things, visitor: pia })).blocks).toMatchObject([{ guest: false }])
    expect((await assembledAt('/none', { things })).thing).toBeUndefined()
    expect((await assembledAt('/none', { things })).refused).toBeUndefined()
  })

  it('whoever comes to sign in is told what opens where they came from', async () => {
    const from = async (back: string | undefined, more: SmallSite & { gate?: object } = {}) =>
      (await viewAt('/sign-in', refused({ absent: true }, { gate: found, ...more, ask: { back } }))).ways
    expect(await from('/wool/dyes')).toEqual([way])
    expect(await from('/wool/dyes', { gate: {} })).toEqual([])
    expect(await from('/wool')).toEqual([])
    expect(await from('/none')).toEqual([])
    expect(await from(undefined)).toEqual([])
    expect(await from('/wool/dyes', { visitor: guest })).toEqual([way])
  })
})
