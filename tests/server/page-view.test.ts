import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { CompiledRules } from '../../core/gates/compiled'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import type { DimmedPart, Gate, Treatment } from '../../core/rulebook/gate'
import type { Visitor } from '../../core/visitor/visitor'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import type { Connection, Database } from '../../server/db/database'
import { drizzle } from 'drizzle-orm/postgres-js'
import * as schema from '../../server/db/schema'
import { addThing } from '../../server/services/editions/things'
import { assembleView, cacheHeaders, viewKey } from '../../server/services/pages/page-view'
import type { ViewBlock } from '../../core/view/view'
import type { VersionedThing } from '../../core/kinds/kinds'
import type { StoredContents } from '../../server/services/versions/versions'
import { eq } from 'drizzle-orm'
import { forgetContents } from '../../server/services/versions/versions'
import { SiteIndex } from '../../core/site/site-index'
import { contentsOf, ines, keeperOf, liveRules, snapshotOf } from '../support/world'
import { freshDatabase } from '../support/database'

let site: Connection
let contents: StoredContents
const guest: Visitor = { person: null }
const guild: Visitor = { person: { id: 'p', name: 'Gu' }, levels: [{ level: 'guild', since: '2026-01-01T00:00:00Z' }] }
const keeper: Visitor = { person: { id: 'k' }, roles: ['keeper'] }
const nowMs = Date.parse('2026-11-24T10:00:00Z')

beforeAll(async () => {
  site = await freshDatabase('demo')
  const keeping = keeperOf(await liveRules(site))
  const add = (kind: VersionedThing, id: string, thing: object) =>
    addThing(site.db, keeping, kind, { id, ...thing }, ines)
  const text = (markdown: string, more: object = {}) => ({
    kind: 'text',
    body: { markdown },
    in: { page: 'visit' },
    ...more,
  })
  await add('block', 'ring-a', text('ring a'))
  await add('block', 'ring-b', text('ring b'))
  await add('block', 'outer', { kind: 'group', title: 'Outer', in: { page: 'visit' }, body: {} })
  const inner = { title: 'Inner', summary: 'What is inside', in: { block: 'outer' } }
  await add('block', 'inner', text('inner [link](/trade) <b>raw</b>', inner))
  await add('block', 'call-trade', { kind: 'call', in: { page: 'ferry' }, body: { label: 'Go', href: '/' } })
  await add('menuItem', 'm-more', { menu: 'main', label: 'More' })
  await add('menuItem', 'm-long', { menu: 'main', label: 'The long draw', to: { page: 'long-draw' }, under: 'm-more' })
  contents = await contentsOf(site)
})
afterAll(() => site.close())

async function assembled(path: string, gates: Gate[], visitor: Visitor = guest, base = '', index = contents.index) {
  const rules = new CompiledRules({ ...wexlowRulebook, gates }, index)
  return assembleView({
    snapshot: snapshotOf(rules, [], contents),
    decider: new CompiledDecider(rules, visitor, nowMs),
    db: site.db,
    path,
    base,
  })
}
const view = async (...ask: Parameters<typeof assembled>) => (await assembled(...ask)).view
const nobody = (on: Gate['on'], otherwise?: Treatment, more: Partial<Gate> = {}): Gate => ({
  id: `g-${JSON.stringify(on).replaceAll(/[^a-z]+/g, '-')}x`,
  on,
  open: { nobody: true },
  ...(otherwise ? { otherwise } : {}),
  ...more,
})
const texts = (blocks: ViewBlock[]): string[] =>
  blocks.flatMap(one =>
    one.kind === 'text'
      ? [one.html.replaceAll(/<\/?p>|\n/g, '')]
      : one.kind === 'group'
        ? texts(one.blocks)
        : [one.kind],
  )

