import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { menuFor } from '../../core/menus/menu'
import { PlainDecider, RuleSet } from '../../core/gates/plain-decider'
import type { Visitor } from '../../core/rulebook/visitor'
import { wexlowPeople } from '../../demo/wexlow/people'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { block, menuItem, page, siteState } from '../../server/db/schema'
import { readInventory } from '../../server/services/rules/inventory'
import { startApplication } from '../support/application'
import type { Application } from '../support/application'

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

beforeAll(async () => {
  application = await startApplication()
  const { db } = application.database
  for (const one of await db.select().from(page))
    await db
      .update(page)
      .set({ title: mark('page', one.id, 'title'), summary: mark('page', one.id, 'summary') })
      .where(eq(page.id, one.id))
  for (const one of await db.select().from(block)) {
    const marked = (field: string) => mark('block', one.id, field)
    const body =
      one.kind === 'text'
        ? { markdown: `**${marked('body')}**` }
        : Object.fromEntries(
            Object.entries(one.body as object).map(([key, value]) => [
              key,
              ['alt', 'text', 'label', 'caption'].includes(key) ? marked(key) : value,
            ]),
          )
    await db
      .update(block)
      .set({ title: marked('title'), summary: marked('summary'), body })
      .where(eq(block.id, one.id))
  }
  for (const one of await db.select().from(menuItem))
    await db
      .update(menuItem)
      .set({ label: mark('item', one.id, 'label') })
      .where(eq(menuItem.id, one.id))
  await db.update(siteState).set({ contentVersion: sql`content_version + 1` })
  await db.execute(sql`select pg_notify('bravik_changed', '')`)
  rules = new RuleSet(wexlowRulebook, (await readInventory(db)).site)
  for (let tries = 0; tries < 100 && !(await (await fetch(application.url)).text()).includes('zqitem'); tries++)
    await new Promise(resolve => setTimeout(resolve, 50))
})
afterAll(() => application.stop())

interface Seen {
  bytes: string
  url: string
}

async function everythingSent(cookie: string, agent: string, language: string): Promise<Seen[]> {
  const paths = rules.index.site.pages!.map(one => one.path)
  const addresses = [
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
    '/api/loft/board',
    '/api/loft/people',
    '/api/loft/pages/trade',
    '/api/loft/editions',
    '/walk/x.y/trade',
    '/sitemap.xml',
    '/_nuxt/builds/latest.json',
  ]
  const seen: Seen[] = []
  for (const url of addresses) {
    for (const method of url.includes('?') ? ['GET'] : ['GET', 'HEAD']) {
      const answer = await fetch(application.url + url, {
        method,
        redirect: 'manual',
        headers: { cookie: cookie, 'user-agent': agent, 'accept-language': language },
      })
      seen.push({ url, bytes: `${answer.status} ${[...answer.headers].flat().join(' ')} ${await answer.text()}` })
    }
  }
  return seen
}

function allowedMarks(visitor: Visitor, agent: string): Set<string> {
  const request = { device: agent === phone ? 'phone' : 'desktop', language: 'en-IE', query: {} }
  const decider = new PlainDecider(rules, { ...visitor, request }, Date.now())
  const allowed = new Set<string>()
  const allow = (kind: string, id: string, ...fields: string[]) =>
    fields.forEach(field => allowed.add(mark(kind, id, field)))
  for (const { id } of rules.index.site.pages!) {
    const verdict = decider.decide({ kind: 'page', id })
    if (verdict.open || verdict.find || (verdict.otherwise && 'teaser' in verdict.otherwise))
      allow('page', id, 'title', 'summary')
  }
  for (const { id } of rules.index.site.blocks!) {
    const verdict = decider.decide({ kind: 'block', id })
    if (verdict.open) allow('block', id, 'title', 'summary', 'body', 'alt', 'text', 'label', 'caption')
    else if (verdict.otherwise && 'teaser' in verdict.otherwise) allow('block', id, 'title', 'summary')
  }
  for (const { item } of menuFor(rules.index.menus.get('main')!, {
    ownAdmits: one => decider.decide({ kind: 'menuItem', id: one.id }).open,
    opens: resource => decider.opens(resource.kind, resource.id, true),
  }))
    allow('item', item.id, 'label')
  return allowed
}

/** Text blocks that open, on pages that open, and are no variant: these must arrive, or the test would see nothing. */
function expectedMarks(visitor: Visitor, agent: string): string[] {
  const decider = new PlainDecider(
    rules,
    { ...visitor, request: { device: agent === phone ? 'phone' : 'desktop', query: {} } },
    Date.now(),
  )
  return rules.index.site
    .blocks!.filter(
      one => one.kind === 'text' && 'page' in one.in && decider.decide({ kind: 'block', id: one.id }).open,
    )
    .map(one => mark('block', one.id, 'body'))
}

const visitors = [
  { name: 'a guest', email: null, visitor: { person: null } as Visitor },
  ...wexlowPeople
    .filter(one => !one.roles?.some(role => wexlowRulebook.roles!.find(known => known.id === role)?.staff))
    .map(one => ({
      name: one.name,
      email: one.email,
      visitor: { person: { id: one.id, name: one.name }, levels: one.levels ?? [], roles: one.roles ?? [] } as Visitor,
    })),
]

describe('what is refused is not sent', () => {
  it.each(visitors)('to $name', async ({ email, visitor }) => {
    const answer =
      email &&
      (await fetch(`${application.url}/api/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ email, password: 'wexlow-demo' }),
      }))
    const cookie = answer ? answer.headers.getSetCookie()[0]!.split(';')[0]! : ''
    for (const agent of [desktop, phone]) {
      const allowed = allowedMarks(visitor, agent)
      const sent = await everythingSent(cookie, agent, 'en-IE')
      for (const { url, bytes } of sent)
        for (const [found] of bytes.matchAll(/zq[a-z]+-[a-z0-9-]+-[a-z]+zq/g))
          expect(allowed.has(found), `${found} at ${url}`).toBe(true)
      const all = sent.map(one => one.bytes).join('\n')
      for (const one of expectedMarks(visitor, agent)) expect(all).toContain(one)
    }
  })

  it('and every mark that some visitor may not have exists', () => {
    const guest = allowedMarks({ person: null }, desktop)
    expect(rules.index.site.blocks!.filter(one => !guest.has(mark('block', one.id, 'body'))).length).toBeGreaterThan(15)
  })
})
