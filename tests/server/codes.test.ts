import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { CompiledRules } from '../../core/gates/compiled'
import type { Offer } from '../../core/rulebook/shop-rules'
import { Pricer } from '../../core/shop/pricer'
import { codeUse, person, singleCode } from '../../server/db/schema'
import type { Connection } from '../../server/db/database'
import {
  bringCodes,
  giveCode,
  letCodeGo,
  ownCode,
  spendCode,
  codesOfGuest,
  whatIsKept,
} from '../../server/services/shop/given-codes'
import type { Holder } from '../../server/services/shop/given-codes'
import { countCodes, exportCodes, listCodes, makeCodes, stopCodes } from '../../server/services/shop/made-codes'
import { visitorOf } from '../../server/services/standing/visitor-of'
import { freshDatabase } from '../support/database'
import { ines, keeperOf, liveRules, snapshotOf } from '../support/world'

let site: Connection & { url: string }
let book: CompiledRules
const crowd = Array.from({ length: 8 }, (_, i) => `p-crowd-${i}`)
beforeAll(async () => {
  site = await freshDatabase('demo')
  book = await liveRules(site)
  const now = new Date()
  await site.db.insert(person).values(
    crowd.map(id => ({
      id,
      name: id,
      email: `${id}@wexlow.example`,
      createdAt: now,
      confirmedAt: now,
      approvedAt: now,
    })),
  )
})
afterAll(() => site.close())
afterEach(() => vi.useRealTimers())

/** The mill with these offers besides, asked by somebody. */
async function asked(offers: Offer[], holder: Holder) {
  const rules = new CompiledRules(
    { ...book.rulebook, offers: [...(book.rulebook.offers ?? []), ...offers] },
    book.index,
  )
  const known =
    'person' in holder
      ? (await visitorOf(site.db, holder.person))!
      : { person: null, codes: await codesOfGuest(site.db, holder.guest) }
  return { snapshot: snapshotOf(rules), decider: new CompiledDecider(rules, known, Date.now()) }
}
const give = async (offers: Offer[], typed: string, holder: Holder, network = JSON.stringify(holder)) =>
  giveCode(site.db, await asked(offers, holder), { typed, holder, network }).catch(
    (error: { reason?: string; code?: string }) => error.reason ?? error.code,
  )
const unit = async (offers: Offer[], holder: Holder, product = 'fell-dk') =>
  new Pricer((await asked(offers, holder)).decider).quick(product)!.unit
const offer = (id: string, code: string, more: Partial<Offer> = {}): Offer => ({
  id,
  on: { shop: true },
  code,
  bands: [{ off: { percent: 50 } }],
  ...more,
})

