import { eq } from 'drizzle-orm'
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import type { CompiledRules } from '../../core/gates/compiled'
import type { Connection } from '../../server/db/database'
import { mailOut, membership, noticeDue, person } from '../../server/db/schema'
import { Problem } from '../../server/problem'
import { buy, membershipsOf, quote, renewDue, setRenewal } from '../../server/services/memberships/memberships'
import { refundLevel, takeNotice } from '../../server/services/memberships/purchases'
import { purchaseOf, purchasesOf } from '../../server/services/memberships/held'
import { takeHolding } from '../../server/services/people/holdings'
import { sumsOf } from '../../server/services/payments/ledger'
import { sendDueNotices } from '../../server/services/payments/stand-in'
import type { SaleWorld } from '../../server/services/memberships/memberships'
import { asSystem, removeEntry } from '../../server/services/editions/entries'
import { publish } from '../../server/services/editions/publish'
import { forgetContents } from '../../server/services/versions/versions'
import { newId } from '../../server/services/secrets/tokens'
import { visitorOf } from '../../server/services/standing/visitor-of'
import { freshDatabase } from '../support/database'
import { ines, liveRules, saleWorldOf, snapshotOf } from '../support/world'

let site: Connection & { url: string }
let rules: CompiledRules
let world: SaleWorld
beforeAll(async () => {
  site = await freshDatabase('demo')
  rules = await liveRules(site)
  world = saleWorldOf(rules)
})
afterAll(() => site.close())
afterEach(() => {
  vi.useRealTimers()
})
const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'none',
    (error: unknown) => (error instanceof Problem ? error.code : String(error)),
  )

/** Moves the clock of this process; timers go on as they are. */
const at = (iso: string) => vi.useFakeTimers({ toFake: ['Date'], now: new Date(iso) })
const who = async (id: string) => {
  await site.db
    .insert(person)
    .values({ id, name: id, email: `${id}@buy.example`, confirmedAt: new Date(), approvedAt: new Date() })
    .onConflictDoNothing()
  return { id, name: id }
}
const notice = (reference: string, kind: 'paid' | 'declined' | 'refunded', id = newId('notice')) =>
  takeNotice(site.db, world, { id, reference, kind })
/** Begins to buy for the price the person is shown, and answers the purchase's reference. */
async function begin(id: string, level: string): Promise<string> {
  const asked = await quote(site.db, world, id, level)
  const done = await buy(site.db, world, await who(id), level, typeof asked === 'object' ? asked.amount : -1)
  if (!('reference' in done)) throw new Error('booked, not bought')
  return done.reference
}
/** Begins what is due and takes every notice that waits, as the job does, without HTTP. Answers how many were taken. */
async function renew(): Promise<number> {
  await renewDue(site.db, world)
  return sendDueNotices(
    site.db,
    async ({ id, reference, kind }) => void (await takeNotice(site.db, world, { id, reference, kind })),
  )
}
async function holds(id: string): Promise<string[]> {
  const decider = new CompiledDecider(
    rules,
    { ...(await visitorOf(site.db, id)), request: { at: new Date().toISOString() } },
    Date.now(),
  )
  return [...decider.asker.levels.keys()].sort()
}
const current = async (id: string, level: string) =>
  (await membershipsOf(site.db, id)).find(row => row.level === level)!

