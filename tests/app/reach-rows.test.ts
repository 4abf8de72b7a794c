import { describe, expect, it } from 'vitest'
import { firstFolds, reachRows } from '../../app/loft/reach/reach-rows'
import type { Filter } from '../../app/loft/reach/reach-rows'
import { described } from '~/kinds/described'
import { threadsOf, tierSort } from '../../app/loft/core/threads'
import { verdictWords } from '../../app/loft/kit/words/reach-words'
import { verdictOf } from '../../core/gates/verdict'
import type { Site } from '../../core/site/site'
import { SiteIndex } from '../../core/site/site-index'
import type { BoardAnswer } from '../../app/loft/core/worker/questions'

const site: Site = {
  timezone: 'UTC',
  currency: 'EUR',
  pages: [
    { id: 'home', path: '/', title: 'Home' },
    { id: 'lib', path: '/lib', title: 'Library' },
    { id: 'deep', path: '/lib/a/deep', title: 'Deep', parent: 'mid' },
    { id: 'mid', path: '/lib/a', title: 'Middle', parent: 'lib' },
  ],
  blocks: [
    { id: 'card', title: 'Card', kind: 'group', in: { page: 'home' } },
    { id: 'line', title: 'Line', kind: 'text', in: { block: 'card' } },
    { id: 'foot', title: 'Foot', kind: 'text', in: { frame: 'footer' } },
  ],
  menus: [
    {
      id: 'main',
      items: [
        { id: 'm', label: 'To the library', to: { page: 'lib' } },
        { id: 'n', label: 'Fixed', follow: false },
      ],
    },
  ],
}
const index = new SiteIndex(site)
const things = [
  ...site.pages!.map(({ id }) => ({ kind: 'page' as const, id })),
  ...site.blocks!.map(({ id }) => ({ kind: 'block' as const, id })),
  ...site.menus![0]!.items.map(({ id }) => ({ kind: 'menuItem' as const, id })),
]
const tiers = ['guest', 'maker'].map(id => ({ id, name: id, visitor: {} }))

/** All things open (7) to both tiers in both books, but for the cells given as `[thing, tier, bits]`. */
function boardWith(draft: [number, number, number][] = []): BoardAnswer {
  /** Every thing has a weave of its own. */
  const cells = (moved: [number, number, number][] = []) => {
    const byWeave = new Uint8Array(things.length * 2).fill(7)
    for (const [thing, tier, bits] of moved) byWeave[thing * 2 + tier] = bits
    return { weaves: Int32Array.from(things, (_, i) => i), byWeave, items: new Map<number, Uint8Array>() }
  }
  return {
    tiers,
    things,
    live: cells(),
    draft: cells(draft),
    weaveCount: 3,
    shares: { live: {}, draft: {} },
    impact: { moved: 0, gain: 0, lose: 0, other: 0 },
    issues: [],
    tookMs: 0,
  }
}
const everything: Filter = { text: '', kind: '', onlyChanges: false, differ: null, mixed: false, alike: false }
/** What the worker answers, where things are so few. */
const named = (board: BoardAnswer, text = '') =>
  text
    ? new Set(
        board.things.flatMap((thing, at) =>
          text.split(' ').every(word => Object.values(described(thing, index)).join(' ').toLowerCase().includes(word))
            ? [at]
            : [],
        ),
      )
    : null
const keys = (board: BoardAnswer, filter: Partial<Filter>, folded = new Set<string>()) =>
  reachRows(board, index, { ...everything, ...filter }, folded, named(board, filter.text)).map(row => row.key)

