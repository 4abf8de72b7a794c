/** Levels people hold: bought through the payment provider, renewed, changed, ended. Nothing is ever struck out: what ended stays as history. */
import { lockPerson } from '../../db/lock-person'
import { inTransaction } from '../../db/turn'
import { levelCalledIn } from '../../../core/rulebook/public-name'
import { and, asc, desc, eq, gt, isNull, lte, or, sql } from 'drizzle-orm'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { heldUntil } from '../../../core/memberships/membership-span'
import { periodOf, quoteFor } from '../../../core/memberships/quote'
import type { NoQuote, Quote } from '../../../core/memberships/quote'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { membership, noticeDue, person, purchase } from '../../db/schema'
import { logFault } from '../../log'
import { Problem } from '../../problem'
import { mailWritten, siteAddress, writeMail } from '../mail/mail'
import { provider } from '../payments/provider'
import { newId } from '../secrets/tokens'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { boughtRows } from './held'
import type { MembershipRow, PurchaseRow } from './held'

/** What selling needs to know of the live rules and settings. */
export interface SaleWorld {
  book: Rulebook
  timezone: string
  graceDays: number
}

/** Everything somebody holds or held, newest first. */
export async function membershipsOf(db: AnyDb, personId: string): Promise<MembershipRow[]> {
  return db
    .select()
    .from(membership)
    .where(eq(membership.personId, personId))
    .orderBy(desc(membership.since), desc(membership.id))
}

export async function quote(db: AnyDb, world: SaleWorld, personId: string, target: string): Promise<Quote | NoQuote> {
  const held = (await boughtRows(db, personId)).map(one => one.now)
  return quoteFor({ levels: world.book.levels ?? [], held, target, nowMs: clockMs(), timezone: world.timezone })
}

/** A purchase is kept for this long; then the price may be another. */
const purchaseHours = 1
/** Of a purchase without an end. */
export const forGood = 'once'

const refusalOf = (none: NoQuote) =>
  none === 'not-for-sale' ? new Problem('level-not-sold') : new Problem('held-for-good')

/**
 * Begins to buy a level. A change downwards is only booked, for the end of
 * what is paid; everything else goes to the payment provider.
 * `agreed` is the amount the person saw: another one by now is told, not taken.
 */
export async function buy(
  db: AnyDb,
  world: SaleWorld,
  who: Actor & { id: string },
  target: string,
  agreed: number,
): Promise<{ booked: Date } | { reference: string }> {
  return inTransaction(db, async tx => {
    await lockPerson(tx, who.id)
    const asked = await quote(tx, world, who.id, target)
    if (typeof asked === 'string') throw refusalOf(asked)
    if (asked.amount !== agreed) throw new Problem('price-changed')
    if (asked.sort === 'downgrade') return { booked: await bookDowngrade(tx, world, who, target, asked) }
    // A person pays one thing at a time: what was begun before is replaced.
    await tx
      .update(purchase)
      .set({ state: 'replaced' })
      .where(and(eq(purchase.personId, who.id), eq(purchase.state, 'pending'), eq(purchase.byItself, false)))
    const reference = newId('pay', 16)
    const now = clockMs()
    const begun = await tx
      .insert(purchase)
      .values({
        reference,
        personId: who.id,
        level: target,
        sort: asked.sort,
        amount: asked.amount,
        credit: asked.credit,
        price: asked.price,
        period: periodFor(world.book, target),
        createdAt: new Date(now),
        expiresAt: new Date(now + purchaseHours * 3_600_000),
      })
      .returning({ number: purchase.number })
    await leaveTrace(tx, who, 'purchase.begin', `purchase ${begun[0]!.number}`, {
      level: target,
      sort: asked.sort,
      amount: asked.amount,
    })
    return { reference }
  })
}

export const levelIn = (book: Rulebook, id: string) => book.levels?.find(one => one.id === id)

