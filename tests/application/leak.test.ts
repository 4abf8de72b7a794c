import { asSystem } from '../../server/services/editions/entries'
import { onLoan } from '../../server/services/facts/service-stand-in'
import { eq, inArray, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { categoriesAround } from '../../core/kinds/product'
import { SiteIndex } from '../../core/site/site-index'
import { menuFor } from '../../core/menus/menu'
import type { RuleSet } from '../../core/gates/rule-set'
import { PlainDecider } from '../../core/gates/plain-decider'
import type { Visitor } from '../../core/visitor/visitor'
import { wexlowOrders } from '../../demo/wexlow/orders'
import { wexlowPeople } from '../../demo/wexlow/people'
import { wexlowFirm } from '../../demo/wexlow/people-rules'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { versionedKinds } from '../../core/kinds/kinds'
import type { VersionedThing } from '../../core/kinds/kinds'
import { searchText, setting, version } from '../../server/db/schema'
import { publish } from '../../server/services/editions/publish'
import { addThing, changeThing, removeThing } from '../../server/services/editions/things'
import { inTransaction } from '../../server/db/turn'
import { keepBytes } from '../../server/services/files/files'
import { keepSearchUp } from '../../server/services/search/keep-up'
import { forgetContents } from '../../server/services/versions/versions'
import { cookieOf, startApplication } from '../support/application'
import type { Application } from '../support/application'
import { wexlowSite } from '../support/wexlow-site'
import { ines, keeperOf, liveRules } from '../support/world'

/**
 * A mark of its own stands in every text of the demo. Whatever the rules, read
 * here by the plain decider, do not give to a visitor, its mark must be in no
 * byte that visitor is sent.
 */
let application: Application
let rules: RuleSet
const mark = (kind: string, id: string, field: string) => `zq${kind}-${id}-${field}zq`
const phone = 'Mozilla/5.0 (Linux; Android 14) Mobile'
const desktop = 'Mozilla/5.0 (X11; Linux x86_64)'

/** Parts of a thing that are words a reader could be sent. */
const wordsOf = ['title', 'summary', 'label', 'labelIn', 'words', 'alt', 'text', 'caption', 'markdown']

function marked(kind: string, id: string, value: unknown): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) => [
      key,
      typeof inner === 'string' && wordsOf.includes(key)
        ? key === 'markdown' || key === 'words'
          ? `**${mark(kind, id, 'body')}**`
          : mark(kind, id, key.toLowerCase())
        : marked(kind, id, inner),
    ]),
  )
}

/** What is written and not published yet: in no byte for anybody who is not staff. */
const unpublished: [VersionedThing, object][] = [
  ['page', { id: 'fresh-page', path: '/fresh', title: mark('fresh', 'page', 'title'), summary: '' }],
  [
    'block',
    { id: 'fresh-block', kind: 'text', in: { page: 'welcome' }, body: { markdown: mark('fresh', 'block', 'body') } },
  ],
  ['post', { id: 'fresh-post', path: '/notes/fresh', topics: ['mill-notes'], title: mark('fresh', 'post', 'title') }],
  [
    'download',
    { id: 'fresh-file', path: '/files/fresh', folder: 'patterns', title: mark('fresh', 'download', 'title') },
  ],
  ['category', { id: 'fresh-shelf', path: '/shop/fresh', parent: 'yarn', title: mark('fresh', 'category', 'title') }],
  [
    'product',
    { id: 'fresh-yarn', path: '/shop/goods/fresh', categories: ['yarn'], title: mark('fresh', 'product', 'title') },
  ],
  ['menuItem', { id: 'm-fresh', menu: 'main', label: mark('fresh', 'item', 'label'), to: { page: 'welcome' } }],
]
const freshPaths = ['/fresh', '/notes/fresh', '/files/fresh', '/shop/fresh', '/shop/goods/fresh']

beforeAll(async () => {
  application = await startApplication('demo', {}, async database => {
    const { db } = database
    const things = await db
      .select()
      .from(version)
      .where(inArray(version.kind, [...versionedKinds]))
    for (const { id, kind, key, body, content } of things)
      await db
        .update(version)
        .set({
          body: { ...(marked(kind, key, body) as object), title: mark(kind, key, 'title') },
          content: { ...(marked(kind, key, content) as object), summary: mark(kind, key, 'summary') },
        })
        .where(eq(version.id, id))
    // In each file its own mark, and all of it found anew.
    for (const { id, kind, key } of things.filter(one => one.kind === 'download')) {
      const file = await inTransaction(db, tx =>
        keepBytes(tx, Buffer.from(mark(kind, key, 'file')), 'marked.txt', ines),
      )
      await db
        .update(version)
        .set({ content: sql`${version.content} || ${JSON.stringify({ file, fileName: 'marked.txt' })}::jsonb` })
        .where(eq(version.id, id))
    }
    forgetContents()
    await db.delete(searchText)
    await db.delete(setting).where(eq(setting.group, 'search-index'))
    await keepSearchUp(db)
    for (const [kind, thing] of unpublished) await addThing(db, keeperOf(await liveRules(database)), kind, thing, ines)
    rules = await liveRules(database)
  })
})
afterAll(() => application.stop())