describe('buying a level', () => {
  it('holds once the provider says so, until the exact end of what is paid', async () => {
    at('2026-01-31T10:00:00Z')
    const reference = await begin('ann', 'maker')
    expect(await holds('ann')).toEqual([])
    expect(await notice(reference, 'paid')).toMatchObject({ effect: 'grant', first: true })
    expect(await holds('ann')).toEqual(['maker'])
    await setRenewal(site.db, world, await who('ann'), (await current('ann', 'maker')).id, false)
    at('2026-02-28T09:59:59.999Z')
    expect(await holds('ann')).toEqual(['maker'])
    at('2026-02-28T10:00:00Z')
    expect(await holds('ann')).toEqual([])
  })

  it('takes notices twice and out of order without doing anything twice', async () => {
    at('2026-03-01T10:00:00Z')
    const reference = await begin('bea', 'maker')
    expect((await notice(reference, 'declined')).effect).toBeNull()
    expect((await notice(reference, 'paid', 'n-1')).effect).toBe('grant')
    expect(await notice(reference, 'paid', 'n-1')).toMatchObject({ effect: null, first: false })
    expect((await notice(reference, 'declined')).effect).toBeNull()
    expect((await membershipsOf(site.db, 'bea')).length).toBe(1)
    expect((await notice(reference, 'refunded')).effect).toBe('withdraw')
    expect((await notice(reference, 'paid', 'n-late')).effect).toBeNull()
    expect([await holds('bea'), (await membershipsOf(site.db, 'bea'))[0]!.endedBy]).toEqual([[], 'refund'])
    const early = await begin('bea', 'maker')
    expect((await notice(early, 'refunded')).effect).toBeNull()
    expect((await notice(early, 'paid')).effect).toBeNull()
    expect(await codeOf(notice('pay-nothing', 'paid'))).toBe('not-found')
    // Two notices at once: the purchase is locked, so one of them grants.
    const twice = await begin('bea', 'maker')
    const effects = (await Promise.all([notice(twice, 'paid', 'a'), notice(twice, 'paid', 'b')])).map(one => one.effect)
    expect(effects.filter(Boolean)).toEqual(['grant'])
  })

  it('goes up at once with the unused part taken off, and down at the end of what is paid', async () => {
    at('2026-04-01T00:00:00Z')
    await notice(await begin('cat', 'maker'), 'paid')
    at('2026-04-16T00:00:00Z')
    expect(await quote(site.db, world, 'cat', 'guild')).toMatchObject({ sort: 'upgrade', credit: 300, amount: 8100 })
    expect(await codeOf(buy(site.db, world, await who('cat'), 'guild', 8400))).toBe('changed-meanwhile')
    await notice(await begin('cat', 'guild'), 'paid')
    expect(await holds('cat')).toEqual(['guild'])
    expect((await current('cat', 'maker')).endedBy).toBe('upgrade')
    const guild = await current('cat', 'guild')
    expect(await buy(site.db, world, await who('cat'), 'maker', 0)).toEqual({ booked: guild.paidUntil })
    at('2027-04-16T00:01:00Z')
    expect(await holds('cat')).toEqual(['guild'])
    await renew()
    expect(await holds('cat')).toEqual(['maker'])
    expect(await current('cat', 'maker')).toMatchObject({ since: guild.paidUntil, paidAmount: 600 })
    expect(await codeOf(buy(site.db, world, await who('cat'), 'friend', 0))).toBe('not-for-sale')
  })

  it('is not pulled away from under a buyer: the level stays until it is settled', async () => {
    at('2026-05-01T10:00:00Z')
    const own = await freshDatabase('demo')
    await own.db.execute(
      "delete from membership; delete from version where kind = 'gate' or kind = 'audience' or kind = 'tier' or kind = 'landing' or kind = 'offer'",
    )
    forgetContents()
    await own.db.insert(person).values({ id: 'dot', name: 'Dot', email: 'dot@buy.example' })
    const ownWorld = { ...world, book: (await liveRules(own)).rulebook }
    const versions = await own.sql`select id, revision from version where kind = 'level' and key = 'guild'`
    const expects = { id: Number(versions[0]!.id), revision: Number(versions[0]!.revision) }
    const begun = await buy(own.db, ownWorld, { id: 'dot', name: 'Dot' }, 'guild', 8400)
    expect(
      await codeOf(removeEntry(own.db, { permit: asSystem, kind: 'level', key: 'guild', expects, actor: ines })),
    ).toBe('in-use')
    await takeNotice(own.db, ownWorld, {
      id: 'n',
      reference: 'reference' in begun ? begun.reference : '',
      kind: 'declined',
    })
    await removeEntry(own.db, { permit: asSystem, kind: 'level', key: 'guild', expects, actor: ines })
    // Begun between the draft and the publication: the edition waits.
    await buy(own.db, ownWorld, { id: 'dot', name: 'Dot' }, 'guild', 8400)
    expect(await codeOf(publish(own.db, { authorise: asSystem, note: '', expects: 1, actor: ines }))).toBe('in-use')
    await own.close()
  })
})