describe('a code that is given', () => {
  it('lowers the price for whoever gave it, without case and however an emoji is drawn, until it is let go or its time is over', async () => {
    const wool = [offer('emoji', '🧶️Möhre')]
    const [mine, other]: Holder[] = [{ person: 'p-crowd-0' }, { guest: 'somebody' }]
    expect(await give(wool, 'nothing', mine!)).toBe('no-such-code')
    expect(await give(wool, ' 🧶mo\u0308HRE ', mine!)).toEqual(['emoji'])
    expect([await unit(wool, mine!), await unit(wool, other!)]).toEqual([345, 690])
    // Of a code that is another now nothing is left, nor of an offer that is gone.
    expect([await unit([offer('emoji', 'other')], mine!), await unit([], mine!)]).toEqual([690, 690])
    vi.useFakeTimers({ toFake: ['Date'], now: Date.now() + 31 * 24 * 3_600_000 })
    expect(await unit(wool, mine!)).toBe(690)
    vi.useRealTimers()
    await letCodeGo(site.db, mine!, 'emoji')
    expect(await unit(wool, mine!)).toBe(690)
  })

  it('used twice at once, one of two hundred or the last one, is used as often as it may be', async () => {
    const last = [offer('last', 'LAST', { uses: { all: 3 } })]
    const answers = await Promise.all(crowd.map(id => give(last, 'last', { person: id })))
    expect(answers.filter(Array.isArray)).toHaveLength(3)
    expect(answers.filter(one => one === 'code-used-up')).toHaveLength(5)
    // The same person several times at once takes one use.
    const [first] = crowd.filter((_, i) => Array.isArray(answers[i]))
    expect(await Promise.all([1, 2, 3].map(() => give(last, 'LAST', { person: first! })))).toEqual(
      Array(3).fill(['last']),
    )
    expect((await countCodes(site.db)).find(one => one.offer === 'last')).toMatchObject({ kept: 3, used: 0 })
    // What is let go is there for the next.
    await letCodeGo(site.db, { person: first! }, 'last')
    const [left] = crowd.filter((_, i) => answers[i] === 'code-used-up')
    expect(await give(last, 'last', { person: left! })).toEqual(['last'])
  })

  it('is counted for each person, who is known by signing in', async () => {
    const once = [offer('once', 'ONCE', { uses: { person: 1 } })]
    const [mine]: Holder[] = [{ person: 'p-crowd-1' }]
    expect(await give(once, 'once', { guest: 'stranger' })).toBe('code-after-sign-in')
    expect(await give(once, 'once', mine!)).toEqual(['once'])
    const { snapshot } = await asked(once, mine!)
    const spend = () =>
      site.db
        .transaction(tx => spendCode(tx, snapshot, { typed: 'once', holder: mine! }))
        .catch((error: { reason?: string }) => error.reason)
    // Two orders at once with the one use there is.
    expect((await Promise.all([spend(), spend()])).sort()).toEqual(['code-used-by-you', 'once'])
    expect(await give(once, 'once', mine!)).toBe('code-used-by-you')
    expect(await unit(once, mine!)).toBe(690)
  })

  it('is kept back from others for nobody who is not known: a stranger cannot take all there are', async () => {
    const few = [offer('few', 'FEW', { uses: { all: 1 } })]
    for (const guest of ['one', 'two', 'three']) expect(await give(few, 'few', { guest })).toEqual(['few'])
    expect(await give(few, 'few', { person: 'p-crowd-2' })).toEqual(['few'])
    expect(await give(few, 'few', { guest: 'four' })).toBe('code-used-up')
    // Signing in brings along what the limits allow.
    const wool = [...few, offer('many', 'MANY')]
    await give(wool, 'many', { guest: 'one' })
    await bringCodes(site.db, (await asked(wool, { guest: 'one' })).snapshot, 'one', 'p-guda')
    expect((await visitorOf(site.db, 'p-guda'))!.codes?.map(one => one.offer)).toEqual(['many'])
    expect(await codesOfGuest(site.db, 'one')).toEqual([])
  })

  it('is not for everybody who knows it, and is not guessed for long', async () => {
    const guild = [offer('guild-only', 'GUILD', { for: { level: { atLeast: 'guild' } } })]
    expect(await give(guild, 'guild', { guest: 'g' })).toBe('code-after-sign-in')
    expect(await give(guild, 'guild', { person: 'p-crowd-4' })).toBe('code-not-for-you')
    expect(await give([offer('off', 'OFF', { active: false })], 'off', { guest: 'g' })).toBe('no-such-code')
    for (let i = 0; i < 60; i++) await give([], `guess ${i}`, { guest: `guesser ${i}` }, 'one network')
    expect(await give(guild, 'guild', { guest: 'guesser' }, 'one network')).toBe('too-often')
  })
})