interface Seen {
  bytes: string
  url: string
}

function pathsOfThings(): string[] {
  const { site } = rules.index
  const lists: ({ path?: string | undefined }[] | undefined)[] = [
    site.pages,
    site.posts,
    site.downloads,
    site.categories,
    site.products,
  ]
  return [...lists.flatMap(list => (list ?? []).flatMap(one => one.path ?? [])), ...freshPaths]
}

const marksIn = (bytes: string) => bytes.match(/zq[a-zA-Z]+-[a-z0-9-]+-[a-z]+zq/g) ?? []

const kindsFound = ['page', 'post', 'block', 'download', 'category', 'product'] as const

async function everythingSent(cookie: string, agent: string, language: string, more: string[] = []): Promise<Seen[]> {
  const paths = pathsOfThings()
  const addresses = [
    ...more,
    ...paths,
    ...paths.map(path => `${path}?print=1`),
    ...paths.map(path => `${path === '/' ? '' : path}/`),
    ...paths.map(path => `${path === '/' ? '' : path}/_payload.json`),
    '/nowhere',
    '/sign-up',
    '/forgot',
    '/reset?token=x',
    '/confirm?token=x',
    '/apply',
    '/apply/role/stockist',
    '/account/profile',
    '/account/buy',
    '/account/buy?level=guild',
    '/account/data',
    '/pay/nothing',
    '/go/welcome-join',
    '/go/join-card',
    '/go/hello-guild',
    '/api/loft/queues',
    '/api/loft/products',
    '/api/loft/activity',
    '/api/loft/people/p-guda',
    '/sign-in',
    '/sign-in?back=/trade',
    '/first-keeper',
    '/loft',
    '/api/session',
    '/api/loft/start',
    '/api/loft/people',
    '/api/loft/things/page/trade',
    '/api/loft/things/post/fresh-post',
    '/api/loft/entries/page/trade/history',
    '/api/loft/trace',
    '/api/loft/editions/1',
    '/api/loft/editions',
    '/walk/x.y/trade',
    '/sitemap.xml',
    '/sitemap/1.xml',
    '/robots.txt',
    '/feed',
    ...[...rules.index.all('topic').keys(), 'no-topic'].map(topic => `/feed/${topic}`),
    ...[...rules.index.all('download').keys()].map(id => `/fetch/${id}`),
    ...['titlezq', 'summaryzq', 'bodyzq', 'captionzq', 'filezq', 'zqpag', 'zqblok tittlezq'].map(q => `/search?q=${q}`),
    ...kindsFound.flatMap(kind => [...rules.index.all(kind).keys()].map(id => `/search?q=zq${kind}+${id}`)),
    '/api/loft/search?q=bodyzq',
    '/api/loft/uploads/u-1',
    '/_nuxt/builds/latest.json',
  ]
  const asked = addresses.flatMap(url =>
    (url.includes('?') ? ['GET'] : ['GET', 'HEAD']).map(method => ({ url, method })),
  )
  const seen: Seen[] = []
  const ask = async () => {
    for (let one = asked.shift(); one; one = asked.shift()) {
      const answer = await fetch(application.url + one.url, {
        method: one.method,
        redirect: 'manual',
        headers: { cookie: cookie, 'user-agent': agent, 'accept-language': language },
      })
      // A file is fetched by a link of one's own, which is asked for too.
      const to = answer.headers.get('location')
      if (to?.startsWith('/fetch/')) asked.push({ url: to, method: 'GET' })
      const bytes = `${answer.status} ${[...answer.headers].flat().join(' ')} ${await answer.text()}`
      seen.push({ url: one.url, bytes })
    }
  }
  await Promise.all(Array.from({ length: 8 }, ask))
  return seen
}

/** What the service of the demo says of somebody who is signed in. */
const asked = ({ person }: Visitor) =>
  person?.email === undefined ? {} : { facts: { wheels: onLoan[person.email] ?? 0 } }

/** Made as the person makes it. */
async function feedAddressOf(cookie: string): Promise<string> {
  const headers = { cookie, 'content-type': 'application/x-www-form-urlencoded' }
  await fetch(`${application.url}/account/profile`, { method: 'POST', redirect: 'manual', headers, body: 'what=feed' })
  const page = await (await fetch(`${application.url}/account/profile`, { headers: { cookie } })).text()
  return new URL(/<code class="address">([^<]*)</.exec(page)![1]!).pathname
}

