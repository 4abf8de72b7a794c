/** Levels somebody bought and holds, with what was paid for them, purchase by purchase. */
import { and, asc, desc, eq, gt, inArray, isNull, lte, or } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { PaidPeriod } from '../../../core/memberships/paid-period'
import type { BoughtNow } from '../../../core/memberships/quote'
import { clockDate } from '../../clock'
import type { AnyDb } from '../../db/database'
import { membership, purchase } from '../../db/schema'

export type MembershipRow = typeof membership.$inferSelect
export type PurchaseRow = typeof purchase.$inferSelect

const runs = (now: Date) => and(lte(membership.since, now), or(isNull(membership.until), gt(membership.until, now)))

/** What is held as bought; default: now. */
export async function boughtRows(tx: AnyDb, personId: string, where: SQL | undefined = runs(clockDate())) {
  const rows = await tx
    .select()
    .from(membership)
    .where(and(eq(membership.personId, personId), eq(membership.source, 'bought'), where))
    .orderBy(asc(membership.since))
  const paid = await periodsOf(tx, rows)
  return rows.map(row => ({ ...row, now: boughtNow(row, paid.get(row.id) ?? []) }))
}

const boughtNow = (row: MembershipRow, periods: readonly PaidPeriod[]): BoughtNow => ({
  level: row.level,
  paidUntil: row.paidUntil?.getTime() ?? null,
  anchorDay: row.anchorDay,
  // Of before purchases were kept, or brought in from elsewhere, the row itself says what was paid.
  periods: periods.length
    ? periods
    : [
        {
          reference: '',
          from: (row.paidFrom ?? row.since).getTime(),
          until: row.paidUntil?.getTime() ?? null,
          paid: row.paidAmount ?? 0,
        },
      ],
})

/** What paid purchases brought, by membership. */
async function periodsOf(tx: AnyDb, rows: readonly MembershipRow[]): Promise<Map<number, PaidPeriod[]>> {
  const found = new Map<number, PaidPeriod[]>()
  if (!rows.length) return found
  const paid = await tx
    .select()
    .from(purchase)
    .where(
      and(
        inArray(
          purchase.membershipId,
          rows.map(row => row.id),
        ),
        eq(purchase.state, 'paid'),
      ),
    )
    .orderBy(asc(purchase.grantedFrom))
  for (const one of paid) {
    const period = periodOf(one)
    if (period) found.set(one.membershipId!, [...(found.get(one.membershipId!) ?? []), period])
  }
  return found
}

/** Null of a purchase that has brought nothing yet. */
export const periodOf = ({ reference, grantedFrom, grantedUntil, worth, amount }: PurchaseRow): PaidPeriod | null =>
  grantedFrom && {
    reference,
    from: grantedFrom.getTime(),
    until: grantedUntil?.getTime() ?? null,
    paid: worth ?? amount,
  }

export async function purchaseOf(db: AnyDb, reference: string): Promise<PurchaseRow | undefined> {
  return (await db.select().from(purchase).where(eq(purchase.reference, reference)))[0]
}

export const purchasesOf = (db: AnyDb, personId: string) =>
  db.select().from(purchase).where(eq(purchase.personId, personId)).orderBy(desc(purchase.createdAt))