describe('codes made one by one', () => {
  const thanks = 'dye-day-thanks'
  const make = (count: number, request: string, most = 1) =>
    site.db.transaction(tx => makeCodes(tx, thanks, { count, most, note: 'fair', request }, ines))
  const list = (search = '') => listCodes(site.db, keeperOf(book), thanks, { search })

  it('are made many at once, all different, and once for what was asked twice', async () => {
    const before = await site.db.$count(singleCode)
    await Promise.all([make(2500, 'same'), make(2500, 'same').catch(() => null)])
    await make(2500, 'same')
    expect(await site.db.$count(singleCode)).toBe(before + 2500)
    const lines = (await exportCodes(site.db, thanks)).trim().split('\n')
    expect(lines).toHaveLength(before + 2501)
    expect(lines[1]).toMatch(/^DYEDAY-[A-Z2-9]{5}-[A-Z2-9]{5},free,0,1,\d{4}-/)
    await expect(
      site.db.transaction(tx => makeCodes(tx, 'fleece-post', { count: 1, most: 1, note: '', request: 'x' }, ines)),
    ).rejects.toMatchObject({ reason: 'offer-without-codes' })
  })

  it('are given to each person one of their own, the same each time, and work for them alone', async () => {
    const friend = async (id: string) => {
      const { snapshot } = await asked([], { person: id })
      const known = { ...(await visitorOf(site.db, id))!, levels: [{ level: 'friend', since: '2026-01-01T00:00:00Z' }] }
      return { snapshot, decider: new CompiledDecider(snapshot.rules, known, Date.now()) }
    }
    const asks = await Promise.all(crowd.map(friend))
    const own = () => Promise.all(crowd.map((id, i) => ownCode(site.db, asks[i]!, thanks, id)))
    const [first, again] = [await own(), await own()]
    expect(new Set(first).size).toBe(crowd.length)
    expect(again).toEqual(first)
    // The prefix alone opens nothing, nor does somebody else's.
    const typed = (code: string, i: number) =>
      giveCode(site.db, asks[i]!, { typed: code, holder: { person: crowd[i]! }, network: 'n' }).catch(
        (error: { reason?: string }) => error.reason,
      )
    expect(await typed('DYEDAY', 0)).toBe('no-such-code')
    expect(await typed(first[1]!, 0)).toBe('code-not-for-you')
    expect(await typed(first[0]!.toLowerCase(), 0)).toEqual([thanks])
    expect(await whatIsKept(site.db, asks[0]!.snapshot, { person: crowd[0]! })).toContainEqual(
      expect.objectContaining({ offer: thanks, code: first[0] }),
    )
    const [listed] = (await list(first[0])).codes
    expect(listed).toMatchObject({ state: 'kept', person: { id: crowd[0] } })
    // Who may not look at people is not told whose it is.
    const [unnamed] = (
      await listCodes(site.db, { ...keeperOf(book), rights: { personId: 'x', masterKey: false, rules: [] } }, thanks, {
        search: first[0],
      })
    ).codes
    expect(unnamed).not.toHaveProperty('person')
    // Stopped, it is let go and works no more.
    await site.db.transaction(tx => stopCodes(tx, thanks, { codes: [listed!.id] }, ines))
    expect(await site.db.$count(codeUse)).toBeGreaterThan(0)
    expect(await typed(first[0]!, 0)).toBe('no-such-code')
    expect((await visitorOf(site.db, crowd[0]!))!.codes?.map(one => one.offer) ?? []).not.toContain(thanks)
  })

  it('are noted at the counter once, whatever is pressed twice', async () => {
    const { snapshot } = await asked([], { guest: 'counter' })
    const [free] = (await list()).codes.filter(one => one.state === 'free')
    const use = (request: string) =>
      site.db
        .transaction(tx => spendCode(tx, snapshot, { typed: free!.code, holder: null, request }))
        .catch((error: { reason?: string }) => error.reason)
    expect(await Promise.all([use('a'), use('a')])).toEqual([thanks, thanks])
    expect(await use('b')).toBe('code-used-up')
    expect((await list(free!.code)).codes[0]).toMatchObject({ state: 'used', used: 1 })
    // It was the next to be shown to somebody: nobody is shown one that is used already.
    const { snapshot: rules } = await asked([], { person: 'p-guda' })
    const guda = new CompiledDecider(rules.rules, (await visitorOf(site.db, 'p-guda'))!, Date.now())
    const own = await ownCode(site.db, { snapshot: rules, decider: guda }, thanks, 'p-guda')
    expect(own).not.toBe(free!.code)
    expect((await list(own)).codes[0]).toMatchObject({ state: 'given', used: 0 })
  })
})
