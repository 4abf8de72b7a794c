/** Levels people hold: bought through the payment provider, renewed, changed, ended. Nothing is ever struck out: what ended stays as history. */
import { and, asc, desc, eq, gt, isNull, lte, or, sql } from 'drizzle-orm'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { heldUntil } from '../../../core/memberships/membership-span'
import { afterNotice } from '../../../core/memberships/payment-state'
import type { NoticeKind } from '../../../core/memberships/payment-state'
import { endOf, quoteFor } from '../../../core/memberships/quote'
import type { BoughtNow, NoQuote, Quote } from '../../../core/memberships/quote'
import { clockDate, clockMs } from '../../clock'
import type { Database, Tx } from '../../db/database'
import { membership, paymentNotice, person, purchase } from '../../db/schema'
import { Problem } from '../../problem'
import { mailWritten, siteAddress, writeMail } from '../mail/mail'
import { newId } from '../entrance/tokens'
import { leaveTrace } from '../trace'
import type { Actor } from '../trace'

export type MembershipRow = typeof membership.$inferSelect
export type PurchaseRow = typeof purchase.$inferSelect
/** What selling needs to know of the live rules and settings. */
export interface SaleWorld { book: Rulebook, timezone: string, graceDays: number }

const provider: Actor = { id: null, name: 'payment provider' }

/** Everything somebody holds or held, newest first. */
export async function membershipsOf(db: Tx, personId: string): Promise<MembershipRow[]> {
  return db.select().from(membership).where(eq(membership.personId, personId)).orderBy(desc(membership.since), desc(membership.id))
}

const runs = (now: Date) => and(lte(membership.since, now), or(isNull(membership.until), gt(membership.until, now)))

async function boughtRows(tx: Tx, personId: string): Promise<MembershipRow[]> {
  return tx.select().from(membership).where(and(eq(membership.personId, personId), eq(membership.source, 'bought'), runs(clockDate()))).orderBy(asc(membership.since))
}

const boughtNow = (row: MembershipRow): BoughtNow => ({ level: row.level, paidFrom: (row.paidFrom ?? row.since).getTime(), paidUntil: row.paidUntil?.getTime() ?? null, paid: row.paidAmount ?? 0 })

export async function quote(db: Tx, world: SaleWorld, personId: string, target: string): Promise<Quote | NoQuote> {
  const held = (await boughtRows(db, personId)).map(boughtNow)
  return quoteFor({ levels: world.book.levels ?? [], held, target, nowMs: clockMs(), timezone: world.timezone })
}

/**
 * Begins to buy a level. A change downwards is only booked, for the end of
 * what is paid; everything else goes to the payment provider.
 * `agreed` is the amount the person saw: another one by now is told, not taken.
 */
export async function buy(db: Database, world: SaleWorld, who: Actor & { id: string }, target: string, agreed: number): Promise<{ booked: Date } | { reference: string }> {
  return db.transaction(async (tx) => {
    await tx.execute(sql`select 1 from person where id = ${who.id} for update`)
    const asked = await quote(tx, world, who.id, target)
    if (typeof asked === 'string') throw new Problem('not-for-sale', asked === 'not-for-sale' ? 'This level cannot be bought.' : 'You hold this for good.')
    if (asked.amount !== agreed) throw new Problem('changed-meanwhile', 'The price changed while you were looking. Look again before you pay.')
    if (asked.sort === 'downgrade') return { booked: await bookDowngrade(tx, world, who, target, asked) }
    const reference = newId('pay', 16)
    await tx.insert(purchase).values({ reference, personId: who.id, level: target, sort: asked.sort, amount: asked.amount, credit: asked.credit, createdAt: clockDate() })
    await leaveTrace(tx, who, 'purchase.begin', `purchase ${reference}`, { level: target, sort: asked.sort, amount: asked.amount })
    return { reference }
  })
}