describe('a page that is hidden', () => {
  it('takes the same work as one that is missing: the same questions to the database, and a decision', async () => {
    const gates = [nobody({ page: 'trade' }, { absent: true })]
    const rules = new CompiledRules({ ...wexlowRulebook, gates }, contents.index)
    const work = async (path: string, visitor: Visitor) => {
      const asked: string[] = []
      const db = drizzle(site.sql, {
        schema,
        logger: { logQuery: query => void asked.push(query) },
      }) as unknown as Database
      const decider = new CompiledDecider(rules, visitor, nowMs)
      const decided: string[] = []
      const plain = decider.decide.bind(decider)
      decider.decide = resource => {
        if (resource.kind === 'page') decided.push('page')
        return plain(resource)
      }
      const { view, refused, thing } = await assembleView({
        snapshot: snapshotOf(rules, [], contents),
        decider,
        db,
        path,
      })
      return { asked, decided, status: view.status, blocks: view.blocks, refused, thing }
    }
    for (const visitor of [guest, guild]) {
      const [hidden, missing] = [await work('/trade', visitor), await work('/trads', visitor)]
      expect(hidden).toEqual({ ...missing, refused: true, thing: { kind: 'page', id: 'trade' } })
      expect([missing.status, missing.asked.length, missing.decided]).toEqual([404, 1, ['page']])
    }
  })
})

describe('a refused page', () => {
  it.each<[string, Treatment, number, string[]]>([
    ['teaser', { teaser: true }, 200, ['teaser']],
    ['notice', { notice: { text: 'Not yet' } }, 401, ['notice']],
    [
      'another block',
      { swap: { block: 'footer-about' } },
      401,
      ['Wexlow Mill, at the burn mouth. All names and figures here are made up.'],
    ],
    ['nothing at all', { absent: true }, 404, ['notice']],
  ])('shows %s', async (_, otherwise, status, shown) => {
    const { status: sent, blocks } = await view('/visit/ferry', [nobody({ page: 'ferry' }, otherwise)])
    expect([sent, texts(blocks)]).toEqual([status, shown])
  })

  it('keeps its title to itself unless it may be found', async () => {
    const notice: Treatment = { notice: { text: 'Not yet' } }
    expect((await view('/visit/ferry', [nobody({ page: 'ferry' }, notice)])).title).toBe('')
    expect((await view('/visit/ferry', [nobody({ page: 'ferry' }, notice, { find: { everyone: true } })])).title).toBe(
      'Boats',
    )
    expect((await view('/visit/ferry', [nobody({ page: 'ferry' }, { dimmed: true })])).title).toBe('')
  })

  it('leads away with the way back, but never in a circle', async () => {
    const away = nobody({ page: 'ferry' }, { redirect: { to: '/visit' } })
    expect((await assembled('/visit/ferry', [away])).redirect).toBe('/visit?back=%2Fvisit%2Fferry')
    expect((await assembled('/visit/ferry', [away], guest, '/walk/x')).redirect).toBe(
      '/walk/x/visit?back=%2Fvisit%2Fferry',
    )
    const circle = await assembled('/visit/ferry', [
      away,
      nobody({ page: 'visit' }, { redirect: { to: '/visit/ferry?x=1' } }),
    ])
    expect([circle.redirect, circle.view.status]).toEqual([undefined, 404])
    expect((await assembled('/visit', [nobody({ page: 'visit' }, { redirect: { to: '/visit' } })])).view.status).toBe(
      404,
    )
  })

  it('that swaps in a block that does not open is not there', async () => {
    expect(
      (
        await view('/visit/ferry', [
          nobody({ page: 'ferry' }, { swap: { block: 'ring-a' } }),
          nobody({ block: 'ring-a' }),
        ])
      ).status,
    ).toBe(404)
  })
})

