import { asSystem } from '../../server/services/editions/entries'
import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { moneyWords } from '../../core/money'
import type { RuleSet } from '../../core/gates/rule-set'
import { PlainDecider } from '../../core/gates/plain-decider'
import { PlainPricing } from '../../core/shop/plain-pricing'
import { PlainTax } from '../../core/tax/plain-tax'
import type { Visitor } from '../../core/visitor/visitor'
import { wexlowPeople } from '../../demo/wexlow/people'
import { wexlowFirm } from '../../demo/wexlow/people-rules'
import { version } from '../../server/db/schema'
import { publish } from '../../server/services/editions/publish'
import { changeThing } from '../../server/services/editions/things'
import { keepSearchUp } from '../../server/services/search/keep-up'
import { forgetContents } from '../../server/services/versions/versions'
import { cookieOf, startApplication } from '../support/application'
import type { Application } from '../support/application'
import { ines, keeperOf, liveRules } from '../support/world'

/**
 * Every product has a price, and some a sale, that no other has. Whatever the plain reading says a visitor is not told
 * must be in no byte they are sent: as it is written, or as the number it is kept as; nor may it move anything they see.
 */
let application: Application
let rules: RuleSet
/** Quantities at which a price may show: where the demo's steps begin. */
const quantities = [1, 6, 10, 12, 50]

beforeAll(async () => {
  application = await startApplication('demo', {}, async database => {
    const { db } = database
    const products = await db.select().from(version).where(eq(version.kind, 'product')).orderBy(version.id)
    for (const [i, { id, body }] of products.entries()) {
      const price = 200_003 + i * 2_017
      const sale = (body as { sale?: object }).sale
        ? { sale: { ...(body as { sale: object }).sale, price: price - 709 } }
        : {}
      await db
        .update(version)
        .set({ body: sql`${JSON.stringify({ ...(body as object), price, ...sale })}::jsonb` })
        .where(eq(version.id, id))
    }
    forgetContents()
    rules = await liveRules(database)
  })
})
afterAll(() => application.stop())

const money = (minor: number) => moneyWords(minor, rules.index.site.currency, 'en-IE')

/** All amounts somebody may read, and all that there are and they may not. */
function amountsFor(visitor: Visitor): { told: Set<number>; withheld: Set<number> } {
  const decider = new PlainDecider(rules, visitor, Date.now())
  const pricing = new PlainPricing(rules, visitor, Date.now())
  const tax = new PlainTax(rules, visitor, Date.now())
  const { list } = tax.showing()
  const [told, all] = [new Set<number>(), new Set<number>()]
  for (const id of rules.index.all('product').keys()) {
    const isTold = decider.decide({ kind: 'product', id }).price
    for (const quantity of quantities) {
      const { regular, unit, sale, steps } = pricing.price(id, quantity)!
      for (const amount of [regular, unit, sale?.price ?? regular, ...steps.flatMap(step => step.unit ?? [])])
        all.add(amount)
      // As it was typed, and as it shows to them.
      if (isTold) for (const amount of [regular, unit]) told.add(amount).add(tax.both(id, amount)[list])
    }
  }
  return { told, withheld: new Set([...all].filter(amount => !told.has(amount))) }
}

function addresses(): string[] {
  const { site } = rules.index
  const shelves = ['/shop', ...(site.categories ?? []).flatMap(one => one.path ?? [])]
  const goods = (site.products ?? []).flatMap(one => one.path ?? [])
  const asked = [
    '',
    '?sort=price',
    '?sort=price-high',
    '?sort=name',
    '?only=colour:madder',
    '?page=2',
    '?sort=price&page=99',
  ]
  return [
    ...shelves.flatMap(path => asked.map(query => path + query)),
    ...goods,
    ...[...shelves, ...goods].map(path => `${path}/_payload.json`),
    // Of a few, since searching is bounded for each address.
    ...['cone', 'gullhaven'].map(text => `/search?q=${encodeURIComponent(text)}`),
    '/feed',
    '/sitemap.xml',
    '/sitemap/1.xml',
    '/api/loft/start',
    '/account',
    '/account/codes',
    '/basket',
    '/till',
    '/order',
    '/api/loft/products',
    '/api/loft/products/cone-dk/stock',
    '/api/loft/codes',
    '/api/loft/codes/dye-day-thanks',
    '/api/loft/codes/dye-day-thanks/export',
    '/api/loft/costs',
    '/api/loft/editions/1',
  ]
}