async function bookDowngrade(tx: Tx, world: SaleWorld, who: Actor & { id: string }, target: string, asked: Quote): Promise<Date> {
  const row = (await boughtRows(tx, who.id)).find(one => one.paidUntil?.getTime() === asked.startsAt)
  if (!row) throw new Problem('changed-meanwhile')
  const until = heldUntil({ paidUntil: asked.startsAt, renews: true, graceDays: world.graceDays })!
  await tx.update(membership).set({ renews: true, renewAs: target, until: new Date(until) }).where(eq(membership.id, row.id))
  await leaveTrace(tx, who, 'membership.downgrade', `person ${who.id}`, { from: row.level, to: target })
  return new Date(asked.startsAt)
}

/** Stops or takes up again that a level goes on by itself. */
export async function setRenewal(db: Database, world: SaleWorld, who: Actor & { id: string }, membershipId: number, renews: boolean): Promise<void> {
  await db.transaction(async (tx) => {
    const row = (await boughtRows(tx, who.id)).find(one => one.id === membershipId)
    if (!row?.paidUntil) throw new Problem('not-found')
    const until = heldUntil({ paidUntil: row.paidUntil.getTime(), renews, graceDays: world.graceDays })!
    await tx.update(membership).set({ renews, renewAs: null, until: new Date(Math.max(until, clockMs())) }).where(eq(membership.id, row.id))
    await leaveTrace(tx, who, renews ? 'membership.renew' : 'membership.stop-renewal', `person ${who.id}`, { level: row.level })
  })
}

export interface Notice { /** The provider's own id of this notice. */ id: string, reference: string, kind: NoticeKind }
export interface NoticeTaken { personId: string | null, level: string, effect: 'grant' | 'withdraw' | null, first: boolean }

/** Takes a notice about a payment: twice counts once, and the order does not matter. */
export async function takeNotice(db: Database, world: SaleWorld, notice: Notice): Promise<NoticeTaken> {
  return db.transaction(async (tx) => {
    const [row] = await tx.select().from(purchase).where(eq(purchase.reference, notice.reference)).for('update')
    if (!row) throw new Problem('not-found', 'No purchase has this reference.')
    const fresh = await tx.insert(paymentNotice).values(notice).onConflictDoNothing().returning({ id: paymentNotice.id })
    if (!fresh.length) return { personId: row.personId, level: row.level, effect: null, first: false }
    const { state, effect } = afterNotice(row.state, notice.kind)
    await tx.update(purchase).set({ state, settledAt: clockDate() }).where(eq(purchase.reference, row.reference))
    if (effect === 'grant') await grant(tx, world, row)
    if (effect === 'withdraw') await withdraw(tx, row)
    await leaveTrace(tx, provider, `purchase.${notice.kind}`, `purchase ${row.reference}`, { notice: notice.id, effect })
    return { personId: row.personId, level: row.level, effect, first: true }
  })
}

async function grant(tx: Tx, world: SaleWorld, row: PurchaseRow): Promise<void> {
  const level = world.book.levels?.find(one => one.id === row.level)
  if (!level || !row.personId) return
  const held = await boughtRows(tx, row.personId)
  const same = row.sort === 'renewal' ? held.find(one => one.level === row.level || one.renewAs === row.level) : undefined
  // The next period begins where the last one ended, however late the money comes.
  const startMs = same?.paidUntil?.getTime() ?? clockMs()
  const paidUntil = endOf(level, startMs, world.timezone)
  const renews = paidUntil !== null
  const until = heldUntil({ paidUntil, renews, graceDays: world.graceDays })
  const paid = { paidFrom: new Date(startMs), paidUntil: paidUntil === null ? null : new Date(paidUntil), paidAmount: row.amount + row.credit, renews, renewAs: null, until: until === null ? null : new Date(until) }
  if (same?.level === row.level) {
    await tx.update(membership).set(paid).where(eq(membership.id, same.id))
    await tx.update(purchase).set({ membershipId: same.id }).where(eq(purchase.reference, row.reference))
    return
  }
  const replaced = same ? [same] : row.sort === 'upgrade' ? held : []
  for (const one of replaced) await tx.update(membership).set({ until: new Date(startMs), renews: false, endedBy: same ? 'downgrade' : 'upgrade' }).where(eq(membership.id, one.id))
  const [made] = await tx.insert(membership).values({ personId: row.personId, level: row.level, since: new Date(startMs), grantedBy: 'purchase', source: 'bought', ...paid }).returning({ id: membership.id })
  await tx.update(purchase).set({ membershipId: made!.id }).where(eq(purchase.reference, row.reference))
}

