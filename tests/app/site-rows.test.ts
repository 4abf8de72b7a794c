import { describe, expect, it } from 'vitest'
import { namedHolders, siteRows } from '../../app/loft/site/list/site-rows'
import { scopesAt } from '../../app/loft/kit/gates/gate-scopes'
import { SiteIndex } from '../../core/site/site-index'

const index = new SiteIndex({
  timezone: 'UTC',
  currency: 'EUR',
  pages: [
    { id: 'home', path: '/', title: 'Home' },
    { id: 'below', path: '/lib/below', title: 'Below', parent: 'lib' },
    { id: 'lib', path: '/lib', title: 'Library' },
  ],
  topics: [{ id: 'notes', title: 'Notes' }],
  posts: [{ id: 'spring', path: '/notes/spring', title: 'Spring', topics: ['notes'] }],
  blocks: [{ id: 'b', in: { page: 'home' } }],
})
const rows = (only: string[] | null, folded: string[] = []) =>
  siteRows({ index, kinds: ['page', 'post'], only: only && new Set(only), folded: new Set(folded) }).map(row =>
    row.type === 'kind' ? `${row.title} ${row.count}` : `${'-'.repeat(row.depth + 1)} ${row.title}`,
  )

describe('what there is', () => {
  it('is listed by kind, what lies under something below it; folded, or found with what is around it left out', () => {
    expect(rows(null)).toEqual(['Pages 3', '- Home', '- Library', '-- Below', 'Posts 1', '- Spring'])
    expect(rows(null, ['page lib', 'kind post'])).toEqual(['Pages 3', '- Home', '- Library', 'Posts 1'])
    expect(rows(['page below'], ['kind page'])).toEqual(['Pages 1', '- Below'])
  })
})

describe('what only holds others', () => {
  it('is found by its words, and a menu by those of its entries', () => {
    const site = new SiteIndex({
      timezone: 'UTC',
      currency: 'EUR',
      topics: [{ id: 'notes', title: 'Mill notes' }],
      folders: [{ id: 'patterns', title: 'Patterns' }],
      menus: [{ id: 'main', title: 'Main', items: [{ id: 'm-boats', label: 'Boats', to: { url: '/boats' } }] }],
    } as never)
    const found = (text: string) => namedHolders(site, ['page', 'topic', 'folder', 'menu'], text)
    expect([found('mill NOTES'), found('patt'), found('boats'), found('menu')]).toEqual([
      ['topic notes'],
      ['folder patterns'],
      ['menu main'],
      ['menu main'],
    ])
    expect(namedHolders(site, ['page', 'topic'], 'boats')).toEqual([])
  })
})

describe('where a gate can stand that is wanted at a thing', () => {
  it('is the thing, what is below or around it, addresses like its own, its kind, or the whole site', () => {
    const at = (kind: 'page' | 'post' | 'block', id: string) => scopesAt({ kind, id }, index).map(one => one.on)
    expect(at('page', 'lib')).toEqual([
      { page: 'lib' },
      { page: 'lib', below: true },
      { path: '/lib/**' },
      { kind: 'page' },
      { everything: true },
    ])
    expect(at('post', 'spring')).toEqual([
      { post: 'spring' },
      { topic: 'notes' },
      { path: '/notes/spring/**' },
      { path: '/notes/**' },
      { kind: 'post' },
      { everything: true },
    ])
    expect(at('block', 'b')).toEqual([{ block: 'b' }, { kind: 'block' }])
    expect(at('page', 'gone')).toEqual([])
  })
})
