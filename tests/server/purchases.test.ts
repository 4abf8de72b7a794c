/** A purchase keeps what it was begun with; a renewal is begun once, told of until it is heard, and never for nothing. */
import { eq, sql } from 'drizzle-orm'
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import type { CompiledRules } from '../../core/gates/compiled'
import type { Level } from '../../core/rulebook/people-rules'
import type { Connection } from '../../server/db/database'
import { membership, noticeDue, person, purchase } from '../../server/db/schema'
import { newId } from '../../server/services/secrets/tokens'
import { buy, closeExpired, membershipsOf, renewDue, staleness } from '../../server/services/memberships/memberships'
import { purchaseOf } from '../../server/services/memberships/held'
import { takeNotice } from '../../server/services/memberships/purchases'
import type { SaleWorld } from '../../server/services/memberships/memberships'
import { sendDueNotices } from '../../server/services/payments/stand-in'
import { freshDatabase } from '../support/database'
import { liveRules, saleWorldOf } from '../support/world'

let site: Connection & { url: string }
let rules: CompiledRules
let world: SaleWorld
beforeAll(async () => {
  site = await freshDatabase('demo')
  rules = await liveRules(site)
  world = saleWorldOf(rules)
})
afterAll(() => site.close())
afterEach(async () => {
  vi.useRealTimers()
  await site.db.update(membership).set({ renews: false })
})
const at = (iso: string) => vi.useFakeTimers({ toFake: ['Date'], now: new Date(iso) })
/** The same rules with a level changed, as after a publication. */
const withLevel = (id: string, change: Partial<Level>): SaleWorld => ({
  ...world,
  book: { ...world.book, levels: world.book.levels!.map(level => (level.id === id ? { ...level, ...change } : level)) },
})
async function begin(id: string, amount = 600): Promise<string> {
  await site.db
    .insert(person)
    .values({ id, name: id, email: `${id}@till.example`, confirmedAt: new Date(), approvedAt: new Date() })
    .onConflictDoNothing()
  const done = await buy(site.db, world, { id, name: id }, 'maker', amount)
  return 'reference' in done ? done.reference : ''
}
const pay = (reference: string, sale = world) =>
  takeNotice(site.db, sale, { id: newId('notice'), reference, kind: 'paid' })
const held = async (id: string) => (await membershipsOf(site.db, id))[0]
const stale = async (reference: string, sale = world) =>
  staleness(site.db, sale, (await purchaseOf(site.db, reference))!)

describe('a purchase', () => {
  it('keeps its price and period, whatever the level costs when it is paid', async () => {
    at('2026-03-10T10:00:00Z')
    const reference = await begin('kim')
    await pay(reference, withLevel('maker', { price: { amount: 9900, every: 'year' } }))
    expect(await held('kim')).toMatchObject({ paidAmount: 600, paidUntil: new Date('2026-04-10T09:00:00Z') })
  })

  it('of a level whose price is gone gives the period paid for, never one without end', async () => {
    at('2026-03-10T10:00:00Z')
    const free = withLevel('maker', { price: undefined })
    await pay(await begin('lea'), free)
    expect((await held('lea'))!.paidUntil).toEqual(new Date('2026-04-10T09:00:00Z'))
    // One of before periods were kept has no length to give.
    const reference = await begin('lew')
    await site.db.update(purchase).set({ period: null, price: null }).where(eq(purchase.reference, reference))
    expect((await pay(reference, free)).effect).toBeNull()
    expect(await held('lew')).toBeUndefined()
  })

  it('is asked about again at the till: expired after an hour, replaced by a newer one, changed with the rules', async () => {
    at('2026-03-10T10:00:00Z')
    const first = await begin('mia')
    expect(await stale(first)).toBeUndefined()
    expect(await stale(first, withLevel('maker', { price: { amount: 700, every: 'month' } }))).toBe('changed')
    expect(await stale(first, withLevel('maker', { price: undefined }))).toBe('changed')
    const second = await begin('mia')
    expect([await stale(first), await stale(second)]).toEqual(['replaced', undefined])
    at('2026-03-10T11:00:00Z')
    expect(await stale(second)).toBe('expired')
    await closeExpired(site.db)
    expect((await purchaseOf(site.db, second))!.state).toBe('expired')
    // Money that comes all the same counts.
    expect((await pay(second)).effect).toBe('grant')
  })
})