describe('blocks', () => {
  it('are replaced, dimmed, teased or left out, each by its own gate', async () => {
    const shown = async (otherwise?: Treatment) =>
      texts((await view('/visit', [nobody({ block: 'inner' }, otherwise)])).blocks).slice(8)
    expect(await shown()).toEqual([])
    expect(await shown({ teaser: true })).toEqual(['teaser'])
    expect(await shown({ dimmed: true })).toEqual(['dimmed'])
    const dimmed = async (keep: DimmedPart[]) =>
      (await view('/visit', [nobody({ block: 'inner' }, { dimmed: { keep } })])).blocks.flatMap(one =>
        one.kind === 'group' ? one.blocks : [],
      )
    // Of its words those that may stay, and of those only what it has.
    expect(await dimmed(['heading', 'label'])).toEqual([{ kind: 'dimmed', lines: 3, title: 'Inner' }])
    expect(await dimmed(['label'])).toEqual([{ kind: 'dimmed', lines: 3 }])
    expect(await shown({ swap: { block: 'footer-about' } })).toEqual([
      'Wexlow Mill, at the burn mouth. All names and figures here are made up.',
    ])
    expect(await shown({ redirect: { to: '/' } })).toEqual([])
  })

  it('have another look for those it is for', async () => {
    const looks = async (visitor: Visitor) =>
      (await view('/visit', [], visitor)).blocks.flatMap(one => (one.kind === 'accent' ? [one.look] : []))
    expect(await looks(guest)).toEqual([])
    expect(await looks({ person: { id: 'p' }, roles: ['islander'] })).toEqual(['bar'])
  })

  it('follow what they lead to, and never say where that is to whom it does not open', async () => {
    const called = async (whenRefused?: 'locked' | 'show') => {
      await site.db
        .update(schema.version)
        .set({ content: { body: { label: 'Go', href: '/trade?x=1', ...(whenRefused ? { whenRefused } : {}) } } })
        .where(eq(schema.version.key, 'call-trade'))
      forgetContents()
      const { blocks } = await view('/visit/ferry', [nobody({ page: 'trade' })])
      return blocks.flatMap(one => (one.kind === 'call' ? [one.href ?? 'no link'] : []))
    }
    expect([await called(), await called('locked'), await called('show')]).toEqual([[], ['no link'], ['/trade?x=1']])
  })

  it('that swap with one another end in nothing', async () => {
    const { blocks } = await view('/visit', [
      nobody({ block: 'ring-a' }, { swap: { block: 'ring-b' } }),
      nobody({ block: 'ring-b' }, { swap: { block: 'ring-a' } }),
    ])
    expect(texts(blocks)).not.toContain('ring a')
    expect(JSON.stringify(blocks)).not.toContain('ring b')
  })

  it('that swap with what they stand in end in nothing', async () => {
    const { blocks } = await view('/visit', [nobody({ block: 'inner' }, { swap: { block: 'outer' } })])
    // Once where it stands, and once in place of what is refused in it: there it ends.
    expect(JSON.stringify(blocks).match(/"Outer"/g)).toHaveLength(2)
  })

  it('nested in a refused one are gone with it', async () => {
    expect(JSON.stringify(await view('/visit', [nobody({ block: 'outer' })]))).not.toContain('inner')
  })

  it('show one variant, the first that opens', async () => {
    const gates = wexlowRulebook.gates!
    const greeting = async (visitor: Visitor) =>
      (await view('/', gates, visitor)).blocks.flatMap(one => (one.kind === 'text' ? [one.title] : [])).slice(0, 1)
    expect([await greeting(guest), await greeting({ person: { id: 'p' } }), await greeting(guild)]).toEqual([
      ['Come in out of the wind'],
      ['Welcome back'],
      ['Welcome, Guild'],
    ])
  })

  it('pass no HTML through, and keep their links inside a walk', async () => {
    const [html] = texts((await view('/visit', [], guest, '/walk/x')).blocks).slice(-1)
    expect(html).toBe('inner <a href="/walk/x/trade">link</a> &#x3C;b>raw&#x3C;/b>')
  })
})