function allowedMarks(visitor: Visitor, agent: string): Set<string> {
  const request = { device: agent === phone ? 'phone' : 'desktop', language: 'en-IE', query: {} }
  const decider = new PlainDecider(rules, { ...visitor, ...asked(visitor), request }, Date.now())
  const allowed = new Set<string>()
  const allow = (kind: string, id: string, ...fields: string[]) =>
    fields.forEach(field => allowed.add(mark(kind, id, field)))
  for (const kind of ['page', 'post', 'download', 'category', 'product'] as const)
    for (const id of rules.index.all(kind).keys()) {
      const verdict = decider.decide({ kind, id })
      if (verdict.open || verdict.find || (verdict.otherwise && 'teaser' in verdict.otherwise))
        allow(kind, id, 'title', 'summary')
      if (verdict.open) allow(kind, id, 'body')
      if (verdict.take) allow(kind, id, 'file')
    }
  // A topic is told of with what is found in it.
  for (const { id, topics = [] } of rules.index.site.posts ?? [])
    if (decider.decide({ kind: 'post', id }).find) for (const topic of topics) allow('topic', topic, 'title')
  for (const { id } of rules.index.site.blocks!) {
    const verdict = decider.decide({ kind: 'block', id })
    if (verdict.open) allow('block', id, 'title', 'summary', 'body', 'alt', 'text', 'label', 'caption')
    else if (verdict.otherwise && 'teaser' in verdict.otherwise) allow('block', id, 'title', 'summary')
    else if (verdict.otherwise && 'dimmed' in verdict.otherwise && verdict.otherwise.dimmed !== true)
      for (const part of verdict.otherwise.dimmed.keep)
        allow('block', id, { heading: 'title', words: 'body', label: 'label', picture: '', sight: 'alt' }[part])
  }
  for (const menu of rules.index.all('menu').values())
    for (const { item } of menuFor(menu, {
      ownAdmits: one => decider.decide({ kind: 'menuItem', id: one.id }).open,
      opens: resource => decider.opens(resource.kind, resource.id, true),
      signedIn: () => visitor.person !== null,
    }))
      allow('menuItem', item.id, 'label', 'labelin')
  return allowed
}

/** Text blocks that open, on pages that open, and are no variant: these must arrive, or the test would see nothing. */
function expectedMarks(visitor: Visitor, agent: string): string[] {
  const decider = new PlainDecider(
    rules,
    { ...visitor, ...asked(visitor), request: { device: agent === phone ? 'phone' : 'desktop', query: {} } },
    Date.now(),
  )
  return rules.index.site
    .blocks!.filter(
      one => one.kind === 'text' && 'page' in one.in && decider.decide({ kind: 'block', id: one.id }).open,
    )
    .map(one => mark('block', one.id, 'body'))
}

/** What the demo's orders, all of them paid, make somebody a buyer of. */
function boughtBy(person: string): Pick<Visitor, 'bought'> {
  const index = new SiteIndex(wexlowSite)
  const orders = wexlowOrders.filter(one => one.person === person && one.state !== 'placed')
  if (!orders.length) return {}
  const products = orders.flatMap(({ lines }) => lines.map(([product]) => product))
  const categories = products.flatMap(id => categoriesAround(index.get('product', id)!, index))
  return { bought: { products, categories: [...new Set(categories)], orders: orders.length } }
}

const visitors = [
  { name: 'a guest', email: null, visitor: { person: null } as Visitor },
  ...wexlowPeople
    .filter(one => !one.roles?.some(role => wexlowRulebook.roles!.find(known => known.id === role)?.staff))
    .map(one => ({
      name: one.name,
      email: one.email,
      visitor: {
        person: { id: one.id, name: one.name, email: one.email },
        levels: one.levels ?? [],
        roles: one.roles ?? [],
        ...(one.id === wexlowFirm.owner ? { firm: wexlowFirm.id } : {}),
        ...boughtBy(one.id),
      } as Visitor,
    })),
]