describe('money given back for a level', () => {
  afterEach(() => site.db.update(membership).set({ renews: false }))
  const paid = async (id: string, level: string) => {
    const reference = await begin(id, level)
    await notice(reference, 'paid')
    return reference
  }
  const ends = async (id: string, level: string) => (await current(id, level)).until?.toISOString()

  it('moves no end later that staff had taken, or that has passed', async () => {
    at('2026-11-01T10:00:00Z')
    const [first, second] = [await paid('gus', 'maker'), await paid('gus', 'maker')]
    at('2026-11-03T10:00:00Z')
    const { id } = await current('gus', 'maker')
    await takeHolding(
      site.db,
      { rights: { personId: 'ines', masterKey: true, rules: [] }, snapshot: snapshotOf(rules) },
      'gus',
      { membership: id },
      ines,
    )
    at('2026-11-05T10:00:00Z')
    for (const reference of [first, second]) await notice(reference, 'refunded')
    expect([await holds('gus'), await ends('gus', 'maker')]).toEqual([[], '2026-11-03T10:00:00.000Z'])
  })

  it('counts three months paid ahead as three, credited and given back', async () => {
    at('2026-04-01T00:00:00Z')
    const months = [await paid('hal', 'maker'), await paid('hal', 'maker'), await paid('hal', 'maker')]
    at('2026-04-16T00:00:00Z')
    const asked = await quote(site.db, world, 'hal', 'guild')
    // Half of April, and May and June.
    expect(asked).toMatchObject({ sort: 'upgrade', credit: 300 + 600 + 600, amount: 6900 })
    await paid('hal', 'guild')
    const before = (await current('hal', 'guild')).paidUntil!.getTime()
    for (const reference of months) await notice(reference, 'refunded')
    const guild = await current('hal', 'guild')
    const [left, whole] = [guild.paidUntil!.getTime() - Date.now(), before - Date.now()]
    expect(await holds('hal')).toEqual(['guild'])
    expect(Math.abs(left - (whole * 6900) / 8400)).toBeLessThan(1000)
    // The rest goes back, and nothing is held.
    const [purchase] = await purchasesOf(site.db, 'hal')
    await notice(purchase!.reference, 'refunded')
    expect(await holds('hal')).toEqual([])
  })

  it('of one month of three leaves two, of which the used part is used', async () => {
    at('2026-04-01T00:00:00Z')
    const [first] = [await paid('ivy', 'maker'), await paid('ivy', 'maker'), await paid('ivy', 'maker')]
    at('2026-04-11T00:00:00Z')
    await notice(first, 'refunded')
    expect(await ends('ivy', 'maker')).toBe('2026-06-01T00:00:00.000Z')
    expect(await quote(site.db, world, 'ivy', 'guild')).toMatchObject({ credit: 600 + 400 + 6 })
  })

  it('goes out once by whichever way it is asked, and with its order where it came with one', async () => {
    at('2026-06-01T10:00:00Z')
    const reference = await paid('jan', 'maker')
    const { number } = (await purchaseOf(site.db, reference))!
    const ask = () => site.db.transaction(tx => refundLevel(tx, number, ines))
    expect(await Promise.all([ask(), ask(), ask()])).toEqual([{ gross: 600 }, { gross: 600 }, { gross: 600 }])
    const due = await site.db.delete(noticeDue).where(eq(noticeDue.reference, reference)).returning()
    expect(due.map(one => one.amount)).toEqual([600])
    for (const { id, refund, amount } of due)
      await takeNotice(site.db, world, { id, reference, kind: 'refunded', refund: refund!, amount: amount! })
    expect([await holds('jan'), await sumsOf(site.db, reference)]).toEqual([[], { in: 600, asked: 600, out: 600 }])
    expect(await codeOf(ask())).toBe('none')
    // A sum that was not asked is kept for staff, and gives nothing.
    const other = await begin('kai', 'maker')
    await takeNotice(site.db, world, { id: newId('notice'), reference: other, kind: 'paid', amount: 599 })
    expect(await holds('kai')).toEqual([])
    await notice(other, 'paid')
    await notice(other, 'paid')
    expect([await holds('kai'), await sumsOf(site.db, other)]).toEqual([['maker'], { in: 1799, asked: 0, out: 0 }])
  })
})

describe('renewal', () => {
  it('goes on from where it ended, month by month, and keeps the history', async () => {
    at('2026-01-31T10:00:00Z')
    await notice(await begin('eve', 'maker'), 'paid')
    const ends: string[] = []
    for (const now of ['2026-02-28T10:05:00Z', '2026-03-31T12:00:00Z', '2026-05-01T00:00:00Z']) {
      at(now)
      expect(await renewDue(site.db, world)).toBe(1)
      await renew()
      ends.push((await current('eve', 'maker')).paidUntil!.toISOString())
    }
    // Summer time begins on 29 March: the hour on the wall stays, not the hour of UTC; and so does the end of the month.
    expect(ends).toEqual(['2026-03-31T09:00:00.000Z', '2026-04-30T09:00:00.000Z', '2026-05-31T09:00:00.000Z'])
    expect((await membershipsOf(site.db, 'eve'))[0]!.since.toISOString()).toBe('2026-01-31T10:00:00.000Z')
  })

  it('that is declined leaves the days of grace, tells the person, and then ends', async () => {
    at('2026-06-01T10:00:00Z')
    await notice(await begin('fay', 'maker'), 'paid')
    await site.db.update(person).set({ cardAnswer: 'decline' }).where(eq(person.id, 'fay'))
    at('2026-07-01T10:00:01Z')
    expect(await renewDue(site.db, world)).toBe(1)
    const declined = await site.db.delete(noticeDue).returning()
    expect(declined).toHaveLength(1)
    await takeNotice(site.db, world, {
      id: declined[0]!.id,
      reference: declined[0]!.reference,
      kind: declined[0]!.kind,
    })
    const [mail] = await site.db.select().from(mailOut).where(eq(mailOut.recipient, 'fay@buy.example'))
    expect(mail).toMatchObject({
      text: 'payment-declined',
      values: { what: 'Maker', until: expect.stringContaining('8 July 2026') as string },
    })
    at('2026-07-08T09:59:59Z')
    expect(await holds('fay')).toEqual(['maker'])
    at('2026-07-08T10:00:00Z')
    expect(await holds('fay')).toEqual([])
    expect(await renewDue(site.db, world)).toBe(0)
  })
})
