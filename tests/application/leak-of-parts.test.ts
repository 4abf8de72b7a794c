/**
 * Parts of a text, and what stands in another's place, each with a mark of its own: passages for some and what others
 * read instead, alternatives of one place, notices of pages and of parts. Once for every condition the demo uses, asked
 * for by each of its visitors, on each kind of request those conditions tell apart.
 */
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { condition } from '../../core/conditions/condition'
import type { Condition } from '../../core/conditions/condition'
import type { RuleSet } from '../../core/gates/rule-set'
import { PlainDecider } from '../../core/gates/plain-decider'
import { lexiconOf } from '../../core/sentences/lexicon'
import { sayText } from '../../core/sentences/say'
import type { Visitor } from '../../core/visitor/visitor'
import { wexlowPeople } from '../../demo/wexlow/people'
import type { VersionedThing } from '../../core/kinds/kinds'
import { asSystem, saveEntry } from '../../server/services/editions/entries'
import { publish } from '../../server/services/editions/publish'
import { addThing } from '../../server/services/editions/things'
import { changeBasket } from '../../server/services/orders/baskets'
import { onLoan } from '../../server/services/facts/service-stand-in'
import { keepSearchUp } from '../../server/services/search/keep-up'
import { visitorOf } from '../../server/services/standing/visitor-of'
import { cookieOf, startApplication } from '../support/application'
import type { Application } from '../support/application'
import { ines, keeperOf, liveRules } from '../support/world'

let application: Application
let rules: RuleSet
let conditions: Condition[]

/** Every condition that stands anywhere in the rules, each once. */
function conditionsIn(book: object): Condition[] {
  const found = new Map<string, Condition>()
  const walk = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return
    const read = Array.isArray(value) ? undefined : condition.safeParse(value)
    if (read?.success && Object.keys(value).length) found.set(JSON.stringify(value), value as Condition)
    else Object.values(value).forEach(walk)
  }
  walk(book)
  return [...found.values()]
}

const mark = (what: string, i: number) => `zq${what}${i}zq`
const marksIn = (bytes: string) => new Set(bytes.match(/zq[a-z]+\d+zq/g))
const pageOf = (i: number) => `/leak/page-${i}`

beforeAll(async () => {
  application = await startApplication('demo', { BRAVIK_COUNTRY_HEADER: 'x-country' }, async database => {
    const { db } = database
    const live = await liveRules(database)
    const keeper = keeperOf(live)
    conditions = conditionsIn(live.rulebook).filter(one => !('everyone' in one))
    const lexicon = lexiconOf(live.rulebook, live.index)
    const add = (kind: VersionedThing, thing: object) => addThing(db, keeper, kind, thing, ines)
    const gate = (id: string, on: object, more: object) =>
      saveEntry(db, { permit: asSystem, kind: 'gate', key: id, body: { id, on, ...more }, expects: null, actor: ines })
    const text = (id: string, place: object, markdown: string) =>
      add('block', { id, kind: 'text', in: place, body: { markdown } })
    await add('page', { id: 'leak', path: '/leak', title: 'Leak' })
    for (const [i, one] of conditions.entries()) {
      const who = sayText(one, lexicon)
      await text(
        `leak-text-${i}`,
        { page: 'leak' },
        `Wharf. :for[Wharf ${mark('in', i)}]{who='${who}' else="wharf ${mark('else', i)}"}\n\n:::for{who='${who}'}\nWharf ${mark('par', i)}\n:::\n`,
      )
      await add('block', { id: `leak-several-${i}`, kind: 'group', in: { page: 'leak' }, oneOf: true, body: {} })
      for (const [n, what] of ['first', 'second', 'third'].entries())
        await text(`leak-${what}-${i}`, { block: `leak-several-${i}` }, `Wharf ${mark(what, i)} ${n}`)
      await gate(`leak-first-${i}`, { block: `leak-first-${i}` }, { open: one })
      await text(`leak-shut-${i}`, { page: 'leak' }, `Wharf ${mark('part', i)}`)
      await gate(
        `leak-shut-${i}`,
        { block: `leak-shut-${i}` },
        { open: one, otherwise: { notice: { text: mark('told', i) } } },
      )
      await add('page', { id: `leak-page-${i}`, path: pageOf(i), title: mark('title', i), summary: mark('summary', i) })
      await text(`leak-body-${i}`, { page: `leak-page-${i}` }, `Wharf ${mark('body', i)}`)
      await gate(
        `leak-page-${i}`,
        { page: `leak-page-${i}` },
        {
          open: one,
          otherwise: {
            guest: { notice: { text: mark('guest', i) } },
            signedIn: { notice: { text: mark('member', i) } },
          },
        },
      )
    }
    await publish(db, { authorise: asSystem, note: '', expects: 1, actor: ines })
    await keepSearchUp(db)
    // Something of the kits lies in one basket: a condition asks for it.
    await changeBasket(db, 'p-mako', () => [{ product: 'mitts-kit', quantity: 1, seen: null }])
    rules = await liveRules(database, 2)
  })
}, 120_000)
afterAll(() => application?.stop())

