/** Levels people hold: bought through the payment provider, renewed, changed, ended. Nothing is ever struck out: what ended stays as history. */
import { levelCalledIn } from '../../../core/rulebook/public-name'
import { and, asc, desc, eq, gt, isNull, lte, or, sql } from 'drizzle-orm'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { heldUntil } from '../../../core/memberships/membership-span'
import { afterNotice } from '../../../core/memberships/payment-state'
import type { NoticeKind } from '../../../core/memberships/payment-state'
import { grantingOf } from '../../../core/memberships/granting'
import type { Bought, Granting, Held } from '../../../core/memberships/granting'
import { periodOf, quoteFor } from '../../../core/memberships/quote'
import type { BoughtNow, NoQuote, Quote } from '../../../core/memberships/quote'
import { clockDate, clockMs } from '../../clock'
import type { Database, Tx } from '../../db/database'
import { membership, noticeDue, paymentNotice, person, purchase } from '../../db/schema'
import { logFault } from '../../log'
import { Problem } from '../../problem'
import { mailWritten, siteAddress, writeMail } from '../mail/mail'
import { newId } from '../secrets/tokens'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

export type MembershipRow = typeof membership.$inferSelect
export type PurchaseRow = typeof purchase.$inferSelect
/** What selling needs to know of the live rules and settings. */
export interface SaleWorld {
  book: Rulebook
  timezone: string
  graceDays: number
}

const provider: Actor = { id: null, name: 'payment provider' }

/** Everything somebody holds or held, newest first. */
export async function membershipsOf(db: Tx, personId: string): Promise<MembershipRow[]> {
  return db
    .select()
    .from(membership)
    .where(eq(membership.personId, personId))
    .orderBy(desc(membership.since), desc(membership.id))
}

const runs = (now: Date) => and(lte(membership.since, now), or(isNull(membership.until), gt(membership.until, now)))
const hasNotEnded = (now: Date) => or(isNull(membership.until), gt(membership.until, now))

async function boughtRows(tx: Tx, personId: string): Promise<MembershipRow[]> {
  return tx
    .select()
    .from(membership)
    .where(and(eq(membership.personId, personId), eq(membership.source, 'bought'), runs(clockDate())))
    .orderBy(asc(membership.since))
}

const boughtNow = (row: MembershipRow): BoughtNow => ({
  level: row.level,
  paidFrom: (row.paidFrom ?? row.since).getTime(),
  paidUntil: row.paidUntil?.getTime() ?? null,
  paid: row.paidAmount ?? 0,
  anchorDay: row.anchorDay,
})

export async function quote(db: Tx, world: SaleWorld, personId: string, target: string): Promise<Quote | NoQuote> {
  const held = (await boughtRows(db, personId)).map(boughtNow)
  return quoteFor({ levels: world.book.levels ?? [], held, target, nowMs: clockMs(), timezone: world.timezone })
}

/** One at a time of everything that changes what a person holds by paying. */
export const lockPerson = (tx: Tx, personId: string) =>
  tx.execute(sql`select 1 from person where id = ${personId} for update`)

/** A purchase is kept for this long; then the price may be another. */
const purchaseHours = 1
const forGood = 'once'

const refusalOf = (none: NoQuote) =>
  none === 'not-for-sale' ? new Problem('level-not-sold') : new Problem('held-for-good')

/**
 * Begins to buy a level. A change downwards is only booked, for the end of
 * what is paid; everything else goes to the payment provider.
 * `agreed` is the amount the person saw: another one by now is told, not taken.
 */