async function sent(path: string, cookie: string): Promise<string> {
  const answer = await fetch(application.url + path, { redirect: 'manual', headers: { cookie } })
  // How long a page is can be any number, that of a price too; that no price moves it is held below.
  const headers = [...answer.headers].filter(([name]) => name !== 'content-length')
  return `${answer.status} ${headers.flat().join(' ')} ${await answer.text()}`
}

const staff = ['p-ines', 'p-tomas', 'p-oona', 'p-dace']
const visitors: { name: string; email: string | null; visitor: Visitor }[] = [
  { name: 'a guest', email: null, visitor: { person: null } },
  ...wexlowPeople
    .filter(one => !staff.includes(one.id) && !one.roles?.some(role => /keeper|hand|desk/.test(role)))
    .slice(0, 6)
    .map(one => ({
      name: one.name,
      email: one.email,
      visitor: {
        person: { id: one.id, name: one.name, email: one.email },
        levels: one.levels ?? [],
        roles: one.roles ?? [],
        ...(one.id === wexlowFirm.owner ? { firm: wexlowFirm.id } : {}),
      } as Visitor,
    })),
]

describe('a price that is not told is not sent', () => {
  it.each(visitors)('to $name', async ({ email, visitor }) => {
    const cookie = email === null ? '' : await cookieOf(application.url, email)
    const { told, withheld } = amountsFor(visitor)
    const seen = new Set<string>()
    const queue = addresses()
    const ask = async () => {
      for (let path = queue.shift(); path !== undefined; path = queue.shift()) {
        const bytes = await sent(path, cookie)
        for (const found of bytes.match(/€[\d,]+\.\d\d/g) ?? []) {
          seen.add(found)
          const amount = Number(found.replace(/[€,.]/g, ''))
          // What is below any price of these goods is what a level costs.
          if (amount > 50_000) expect(told.has(amount), `${found} at ${path}`).toBe(true)
        }
        // Nobody gave a code, and none is shown before it is asked for.
        expect(bytes).not.toMatch(/DYEDAY|FLEECE-POST/i)
        const digits = new Set(bytes.match(/(?<!\d)\d{5,6}(?!\d)/g)?.map(Number))
        for (const amount of withheld) expect(digits.has(amount), `${amount} at ${path}`).toBe(false)
      }
    }
    await Promise.all(Array.from({ length: 6 }, ask))
    // What they are told is there, so that the test cannot pass by seeing nothing.
    const decider = new PlainDecider(rules, visitor, Date.now())
    const niddy = new PlainTax(rules, visitor, Date.now()).shown('niddy-noddy')!
    expect(decider.decide({ kind: 'product', id: 'niddy-noddy' }).price && seen.has(money(niddy.shown))).toBe(true)
  })

  it('and moves nothing that is seen: not an order, not a count, not a length, not a validator', async () => {
    const shelves = ['/shop', '/shop/by-the-sack', '/shop/tools', '/shop/goods/cone-dk']
    const asked = ['', 'sort=price', 'sort=price-high', 'sort=name']
    const paths = [
      '/search?q=cone',
      ...shelves.flatMap(path => asked.map(query => (query ? `${path}?${query}` : path))),
    ]
    const everything = async () => {
      const all: string[] = []
      for (const path of paths) {
        const answer = await fetch(application.url + path)
        all.push(`${path} ${answer.status} ${answer.headers.get('etag')} ${await answer.text()}`)
      }
      return all
    }
    const before = await everything()
    const keeper = keeperOf(await liveRules(application.database))
    // Withheld from guests: the dearest becomes the cheapest, and one goes on sale.
    for (const [key, given] of [
      ['cone-dk', { price: 1 }],
      ['carded-fell', { price: 9_999_999 }],
      ['felt-sheets', { sale: { price: 7 } }],
      ['wheel-hire', { price: 2 }],
    ] as const)
      await changeThing(application.database.db, keeper, { kind: 'product', key }, given, ines)
    await publish(application.database.db, { authorise: asSystem, note: '', expects: 1, actor: ines })
    await expect.poll(async () => (await fetch(`${application.url}/ready`)).status).toBe(200)
    const stella = await cookieOf(application.url, 'stella@gullhaven.example')
    await expect.poll(() => sent('/shop/goods/cone-dk', stella), { timeout: 10_000 }).toContain('€0.01')
    // What search reads anew is not found for a moment, whatever of it was changed.
    await keepSearchUp(application.database.db)
    await expect.poll(everything, { timeout: 20_000, interval: 2000 }).toEqual(before)
  })
})