/** Money given back takes what it bought: a renewal's period, or the membership itself. */
async function withdraw(tx: Tx, row: PurchaseRow): Promise<void> {
  const [held] = row.membershipId === null ? [] : await tx.select().from(membership).where(eq(membership.id, row.membershipId))
  if (!held) return
  const end = row.sort === 'renewal' && held.paidFrom ? Math.max(held.paidFrom.getTime(), clockMs()) : clockMs()
  await tx.update(membership).set({ until: new Date(Math.max(end, held.since.getTime())), paidUntil: new Date(end), renews: false, endedBy: 'refund' }).where(eq(membership.id, held.id))
}

export async function purchaseOf(db: Tx, reference: string): Promise<PurchaseRow | undefined> {
  return (await db.select().from(purchase).where(eq(purchase.reference, reference)))[0]
}

export const purchasesOf = (db: Tx, personId: string) => db.select().from(purchase).where(eq(purchase.personId, personId)).orderBy(desc(purchase.createdAt))

/** Hours before a declined renewal is tried again. */
const retryHours = 24

/**
 * Renewals that are due: each asks the provider for the next period. Answers
 * the notices the stand-in sends back; run by a job, safe to run twice.
 */
export async function renewDue(db: Database, world: SaleWorld): Promise<Notice[]> {
  const now = clockDate()
  const due = await db.select({ row: membership, cardAnswer: person.cardAnswer }).from(membership).innerJoin(person, eq(membership.personId, person.id))
    .where(and(eq(membership.renews, true), lte(membership.paidUntil, now), runs(now))).limit(500)
  const notices: Notice[] = []
  for (const { row, cardAnswer } of due) {
    const reference = await db.transaction(tx => beginRenewal(tx, world, row))
    if (reference) notices.push({ id: newId('notice', 16), reference, kind: cardAnswer === 'approve' ? 'paid' : 'declined' })
  }
  return notices
}

async function beginRenewal(tx: Tx, world: SaleWorld, { id }: MembershipRow): Promise<string | null> {
  const [row] = await tx.select().from(membership).where(eq(membership.id, id)).for('update')
  if (!row?.renews || !row.paidUntil || row.paidUntil.getTime() > clockMs()) return null
  const target = row.renewAs ?? row.level
  const level = world.book.levels?.find(one => one.id === target)
  if (!level) return null
  const recent = await tx.select({ reference: purchase.reference }).from(purchase).where(and(eq(purchase.personId, row.personId), eq(purchase.level, target), eq(purchase.sort, 'renewal'), gt(purchase.createdAt, new Date(clockMs() - retryHours * 3_600_000))))
  if (recent.length) return null
  const reference = newId('pay', 16)
  await tx.insert(purchase).values({ reference, personId: row.personId, level: target, sort: 'renewal', amount: level.price?.amount ?? 0, membershipId: row.id, createdAt: clockDate() })
  return reference
}

/** Tells a person that a renewal did not go through, and until when they keep what they have. */
export async function tellDeclined(db: Database, world: SaleWorld, reference: string): Promise<void> {
  const row = await purchaseOf(db, reference)
  if (!row?.personId || row.sort !== 'renewal') return
  const [who] = await db.select().from(person).where(eq(person.id, row.personId))
  const held = (await boughtRows(db, row.personId)).find(one => one.level === row.level || one.renewAs === row.level)
  if (!who || !held?.until) return
  const name = world.book.levels?.find(one => one.id === row.level)?.name ?? row.level
  const until = held.until.toLocaleString('en-GB', { timeZone: world.timezone, dateStyle: 'long', timeStyle: 'short' })
  await mailWritten(await writeMail(db, { text: 'payment-declined', to: who.email, values: { name: who.name, what: name, until, link: `${siteAddress()}/account/buy?level=${encodeURIComponent(row.level)}` } }))
}