/** The period a purchase is begun with; throws where the level is not for sale. */
function periodFor(book: Rulebook, id: string): string {
  const level = levelIn(book, id)
  if (!level?.price) throw refusalOf('not-for-sale')
  return periodOf(level) ?? forGood
}

/** Why a purchase at the till cannot be paid as it is; undefined where it can. Price and period are asked for again. */
export async function staleness(
  db: AnyDb,
  world: SaleWorld,
  row: PurchaseRow,
): Promise<'settled' | 'replaced' | 'expired' | 'changed' | undefined> {
  if (row.state === 'replaced' || row.state === 'expired') return row.state
  if (row.state !== 'pending' && row.state !== 'declined') return 'settled'
  if (row.expiresAt && row.expiresAt.getTime() <= clockMs()) return 'expired'
  const asked = row.personId ? await quote(db, world, row.personId, row.level) : 'not-for-sale'
  if (
    typeof asked === 'string' ||
    asked.price !== row.price ||
    asked.sort !== row.sort ||
    periodFor(world.book, row.level) !== row.period
  )
    return 'changed'
  return undefined
}

async function bookDowngrade(
  tx: Tx,
  world: SaleWorld,
  who: Actor & { id: string },
  target: string,
  asked: Quote,
): Promise<Date> {
  const row = (await boughtRows(tx, who.id)).find(one => one.paidUntil?.getTime() === asked.startsAt)
  if (!row) throw new Problem('changed-meanwhile')
  const until = heldUntil({ paidUntil: asked.startsAt, renews: true, graceDays: world.graceDays })!
  await tx
    .update(membership)
    .set({ renews: true, renewAs: target, until: new Date(until) })
    .where(eq(membership.id, row.id))
  await leaveTrace(tx, who, 'membership.downgrade', `person ${who.id}`, { from: row.level, to: target })
  return new Date(asked.startsAt)
}

/** Stops or takes up again that a level goes on by itself. */
export async function setRenewal(
  db: AnyDb,
  world: SaleWorld,
  who: Actor & { id: string },
  membershipId: number,
  renews: boolean,
): Promise<void> {
  await inTransaction(db, async tx => {
    await lockPerson(tx, who.id)
    const row = (await boughtRows(tx, who.id)).find(one => one.id === membershipId)
    if (!row?.paidUntil) throw new Problem('not-found')
    const until = heldUntil({ paidUntil: row.paidUntil.getTime(), renews, graceDays: world.graceDays })!
    await tx
      .update(membership)
      .set({ renews, renewAs: null, until: new Date(Math.max(until, clockMs())) })
      .where(eq(membership.id, row.id))
    await leaveTrace(tx, who, renews ? 'membership.renew' : 'membership.stop-renewal', `person ${who.id}`, {
      level: row.level,
    })
  })
}

/** Hours before a declined renewal is tried again, and after the end that one without grace is still tried. */
const retryHours = 24
/** Without grace a renewal begins this much before the end, or there would be a gap until it is through. */
const aheadMs = 3_600_000
const dueAtOnce = 500

/** Renewals that are due begin: each asks the provider for the next period, in the transaction that writes the asking down. Safe to run twice, and at once. Answers how many began. */
export async function renewDue(db: AnyDb, world: SaleWorld): Promise<number> {
  const now = clockMs()
  const late = new Date(now - retryHours * 3_600_000)
  const due = await db
    .select({ id: membership.id, personId: membership.personId })
    .from(membership)
    .where(
      and(
        eq(membership.renews, true),
        lte(membership.paidUntil, new Date(now + (world.graceDays ? 0 : aheadMs))),
        or(
          isNull(membership.until),
          gt(membership.until, new Date(now)),
          and(lte(membership.until, membership.paidUntil), gt(membership.paidUntil, late)),
        ),
        sql`not exists (select 1 from purchase p where p.membership_id = ${membership.id} and p.by_itself and p.created_at > ${late.toISOString()}::timestamptz)`,
      ),
    )
    .orderBy(asc(membership.paidUntil))
    .limit(dueAtOnce)
  let begun = 0
  for (const one of due) {
    // One that fails is told of, and holds up no other.
    begun += await inTransaction(db, tx => beginRenewal(tx, world, one)).then(Number, error => {
      logFault('renewal', error)
      return 0
    })
  }
  return begun
}