const requests = [
  { agent: 'Mozilla/5.0 (X11; Linux x86_64)', device: 'desktop', country: 'IE', query: {} },
  { agent: 'Mozilla/5.0 (Linux; Android 14) Mobile', device: 'phone', country: 'GB', query: {} },
  { agent: 'Mozilla/5.0 (X11; Linux x86_64)', device: 'desktop', country: 'DE', query: { from: 'poster' } },
  { agent: 'Mozilla/5.0 (Linux; Android 14) Mobile', device: 'phone', country: 'US', query: { from: 'poster' } },
] as const
type Asked = (typeof requests)[number]

const wheels = (visitor: Visitor) =>
  visitor.person?.email === undefined ? {} : { facts: { ...visitor.facts, wheels: onLoan[visitor.person.email] ?? 0 } }
const deciderOf = (visitor: Visitor, { device, country, query }: Asked, nowMs: number) =>
  new PlainDecider(
    rules,
    {
      ...visitor,
      ...wheels(visitor),
      request: { device, country, language: 'en-IE', query, at: new Date(nowMs).toISOString() },
    },
    nowMs,
  )

/** The very marks this visitor is to be sent: of the page with all parts, and of the page of each condition. */
function expected(decider: PlainDecider, isIn: boolean) {
  const together = new Set<string>()
  const pages: Set<string>[] = []
  for (const i of conditions.keys()) {
    const fits = decider.decide({ kind: 'block', id: `leak-first-${i}` }).open
    const add = (...whats: string[]) => whats.forEach(what => together.add(mark(what, i)))
    if (fits) add('in', 'par', 'first', 'part')
    else add('else', 'second', 'told')
    pages.push(
      new Set(fits ? [mark('title', i), mark('summary', i), mark('body', i)] : [mark(isIn ? 'member' : 'guest', i)]),
    )
  }
  return { together, pages }
}

const visitors = [
  { name: 'a guest', id: null, email: null },
  // The master key opens everything.
  ...wexlowPeople.filter(one => one.id !== ines.id).map(({ name, id, email }) => ({ name, id, email })),
]

describe('what is for others is not sent', () => {
  it('has a condition of every sort to ask about', () => {
    const sorts = new Set(JSON.stringify(conditions).match(/"(\w+)":/g))
    for (const sort of [
      'level',
      'role',
      'country',
      'device',
      'query',
      'fact',
      'bought',
      'basket',
      'weekday',
      'audience',
      'firm',
    ])
      expect(sorts).toContain(`"${sort}":`)
    expect(conditions.length).toBeGreaterThan(20)
  })

  const clocks = { now: 0, 'a Saturday noon of the dyers’ week': Date.parse('2026-10-10T11:00:00Z') }
  it.each(Object.entries(clocks))(
    'at %s: passages, what stands instead of them, alternatives and notices',
    async (_, at) => {
      const offset = at ? at - Date.now() : 0
      const url = offset
        ? await application.another({
            BRAVIK_CLOCK_OFFSET_MS: String(Math.round(offset)),
            BRAVIK_COUNTRY_HEADER: 'x-country',
          })
        : application.url
      const [mayBe, wasSent] = [new Set<string>(), new Set<string>()]
      for (const { name, id, email } of visitors) {
        const cookie = email ? await cookieOf(application.url, email) : ''
        const visitor = (id && (await visitorOf(application.database.db, id))) || { person: null }
        for (const asked of requests) {
          const { agent, country, query } = asked
          const get = async (path: string) => {
            const search = new URLSearchParams(query as Record<string, string>).toString()
            const answer = await fetch(`${url}${path}${search && `${path.includes('?') ? '&' : '?'}${search}`}`, {
              redirect: 'manual',
              headers: { cookie, 'user-agent': agent, 'x-country': country, 'accept-language': 'en-IE' },
            })
            return marksIn(`${[...answer.headers].flat().join(' ')} ${await answer.text()}`)
          }
          const { together, pages } = expected(deciderOf(visitor, asked, Date.now() + offset), cookie !== '')
          const where = `${name}, ${JSON.stringify({ country, query })}, `
          // Twice: what is kept for one visitor answers no other.
          for (const turn of ['made', 'kept']) {
            const sent = await get('/leak')
            expect([where + turn, [...sent].sort()]).toEqual([where + turn, [...together].sort()])
            for (const one of sent) wasSent.add(one)
          }
          const all = new Set([...together, ...pages.flatMap(page => [...page])])
          const found = await Promise.all(
            ['/search?q=wharf', '/leak?print=1', '/_payload.json', '/leak/_payload.json'].map(get),
          )
          for (const one of found.flatMap(marks => [...marks])) expect(all, where + one).toContain(one)
          for (const one of all) mayBe.add(one)
          // Each of the pages by itself, on one kind of request: that they differ by request is seen above.
          if (asked !== requests[0] && asked !== requests[3]) continue
          const ofPages = await Promise.all(pages.map((_page, i) => get(pageOf(i))))
          for (const [i, sent] of ofPages.entries())
            expect([where + pageOf(i), [...sent].sort()]).toEqual([where + pageOf(i), [...pages[i]!].sort()])
        }
      }
      expect([...wasSent].some(one => one.startsWith('zqthird'))).toBe(false)
      expect(wasSent.size).toBeGreaterThan(conditions.length * 5)
    },
    240_000,
  )
})