describe('the rows of the reach board', () => {
  it('group by kind, with pages as a tree', () => {
    expect(keys(boardWith(), {})).toEqual([
      'everything',
      'kind page',
      'page home',
      'page lib',
      'page mid',
      'page deep',
      'kind block',
      'block card',
      'block line',
      'block foot',
      'kind menuItem',
      'menuItem m',
      'menuItem n',
    ])
  })

  it('fold, and count what is below', () => {
    expect(keys(boardWith(), {}, new Set(['page lib', 'kind block']))).toEqual([
      'everything',
      'kind page',
      'page home',
      'page lib',
      'kind block',
      'kind menuItem',
      'menuItem m',
      'menuItem n',
    ])
    const row = reachRows(boardWith(), index, everything, new Set(['page lib'])).find(one => one.key === 'page lib')
    expect(row).toMatchObject({ below: 2, open: false })
    expect([...firstFolds(index)]).toEqual(['kind block', 'page deep', 'page mid'])
  })

  it('filter by words of name and address, unfolding what they find', () => {
    expect(keys(boardWith(), { text: 'deep lib' }, new Set(['kind page', 'page mid']))).toEqual([
      'kind page',
      'page deep',
    ])
    expect(keys(boardWith(), { text: 'home' })).toEqual([
      'kind page',
      'page home',
      'kind block',
      'block card',
      'block line',
    ])
    expect(keys(boardWith(), { kind: 'menuItem' })).toEqual(['kind menuItem', 'menuItem m', 'menuItem n'])
    expect(keys(boardWith(), { text: 'nowhere' })).toEqual([])
  })

  it('filter by what the draft moves and by where tiers differ; whether the key was used is no difference', () => {
    const board = boardWith([
      [1, 1, 1],
      [4, 0, 7 | 32],
    ])
    expect(keys(board, { onlyChanges: true })).toEqual(['kind page', 'page lib'])
    // What is new or reworded is a change, also where it moves no cell.
    expect(keys(board, { onlyChanges: true, changed: new Set(['page home', 'page lib']) })).toEqual([
      'kind page',
      'page home',
      'page lib',
    ])
    expect(keys(board, { mixed: true })).toEqual(['kind page', 'page lib'])
    expect(keys(board, { differ: [0, 1] })).toEqual(['kind page', 'page lib'])
  })

  it('group things that share one list of gates', () => {
    const board = boardWith()
    const weaves = Int32Array.from(things, (_, i) => (i === 1 ? 1 : i > 6 ? 2 : 0))
    const alike = { ...board, draft: { ...board.draft, weaves } }
    const rows = (unfolded = new Set<string>()) =>
      reachRows(alike, index, { ...everything, alike: true }, unfolded).map(
        row => `${row.type} ${row.type === 'group' ? row.title : described(row, index).title}`,
      )
    expect(rows()).toEqual(['group Home and 5 alike', 'group To the library and 1 alike', 'thing Library'])
    expect(rows(new Set(['weave 2']))).toEqual([
      'group Home and 5 alike',
      'group To the library and 1 alike',
      'thing To the library',
      'thing Fixed',
      'thing Library',
    ])
  })

  it('say where a thing stands', () => {
    expect(things.slice(4).map(thing => described(thing, index).note)).toEqual([
      'group on Home',
      'text on Home',
      'text in the footer',
      'follows its page',
      'on its own',
    ])
  })
})

describe('threads and words', () => {
  it('give every tier its colour, levels by rank', () => {
    const visitor = (levels: string[], roles: string[] = []) => ({
      person: { id: 'x' },
      levels: levels.map(level => ({ level, since: '2026-01-01T00:00:00Z' })),
      roles,
    })
    const list = [
      { id: 'g', visitor: { person: null } },
      { id: 's', visitor: visitor([]) },
      { id: 'hi', visitor: visitor(['b']) },
      { id: 'lo', visitor: visitor(['a']) },
      { id: 'r', visitor: visitor([], ['x']) },
      { id: 'r2', visitor: visitor([], ['y']) },
    ]
    const threads = threadsOf(list, {
      bravik: 'rulebook/1',
      levels: [
        { id: 'b', rank: 2 },
        { id: 'a', rank: 1 },
      ],
    })
    expect(new Set(threads.values()).size).toBe(list.length)
    expect([threads.get('lo'), threads.get('hi')]).toEqual(['#2f7f8f', '#2a62a0'])
    expect(list.map(one => tierSort(one.visitor))).toEqual(['guest', 'signedIn', 'level', 'level', 'role', 'role'])
  })

  it('say what a verdict means for the kind of thing', () => {
    expect(verdictWords('page', verdictOf(0))).toContain('its address leads nowhere')
    expect(verdictWords('page', verdictOf(1))).toContain('title and summary')
    expect(verdictWords('page', verdictOf(4))).toContain('shows in no list')
    expect(verdictWords('block', verdictOf(0))).toBe('nothing of the part is sent.')
  })
})