async function beginRenewal(
  tx: Tx,
  world: SaleWorld,
  { id, personId }: { id: number; personId: string },
): Promise<boolean> {
  await lockPerson(tx, personId)
  const [row] = await tx.select().from(membership).where(eq(membership.id, id)).for('update')
  if (!row?.renews || !row.paidUntil || row.paidUntil.getTime() > clockMs() + aheadMs) return false
  const since = new Date(clockMs() - retryHours * 3_600_000)
  const recent = await tx
    .select({ reference: purchase.reference })
    .from(purchase)
    .where(and(eq(purchase.membershipId, id), eq(purchase.byItself, true), gt(purchase.createdAt, since)))
  // Somebody at the till pays for themselves.
  const atTill = await tx
    .select({ reference: purchase.reference })
    .from(purchase)
    .where(
      and(
        eq(purchase.personId, personId),
        eq(purchase.state, 'pending'),
        eq(purchase.byItself, false),
        gt(purchase.expiresAt, clockDate()),
      ),
    )
  if (recent.length || atTill.length) return false
  const target = row.renewAs ?? row.level
  const level = levelIn(world.book, target)
  if (!level?.price || periodOf(level) === null) {
    // What is sold no more, or for good only, is not given on for nothing.
    await tx
      .update(membership)
      .set({ renews: false, until: row.paidUntil, endedBy: 'not sold any more' })
      .where(eq(membership.id, id))
    await leaveTrace(tx, provider, 'membership.stop-renewal', `person ${personId}`, { level: target })
    return false
  }
  const reference = newId('pay', 16)
  await tx.insert(purchase).values({
    reference,
    personId,
    level: target,
    sort: 'renewal',
    amount: level.price.amount,
    price: level.price.amount,
    period: periodOf(level),
    membershipId: id,
    byItself: true,
    createdAt: clockDate(),
  })
  const [who] = await tx.select({ cardAnswer: person.cardAnswer }).from(person).where(eq(person.id, personId))
  await tx.insert(noticeDue).values({
    id: newId('notice', 16),
    reference,
    ...(who?.cardAnswer === 'approve' ? { kind: 'paid', amount: level.price.amount } : { kind: 'declined' }),
  })
  return true
}

/** Purchases nobody paid in time are closed, so that they count as begun no longer. */
export async function closeExpired(db: AnyDb): Promise<void> {
  await db
    .update(purchase)
    .set({ state: 'expired' })
    .where(and(eq(purchase.state, 'pending'), eq(purchase.byItself, false), lte(purchase.expiresAt, clockDate())))
}

/** Tells a person that a renewal did not go through, and until when they keep what they have. */
export async function tellDeclined(db: Tx, world: SaleWorld, row: PurchaseRow): Promise<void> {
  if (!row.personId || row.sort !== 'renewal') return
  const [who] = await db.select().from(person).where(eq(person.id, row.personId))
  const held = (await boughtRows(db, row.personId)).find(one => one.level === row.level || one.renewAs === row.level)
  if (!who || !held?.until) return
  const name = levelCalledIn(world.book.levels, row.level)
  const until = held.until.toLocaleString('en-GB', { timeZone: world.timezone, dateStyle: 'long', timeStyle: 'short' })
  await mailWritten(
    await writeMail(db, {
      text: 'payment-declined',
      to: who.email,
      values: {
        name: who.name,
        what: name,
        until,
        link: `${siteAddress()}/account/buy?level=${encodeURIComponent(row.level)}`,
      },
    }),
  )
}