export async function buy(
  db: Database,
  world: SaleWorld,
  who: Actor & { id: string },
  target: string,
  agreed: number,
): Promise<{ booked: Date } | { reference: string }> {
  return db.transaction(async tx => {
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
    await tx.insert(purchase).values({
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
    await leaveTrace(tx, who, 'purchase.begin', `purchase ${reference}`, {
      level: target,
      sort: asked.sort,
      amount: asked.amount,
    })
    return { reference }
  })
}

const levelIn = (book: Rulebook, id: string) => book.levels?.find(one => one.id === id)

/** The period a purchase is begun with; throws where the level is not for sale. */
function periodFor(book: Rulebook, id: string): string {
  const level = levelIn(book, id)
  if (!level?.price) throw refusalOf('not-for-sale')
  return periodOf(level) ?? forGood
}

/** Why a purchase at the till cannot be paid as it is; undefined where it can. Price and period are asked for again. */
export async function staleness(
  db: Tx,
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
  db: Database,
  world: SaleWorld,
  who: Actor & { id: string },
  membershipId: number,
  renews: boolean,
): Promise<void> {
  await db.transaction(async tx => {
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

export interface Notice {
  /** The provider's own id of this notice. */ id: string
  reference: string
  kind: NoticeKind
}
export interface NoticeTaken {
  personId: string | null
  level: string
  effect: 'grant' | 'withdraw' | null
  first: boolean
}

/** Takes a notice about a payment: twice counts once, and the order does not matter. */
export async function takeNotice(db: Database, world: SaleWorld, notice: Notice): Promise<NoticeTaken> {
  return db.transaction(async tx => {
    const [known] = await tx
      .select({ personId: purchase.personId })
      .from(purchase)
      .where(eq(purchase.reference, notice.reference))
    if (known?.personId) await lockPerson(tx, known.personId)
    const [row] = await tx.select().from(purchase).where(eq(purchase.reference, notice.reference)).for('update')
    if (!row) throw new Problem('no-such-purchase')
    const fresh = await tx
      .insert(paymentNotice)
      .values(notice)
      .onConflictDoNothing()
      .returning({ id: paymentNotice.id })
    if (!fresh.length) return { personId: row.personId, level: row.level, effect: null, first: false }
    const after = afterNotice(row.state, notice.kind)
    await tx
      .update(purchase)
      .set({ state: after.state, settledAt: clockDate() })
      .where(eq(purchase.reference, row.reference))
    const given = after.effect !== 'grant' || (await grant(tx, world, row))
    const effect = given ? after.effect : null
    if (effect === 'withdraw') await withdraw(tx, row)
    await leaveTrace(tx, provider, `purchase.${notice.kind}`, `purchase ${row.reference}`, {
      notice: notice.id,
      effect,
      ...(given ? {} : { nothingToGive: true }),
    })
    return { personId: row.personId, level: row.level, effect, first: true }
  })
}

/** The person is locked. False where there is nothing to give: the level is gone or held for good, and the money is to be given back by hand. */
async function grant(tx: Tx, world: SaleWorld, row: PurchaseRow): Promise<boolean> {
  const level = levelIn(world.book, row.level)
  if (!level || !row.personId) return false
  // A purchase of before periods were kept goes by what the level costs now; where it costs nothing any more it has no length.
  const period = row.period ?? (level.price ? (periodOf(level) ?? forGood) : null)
  if (period === null) return false
  const now = clockDate()
  const rows = await tx
    .select()
    .from(membership)
    .where(
      and(
        eq(membership.personId, row.personId),
        eq(membership.source, 'bought'),
        or(
          hasNotEnded(now),
          row.membershipId === null ? undefined : and(eq(membership.id, row.membershipId), eq(membership.renews, true)),
        ),
      ),
    )
  const held: Held[] = rows.map(one => ({
    ...boughtNow(one),
    id: one.id,
    since: one.since.getTime(),
    renewAs: one.renewAs,
    anchorDay: one.anchorDay,
  }))
  const ranks = new Map((world.book.levels ?? []).map(one => [one.id, one.rank]))
  const bought: Bought = {
    level: row.level,
    price: row.price ?? row.amount + row.credit,
    amount: row.amount,
    credit: row.credit,
    period: period === forGood ? null : period,
    begunAt: row.createdAt.getTime(),
    from: row.membershipId,
  }
  const granted = grantingOf({
    bought,
    held,
    rankOf: id => ranks.get(id) ?? 0,
    nowMs: now.getTime(),
    timezone: world.timezone,
  })
  if (!granted) return false
  const membershipId = await keepGranted(tx, world, row, granted)
  await tx
    .update(purchase)
    .set({
      membershipId,
      grantedFrom: new Date(granted.startsAt),
      grantedUntil: granted.endsAt === null ? null : new Date(granted.endsAt),
    })
    .where(eq(purchase.reference, row.reference))
  return true
}

async function keepGranted(
  tx: Tx,
  world: SaleWorld,
  row: PurchaseRow,
  { startsAt, endsAt, paid, anchorDay, ends, extends: extended }: Granting,
): Promise<number> {
  const renews = endsAt !== null
  const until = heldUntil({ paidUntil: endsAt, renews, graceDays: world.graceDays })
  const values = {
    paidFrom: new Date(startsAt),
    paidUntil: endsAt === null ? null : new Date(endsAt),
    paidAmount: paid,
    anchorDay,
    renews,
    renewAs: null,
    until: until === null ? null : new Date(until),
  }
  if (extended !== undefined) {
    await tx.update(membership).set(values).where(eq(membership.id, extended))
    return extended
  }
  const endedBy = row.sort === 'renewal' ? 'downgrade' : 'upgrade'
  for (const id of ends)
    await tx
      .update(membership)
      .set({ until: sql`greatest(${new Date(startsAt).toISOString()}::timestamptz, since)`, renews: false, endedBy })
      .where(eq(membership.id, id))
  const [made] = await tx
    .insert(membership)
    .values({
      personId: row.personId!,
      level: row.level,
      since: new Date(startsAt),
      grantedBy: 'purchase',
      source: 'bought',
      ...values,
    })
    .returning({ id: membership.id })
  return made!.id
}

/**
 * A level that was paid for otherwise, as with goods: given as a purchase of it that is paid, which goes on by itself
 * no further. The person is locked. Answers the purchase; null where there is nothing to give.
 */
export async function giveBought(
  tx: Tx,
  world: SaleWorld,
  { personId, level, amount, reference }: { personId: string; level: string; amount: number; reference: string },
): Promise<string | null> {
  const found = levelIn(world.book, level)
  if (!found) return null
  const [row] = await tx
    .insert(purchase)
    .values({
      reference,
      personId,
      level,
      sort: 'new',
      amount,
      price: amount,
      period: periodOf(found) ?? forGood,
      state: 'paid',
      byItself: true,
      createdAt: clockDate(),
      settledAt: clockDate(),
    })
    .onConflictDoNothing()
    .returning()
  if (!row) return reference
  if (!(await grant(tx, world, row))) {
    await tx.delete(purchase).where(eq(purchase.reference, reference))
    return null
  }
  await tx
    .update(membership)
    .set({ renews: false, until: sql`paid_until` })
    .where(eq(membership.id, sql`(select membership_id from purchase where reference = ${reference})`))
  return reference
}

/** Takes back what such a purchase brought. The person is locked. */
export async function takeBackBought(tx: Tx, reference: string): Promise<void> {
  const [row] = await tx.select().from(purchase).where(eq(purchase.reference, reference)).for('update')
  if (row?.state !== 'paid') return
  await tx.update(purchase).set({ state: 'refunded', settledAt: clockDate() }).where(eq(purchase.reference, reference))
  await withdraw(tx, row)
}

/** Money given back takes what it bought: as much time as it brought, from the end of what is paid. */
async function withdraw(tx: Tx, row: PurchaseRow): Promise<void> {
  const [held] =
    row.membershipId === null ? [] : await tx.select().from(membership).where(eq(membership.id, row.membershipId))
  if (!held) return
  const brought = row.grantedFrom && row.grantedUntil ? row.grantedUntil.getTime() - row.grantedFrom.getTime() : null
  const left =
    brought !== null && held.paidUntil
      ? held.paidUntil.getTime() - brought
      : row.sort === 'renewal' && held.paidFrom && brought === null
        ? held.paidFrom.getTime()
        : clockMs()
  const end = Math.max(left, clockMs(), held.since.getTime())
  await tx
    .update(membership)
    .set({ until: new Date(end), paidUntil: new Date(end), renews: false, endedBy: 'refund' })
    .where(eq(membership.id, held.id))
}

export async function purchaseOf(db: Tx, reference: string): Promise<PurchaseRow | undefined> {
  return (await db.select().from(purchase).where(eq(purchase.reference, reference)))[0]
}

export const purchasesOf = (db: Tx, personId: string) =>
  db.select().from(purchase).where(eq(purchase.personId, personId)).orderBy(desc(purchase.createdAt))

/** Hours before a declined renewal is tried again, and after the end that one without grace is still tried. */
const retryHours = 24
/** Without grace a renewal begins this much before the end, or there would be a gap until it is through. */
const aheadMs = 3_600_000
const dueAtOnce = 500

/** Renewals that are due begin: each asks the provider for the next period, in the transaction that writes the asking down. Safe to run twice, and at once. Answers how many began. */
export async function renewDue(db: Database, world: SaleWorld): Promise<number> {
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
    begun += await db
      .transaction(tx => beginRenewal(tx, world, one))
      .then(Number, error => {
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
  await tx
    .insert(noticeDue)
    .values({ id: newId('notice', 16), reference, kind: who?.cardAnswer === 'approve' ? 'paid' : 'declined' })
  return true
}

/** Purchases nobody paid in time are closed, so that they count as begun no longer. */
export async function closeExpired(db: Tx): Promise<void> {
  await db
    .update(purchase)
    .set({ state: 'expired' })
    .where(and(eq(purchase.state, 'pending'), eq(purchase.byItself, false), lte(purchase.expiresAt, clockDate())))
}

/** Tells a person that a renewal did not go through, and until when they keep what they have. */
export async function tellDeclined(db: Database, world: SaleWorld, reference: string): Promise<void> {
  const row = await purchaseOf(db, reference)
  if (!row?.personId || row.sort !== 'renewal') return
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
