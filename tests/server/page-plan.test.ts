import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { CompiledRules } from '../../core/gates/compiled'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import type { Gate } from '../../core/rulebook/gate'
import { PagePlan } from '../../core/pages/made-from/page-plan'
import { requestPrint } from '../../core/visitor/request-print'
import type { Visitor } from '../../core/visitor/visitor'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import type { Connection } from '../../server/db/database'
import { assembleView, sourceFor, viewKey } from '../../server/services/pages/page-view'
import type { StoredContents } from '../../server/services/versions/versions'
import { contentsOf, snapshotOf } from '../support/world'
import { freshDatabase } from '../support/database'

let site: Connection
let contents: StoredContents
const nowMs = Date.parse('2026-11-24T10:00:00Z')
beforeAll(async () => {
  site = await freshDatabase('demo')
  contents = await contentsOf(site)
})
afterAll(() => site.close())

const pick = <T>(...list: readonly T[]) => fc.constantFrom(...list)
const condition = pick<object>(
  { nobody: true },
  { signedIn: true },
  { signedIn: false },
  { level: { atLeast: 'maker' } },
  { level: { in: ['guild'] } },
  { role: { anyOf: ['stockist'] } },
  { device: { in: ['phone'] } },
  { language: { in: ['de'] } },
  { query: { name: 'from', in: ['poster'] } },
  { referrer: { in: ['wexlow.example'] } },
  { person: { in: ['p-guda'] } },
  { fact: { name: 'wheels', atLeast: 1 } },
  { date: { from: '2026-11-24' } },
)
const otherwise = pick<object>(
  { absent: true },
  { teaser: true },
  { dimmed: { keep: ['heading'] } },
  { notice: { text: 'Not yet' } },
  { swap: { block: 'join-card' } },
  { guest: { redirect: { to: '/join' } }, signedIn: { teaser: true } },
)
const scope = pick<Gate['on']>(
  { everything: true },
  { kind: 'block' },
  { kind: 'menuItem' },
  { page: 'techniques', below: true },
  { page: 'visit' },
  { page: 'colour' },
  { block: 'visit-poster' },
  { block: 'footer-trade' },
  { folder: 'patterns' },
  { download: 'harbour-cowl' },
  { path: '/visit/**' },
  { path: '/visit?from=poster' },
  { menuItem: 'm-trade' },
  { topic: 'dye-days' },
)
const gate = fc.record(
  { on: scope, open: condition, find: condition, take: condition, otherwise, inherit: fc.boolean() },
  { requiredKeys: ['on', 'open'] },
)
const visitor: fc.Arbitrary<Visitor> = fc.record({
  person: pick<Visitor['person']>(null, null, { id: 'p-guda', name: 'Guda' }, { id: 'p-x', name: '' }, { id: 'p-y' }),
  levels: fc
    .subarray(['friend', 'maker', 'guild'])
    .map(list => list.map(level => ({ level, since: '2026-01-01T00:00:00Z' }))),
  roles: fc.subarray(['stockist', 'keeper', 'islander']),
  facts: pick<Record<string, unknown>>({}, { wheels: 2 }),
  codes: pick<NonNullable<Visitor['codes']>>(
    [],
    [{ offer: 'fleece-post', code: 'Fleece-Post' }],
    [{ offer: 'fleece-post', code: 'FLEECE-POST', until: '2026-11-24T09:59:59Z' }],
    [{ offer: 'dye-day-thanks', code: 'DYEDAY', until: '2026-11-25T00:00:00Z' }],
  ),
  request: fc.record(
    {
      device: pick('phone', 'desktop'),
      language: pick('de', 'en'),
      referrer: pick('https://wexlow.example/x', 'https://other.example/'),
      query: pick<Record<string, string>>({}, { from: 'poster' }, { lang: 'de' }, { x: '1' }),
    },
    { requiredKeys: [] },
  ),
}) as never

const paths = [
  '/',
  '/visit',
  '/techniques/colour',
  '/techniques/gansey',
  '/trade',
  '/files/harbour-cowl',
  '/notes/woad-sowing',
  '/shop/yarn',
  '/shop/goods/fell-dk',
  '/shop/dye-plants',
  '/nowhere',
  '/neither',
]

describe('a page plan', () => {
  it('tells for every visitor the page that would be made for them, and two share one only where it is the same', async () => {
    let hits = 0
    let shared = 0
    await fc.assert(
      fc.asyncProperty(
        fc.array(gate, { maxLength: 5 }),
        pick(...paths),
        fc.array(visitor, { minLength: 8, maxLength: 20 }),
        async (given, path, visitors) => {
          const gates = given.map((one, i) => ({ ...one, id: `g${i}` }) as Gate)
          const kept = wexlowRulebook.gates!.filter((_, i) => i % 2 === given.length % 2)
          const rules = new CompiledRules({ ...wexlowRulebook, gates: [...kept, ...gates] }, contents.index)
          const snapshot = snapshotOf(rules, [], contents)
          const plan = new PagePlan<string>(new Map(), path)
          for (const one of [...visitors, ...visitors]) {
            const deciderOf = (who = one) => new CompiledDecider(rules, who, nowMs)
            const askOf = (who = one) => {
              const decider = deciderOf(who)
              const { source } = sourceFor({ snapshot, decider, db: site.db })
              return { rules, decider, source, path }
            }
            const made = await assembleView({ snapshot, decider: deciderOf(), db: site.db, path })
            const key = made.redirect ?? viewKey(made.view)
            const found = plan.find(askOf())
            if (found === undefined) plan.learn(askOf(), made, key)
            else hits++
            if (!made.personal) expect(found ?? key).toBe(key)
            // Whoever the page can tell from them by nothing, as `momentDecider` has it, is answered the same.
            const withoutQuery = { ...one, request: { ...one.request, query: {} } }
            for (const { request } of visitors.slice(0, 5)) {
              const like = { ...one, request: { ...request, query: {} } }
              if (requestPrint(like.request, plan.looks) !== requestPrint(withoutQuery.request, plan.looks)) continue
              expect(plan.find(askOf(like))).toBe(plan.find(askOf(withoutQuery)))
              shared++
            }
          }
        },
      ),
      { numRuns: 120 },
    )
    expect(hits).toBeGreaterThan(1000)
    expect(shared).toBeGreaterThan(1000)
  })
})
