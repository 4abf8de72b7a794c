/** What a bought level gives, for how long, and how that is taken back. */
import { and, asc, eq, gt, isNotNull, isNull, or, sql } from 'drizzle-orm'
import { grantingOf } from '../../../core/memberships/granting'
import type { Bought, Granting, Held } from '../../../core/memberships/granting'
import { heldUntil } from '../../../core/memberships/membership-span'
import { withdrawnFrom } from '../../../core/memberships/paid-period'
import type { PaidPurchase } from '../../../core/memberships/paid-period'
import { periodOf as lengthOf } from '../../../core/memberships/quote'
import { clockDate, clockMs } from '../../clock'
import type { Tx } from '../../db/database'
import { membership, purchase } from '../../db/schema'
import { boughtRows, periodOf } from './held'
import type { PurchaseRow } from './held'
import { forGood, levelIn } from './memberships'
import type { SaleWorld } from './memberships'

const hasNotEnded = (now: Date) => or(isNull(membership.until), gt(membership.until, now))

/** The person is locked. False where there is nothing to give: the level is gone or held for good, and the money is to be given back by hand. */
export async function grant(tx: Tx, world: SaleWorld, row: PurchaseRow): Promise<boolean> {
  const level = levelIn(world.book, row.level)
  if (!level || !row.personId) return false
  // A purchase of before periods were kept goes by what the level costs now; where it costs nothing any more it has no length.
  const period = row.period ?? (level.price ? (lengthOf(level) ?? forGood) : null)
  if (period === null) return false
  const now = clockDate()
  const goesOn =
    row.membershipId === null ? undefined : and(eq(membership.id, row.membershipId), eq(membership.renews, true))
  const rows = await boughtRows(tx, row.personId, or(hasNotEnded(now), goesOn))
  const held: Held[] = rows.map(one => ({
    ...one.now,
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
      worth: granted.paid,
      credits: granted.credits.filter(one => one.reference !== ''),
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
      period: lengthOf(found) ?? forGood,
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
  const row = await lockedPurchase(tx, reference)
  if (row?.state !== 'paid') return
  await tx.update(purchase).set({ state: 'refunded', settledAt: clockDate() }).where(eq(purchase.reference, reference))
  await withdraw(tx, row)
}

/**
 * Money given back takes what it bought: as much time as it brought, from the end of what is paid, and what its money was
 * credited to is shorter by that part. No end that has passed or was taken is moved, and none is moved later.
 */
export async function withdraw(tx: Tx, row: PurchaseRow): Promise<void> {
  if (!row.personId) return
  const paid = await tx
    .select()
    .from(purchase)
    .where(
      and(
        eq(purchase.personId, row.personId),
        isNotNull(purchase.grantedFrom),
        or(eq(purchase.state, 'paid'), eq(purchase.reference, row.reference)),
      ),
    )
    .orderBy(asc(purchase.grantedFrom))
  const known = paid.flatMap((one): PaidPurchase[] => {
    const period = periodOf(one)
    return period ? [{ ...period, membership: one.membershipId, credits: one.credits }] : []
  })
  const { purchases, sooner } = withdrawnFrom(known, row.reference)
  for (const one of purchases)
    await tx
      .update(purchase)
      .set({
        grantedFrom: new Date(one.from),
        grantedUntil: one.until === null ? null : new Date(one.until),
        worth: one.paid,
        credits: [...one.credits],
      })
      .where(eq(purchase.reference, one.reference))
  for (const [id, length] of sooner) await endSooner(tx, id, length, id === row.membershipId)
}

/** `length` null: at once. `isItsOwn`: it is what the money that went back had bought, which goes on by itself no more. */
async function endSooner(tx: Tx, id: number, length: number | null, isItsOwn: boolean): Promise<void> {
  const [held] = await tx.select().from(membership).where(eq(membership.id, id)).for('update')
  const now = clockMs()
  if (!held || (held.until && held.until.getTime() <= now)) return
  const left = length === null || !held.paidUntil ? now : held.paidUntil.getTime() - length
  const paidUntil = Math.max(left, now, held.since.getTime())
  const before = held.until?.getTime() ?? Number.POSITIVE_INFINITY
  const grace = held.paidUntil && held.until ? Math.max(0, before - held.paidUntil.getTime()) : 0
  const until = Math.min(before, isItsOwn ? paidUntil : paidUntil + grace)
  await tx
    .update(membership)
    .set({
      until: new Date(until),
      paidUntil: new Date(Math.min(paidUntil, held.paidUntil?.getTime() ?? paidUntil)),
      ...(isItsOwn ? { renews: false, endedBy: 'refund' } : {}),
    })
    .where(eq(membership.id, id))
}

export async function lockedPurchase(tx: Tx, reference: string): Promise<PurchaseRow | undefined> {
  return (await tx.select().from(purchase).where(eq(purchase.reference, reference)).for('update'))[0]
}