describe('what is refused is not sent', () => {
  it.each(visitors)('to $name', async ({ email, visitor }) => {
    const cookie = email ? await cookieOf(application.url, email) : ''
    const own = email ? await feedAddressOf(cookie) : '/feed/own/nobodys'
    const feed = [own, `${own}/dye-days`]
    for (const agent of [desktop, phone]) {
      const allowed = allowedMarks(visitor, agent)
      const sent = await everythingSent(cookie, agent, 'en-IE', feed)
      for (const { url, bytes } of sent)
        for (const found of marksIn(bytes)) expect(allowed.has(found), `${found} at ${url}`).toBe(true)
      const all = sent.map(one => one.bytes).join('\n')
      for (const one of expectedMarks(visitor, agent)) expect(all).toContain(one)
      // What they may have is found, and fetched.
      const searched = sent
        .filter(one => one.url.startsWith('/search'))
        .map(one => one.bytes.replaceAll(/<[^>]*>/g, ''))
        .join('\n')
      for (const field of ['title', 'body', 'file'] as const)
        for (const download of rules.index.all('download').keys())
          if (allowed.has(mark('download', download, field))) {
            expect(searched).toContain(mark('download', download, 'title'))
            if (field === 'file') expect(all).toContain(mark('download', download, 'file'))
          }
    }
  })

  it('and to nobody for asking with what another was sent: what they have of a page, where their file lay', async () => {
    const ask = (url: string, cookie: string, known = '') =>
      fetch(application.url + url, {
        redirect: 'manual',
        headers: { cookie, 'user-agent': desktop, 'accept-language': 'en-IE', 'if-none-match': known },
      })
    const guda = await cookieOf(application.url, 'guda@wexlow.example')
    const [addresses, links]: [[string, string][], string[]] = [[], []]
    const fetched = [...rules.index.all('download').keys()].map(id => `/fetch/${id}`)
    for (const url of [...pathsOfThings(), '/feed', '/sitemap.xml', '/search?q=bodyzq', ...fetched]) {
      const answer = await ask(url, guda)
      const [tag, to] = ['etag', 'location'].map(name => answer.headers.get(name))
      const pictures = [...(await answer.text()).matchAll(/\ssrc="(\/picture\/[^"]+)"/g)].map(found => found[1]!)
      for (const picture of pictures) addresses.push([picture, (await ask(picture, guda)).headers.get('etag') ?? ''])
      addresses.push([url, tag ?? ''])
      if (to?.startsWith('/fetch/')) links.push(to)
    }
    expect([addresses.filter(([, tag]) => tag).length > 40, links.length > 0]).toEqual([true, true])
    for (const { email, visitor } of visitors.filter(one => !one.email?.startsWith('guda')).slice(0, 5)) {
      const cookie = email ? await cookieOf(application.url, email) : ''
      const allowed = allowedMarks(visitor, desktop)
      for (const [url, tag] of addresses) {
        const [conditional, plain] = [await ask(url, cookie, tag), await ask(url, cookie)]
        // That nothing changed is said to whoever would be sent the same.
        if (conditional.status === 304) expect(plain.headers.get('etag'), url).toBe(tag)
        else expect([conditional.status, url]).toEqual([plain.status, url])
        for (const found of [...marksIn(await conditional.text()), ...marksIn(await plain.text())])
          expect(allowed.has(found), `${found} at ${url}`).toBe(true)
      }
      for (const url of links)
        for (const known of ['', '*']) {
          const answer = await ask(url, cookie, known)
          expect([answer.status, marksIn(await answer.text())]).toEqual([403, []])
        }
    }
  })

  it('and what an earlier edition said is at no address of the next one', async () => {
    const { db } = application.database
    const keeper = keeperOf(await liveRules(application.database))
    await changeThing(db, keeper, { kind: 'page', key: 'ferry' }, { path: '/visit/boats', title: 'Boats anew' }, ines)
    await changeThing(
      db,
      keeper,
      { kind: 'block', key: 'kettle' },
      { title: 'Kettle', body: { markdown: 'Cold.' } },
      ines,
    )
    await removeThing(db, keeper, { kind: 'page', key: 'north-quay' }, ines)
    await removeThing(db, keeper, { kind: 'menuItem', key: 'f-ferry' }, ines)
    await publish(db, { authorise: asSystem, note: '', expects: 1, actor: ines })
    const guda = visitors.find(one => one.email?.startsWith('guda'))!
    rules = await liveRules(application.database)
    const cookie = await cookieOf(application.url, guda.email!)
    // The server is told of the edition a moment after it is there.
    await expect.poll(async () => (await fetch(`${application.url}/visit/boats`)).status).toBe(200)
    const sent = await everythingSent(cookie, desktop, 'en-IE', ['/visit/ferry', '/walk/1/visit/ferry', '/visit/boats'])
    const all = sent.map(one => one.bytes).join('\n')
    for (const gone of [
      mark('page', 'ferry', 'title'),
      mark('block', 'kettle', 'body'),
      mark('page', 'north-quay', 'title'),
      mark('block', 'north-quay-way', 'body'),
      mark('menuItem', 'f-ferry', 'label'),
    ])
      expect(all).not.toContain(gone)
    for (const there of ['Boats anew', 'Cold.']) expect(all).toContain(there)
  })

  it('and every mark that some visitor may not have exists', () => {
    const guest = allowedMarks({ person: null }, desktop)
    expect(rules.index.site.blocks!.filter(one => !guest.has(mark('block', one.id, 'body'))).length).toBeGreaterThan(15)
  })
})