describe('lists and menus', () => {
  it('name only what may be found', async () => {
    const { below } = await view('/trade', [
      { id: 'g', on: { page: 'trade-prices' }, open: { nobody: true } },
      { id: 'h', on: { page: 'trade-export' }, open: { nobody: true }, find: { everyone: true } },
    ])
    expect(below.map(one => [one.title, one.opens])).toEqual([
      ['Spring lookbook', true],
      ['Export terms', false],
    ])
    const { trail } = await view('/techniques/gansey/welts', [
      { id: 'g', on: { page: 'gansey' }, find: { nobody: true } },
    ])
    expect(trail.map(step => step.title)).toEqual(['Technique library'])
  })

  it('nest, lock and drop items as the rules say', async () => {
    const labels = async (gates: Gate[]) =>
      (await view('/', gates)).menu.map(item => [item.label, item.locked, item.items.map(inner => inner.label)])
    expect((await labels([])).at(-1)).toEqual(['More', false, ['The long draw']])
    expect(await labels([nobody({ page: 'gansey' }), nobody({ page: 'long-draw' })])).not.toContainEqual([
      'More',
      false,
      [],
    ])
    expect(await labels([nobody({ page: 'gansey' })])).toContainEqual(['Gansey course', true, []])
    expect((await view('/', [nobody({ page: 'gansey' })])).menu.find(item => item.locked)).not.toHaveProperty('href')
  })

  it('show a keeper what members see, and not what is for guests', async () => {
    const gates = wexlowRulebook.gates!
    expect((await view('/trade', gates, keeper)).status).toBe(200)
    expect((await view('/', gates, keeper)).menu.map(item => item.label)).toEqual([
      'Techniques',
      'Gansey course',
      'Shop',
      'Visit',
      'Trade desk',
      'Basket',
      'Account',
      'Sign out',
      'More',
    ])
  })
})

describe('what may be kept', () => {
  const headers = { person: 'Cookie', device: 'User-Agent', country: 'x-country' }
  it('follows what was looked at', async () => {
    // A menu that says “sign in” or “sign out” differs by who asks; without menus nothing else here does.
    const plain = new SiteIndex({ ...contents.index.site, menus: [] })
    const kept = async (gates: Gate[], index = plain) =>
      cacheHeaders(await assembled('/visit/ferry', gates, guest, '', index), headers)
    expect(await kept([], contents.index)).toEqual({ 'cache-control': 'private, no-cache', vary: 'Cookie' })
    expect(await kept([])).toEqual({ 'cache-control': 'public, max-age=0, must-revalidate' })
    const forGuests = async (gates: Gate[]) =>
      cacheHeaders(await assembled('/visit/ferry', gates, guest), headers, { guest: true, sharedSeconds: 60 })
    expect(await forGuests([])).toEqual({
      'cache-control': 'public, s-maxage=60, max-age=0, must-revalidate',
      vary: 'Cookie',
    })
    // What turns on a country, which no header of a browser tells, no shared cache answers for.
    expect(
      await forGuests([{ id: 'g', on: { page: 'ferry' }, open: { not: { country: { in: ['IE'] } } }, inherit: false }]),
    ).toMatchObject({ 'cache-control': expect.stringContaining('private') })
    expect(await kept([{ id: 'g', on: { page: 'ferry' }, open: { date: { from: '2026-01-01' } } }])).toEqual({
      'cache-control': 'public, max-age=0, must-revalidate',
    })
    expect(
      await kept([
        { id: 'g', on: { page: 'ferry' }, open: { not: { all: [{ country: { in: ['IE'] } }, { signedIn: true }] } } },
      ]),
    ).toEqual({ 'cache-control': 'private, no-cache', vary: 'Cookie, x-country' })
    expect(await kept([nobody({ page: 'ferry' })])).toMatchObject({ 'cache-control': 'private, no-store' })
    // A block of the frame counts on every page.
    expect(await kept([{ id: 'g', on: { block: 'footer-trade' }, open: { device: { in: ['phone'] } } }])).toEqual({
      'cache-control': 'private, no-cache',
      vary: 'Cookie, User-Agent',
    })
  })

  it('has one key for visitors who are sent the same, and different ones otherwise', async () => {
    const gates = wexlowRulebook.gates!
    const key = async (path: string, visitor: Visitor) => viewKey(await view(path, gates, visitor))
    const otherGuild: Visitor = {
      person: { id: 'q', name: 'Another' },
      levels: [{ level: 'guild', since: '2025-01-01T00:00:00Z' }],
    }
    expect(await key('/', guild)).toBe(await key('/', otherGuild))
    expect(await key('/', guild)).not.toBe(await key('/', guest))
    expect(await key('/account', guild)).not.toBe(await key('/account', otherGuild))
  })
})