describe('a renewal', () => {
  const renewing = async (id: string, from: string) => {
    at(from)
    await pay(await begin(id))
  }

  it('is written down with its notice in one transaction, and heard however often sending fails', async () => {
    await renewing('ned', '2026-03-10T10:00:00Z')
    at('2026-04-10T10:30:00Z')
    expect(await renewDue(site.db, world)).toBe(1)
    const [due] = await site.db.select().from(noticeDue)
    expect(due).toMatchObject({ kind: 'paid', tries: 0 })
    // The server dies, or nobody takes the notice: it waits, and is taken up again.
    expect(await sendDueNotices(site.db, () => Promise.reject(new Error('nobody there')))).toBe(0)
    expect((await site.db.select().from(noticeDue))[0]).toMatchObject({ tries: 1 })
    await site.db.update(noticeDue).set({ nextTryAt: sql`now()` })
    expect(
      await sendDueNotices(
        site.db,
        async ({ id, reference, kind }) => void (await takeNotice(site.db, world, { id, reference, kind })),
      ),
    ).toBe(1)
    expect(await site.db.select().from(noticeDue)).toEqual([])
    expect((await held('ned'))!.paidUntil).toEqual(new Date('2026-05-10T09:00:00Z'))
  })

  it('that fails holds up no other', async () => {
    for (const id of ['oda', 'ole', 'oli']) await renewing(id, '2026-03-10T10:00:00Z')
    at('2026-04-10T10:30:00Z')
    expect(await renewDue(site.db, world)).toBe(3)
    const failing = (await site.db.select().from(noticeDue))[0]!.id
    const taken = await sendDueNotices(site.db, async ({ id, reference, kind }) => {
      if (id === failing) throw new Error('not this one')
      await takeNotice(site.db, world, { id, reference, kind })
    })
    expect([taken, (await site.db.select().from(noticeDue)).map(one => one.id)]).toEqual([2, [failing]])
    await site.db.delete(noticeDue)
  })

  it('begins without days of grace before the end, so that there is no gap', async () => {
    const noGrace = { ...world, graceDays: 0 }
    at('2026-03-10T10:00:00Z')
    await pay(await begin('pam'), noGrace)
    const { paidUntil, until } = (await held('pam'))!
    expect(until).toEqual(paidUntil)
    at('2026-04-10T08:30:00Z')
    expect(await renewDue(site.db, noGrace)).toBe(1)
    await sendDueNotices(
      site.db,
      async ({ id, reference, kind }) => void (await takeNotice(site.db, noGrace, { id, reference, kind })),
    )
    expect((await held('pam'))!.paidUntil).toEqual(new Date('2026-05-10T09:00:00Z'))
    // A server that was down over the end still renews what has just ended.
    at('2026-05-10T12:00:00Z')
    expect(await renewDue(site.db, noGrace)).toBe(1)
    await sendDueNotices(
      site.db,
      async ({ id, reference, kind }) => void (await takeNotice(site.db, noGrace, { id, reference, kind })),
    )
    expect((await held('pam'))!.paidUntil).toEqual(new Date('2026-06-10T09:00:00Z'))
  })

  it('of what is sold no more stops, and gives nothing for nothing', async () => {
    await renewing('rue', '2026-03-10T10:00:00Z')
    at('2026-04-10T10:30:00Z')
    expect(await renewDue(site.db, withLevel('maker', { price: undefined }))).toBe(0)
    expect(await held('rue')).toMatchObject({ renews: false, until: new Date('2026-04-10T09:00:00Z') })
  })
})
