/** What becomes of buying a level as the payment provider tells of it, and of the time that was paid for. */
import { and, asc, desc, eq, gt, isNotNull, isNull, or, sql } from 'drizzle-orm'
import { grantingOf } from '../../../core/memberships/granting'
import type { Bought, Granting, Held } from '../../../core/memberships/granting'
import { heldUntil } from '../../../core/memberships/membership-span'
import { withdrawnFrom } from '../../../core/memberships/paid-period'
import type { PaidPurchase } from '../../../core/memberships/paid-period'
import { periodOf as lengthOf } from '../../../core/memberships/quote'
import { purchaseStep } from '../../../core/payments/money-table'
import type { NoticeBecame, PurchaseEffect, PurchaseEvent, PurchaseState } from '../../../core/payments/money-table'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { membership, moneyBack, orderLine, purchase, shopOrder } from '../../db/schema'
import { inOneTurn } from '../../db/turn'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import {
  askMoneyBack,
  askedBefore,
  isSettled,
  noteNotice,
  noticeBecame,
  outstanding,
  wentOut,
} from '../payments/ledger'
import type { TakenNotice } from '../payments/ledger'
import { provider } from '../payments/provider'
import { boughtRows, lockPerson, periodOf, purchaseOf } from './held'
import type { PurchaseRow } from './held'
import { forGood, levelIn, tellDeclined } from './memberships'
import type { SaleWorld } from './memberships'

export interface NoticeTaken {
  personId: string | null
  level: string
  effect: 'grant' | 'withdraw' | null
  first: boolean
}

/** Takes a notice about a payment: twice counts once, and the order does not matter. */
export async function takeNotice(db: AnyDb, world: SaleWorld, notice: TakenNotice): Promise<NoticeTaken> {
  return inOneTurn(db, async tx => {
    const known = await purchaseOf(tx, notice.reference)
    if (known?.personId) await lockPerson(tx, known.personId)
    const row = await lockedPurchase(tx, notice.reference)
    if (!row) throw new Problem('no-such-purchase')
    const { personId, level } = row
    if (!(await noteNotice(tx, notice, notice.kind === 'declined' ? null : row.amount)))
      return { personId, level, effect: null, first: false }
    const taken = { tx, world, row, notice }
    const became = await (notice.kind === 'paid'
      ? takePaid(taken)
      : notice.kind === 'refunded'
        ? takeBack(taken)
        : takeDeclined(taken))
    await noticeBecame(tx, notice.id, became)
    const after = await purchaseOf(tx, row.reference)
    const effect =
      row.state !== 'paid' && after!.state === 'paid'
        ? ('grant' as const)
        : row.state === 'paid' && after!.state === 'refunded'
          ? ('withdraw' as const)
          : null
    await leaveTrace(tx, provider, `purchase.${notice.kind}`, `purchase ${row.number}`, { notice: notice.id, became })
    return { personId, level, effect, first: true }
  })
}

async function lockedPurchase(tx: Tx, reference: string): Promise<PurchaseRow | undefined> {
  return (await tx.select().from(purchase).where(eq(purchase.reference, reference)).for('update'))[0]
}

interface Taken {
  tx: Tx
  world: SaleWorld
  row: PurchaseRow
  notice: TakenNotice
}

async function takePaid({ tx, world, row, notice }: Taken): Promise<NoticeBecame> {
  // One that an order made was paid with the order.
  const isAgain = row.state === 'paid' || (await isSettled(tx, row.reference))
  if (isAgain || (notice.amount !== undefined && notice.amount !== row.amount)) {
    await move({ tx, world, row }, 'paidBesides')
    return 'besides'
  }
  if (await move({ tx, world, row }, 'paid')) return 'settled'
  await move({ tx, world, row }, 'paidGone')
  return row.state === 'refunded' ? 'settled' : 'besides'
}

async function takeDeclined({ tx, world, row }: Taken): Promise<NoticeBecame> {
  await move({ tx, world, row }, 'declined')
  await tellDeclined(tx, world, row)
  return 'declined'
}

async function takeBack({ tx, world, row, notice }: Taken): Promise<NoticeBecame> {
  const back = await outstanding(tx, notice)
  if (back) await wentOut(tx, back)
  if (back?.of === 'besides') return 'back'
  await move({ tx, world, row }, back ? 'back' : 'backUnasked')
  return back ? 'back' : 'unasked'
}

interface Move {
  tx: Tx
  world: SaleWorld
  row: PurchaseRow
}

/** Does all that follows; false where there was nothing to give, and nothing is changed. */
async function move(of: Move, event: PurchaseEvent): Promise<boolean> {
  const { tx, row } = of
  const step = purchaseStep(row.state, event)
  if (!step) return false
  for (const effect of step.does) if (!(await effects[effect](of))) return false
  if (step.to !== row.state)
    await tx
      .update(purchase)
      .set({ state: step.to, settledAt: clockDate() })
      .where(eq(purchase.reference, row.reference))
  return true
}

const done = async () => true
const effects: Record<PurchaseEffect, (of: Move) => Promise<boolean>> = {
  grant: ({ tx, world, row }) => grant(tx, world, row),
  withdraw: async ({ tx, row }) => {
    await withdraw(tx, row)
    return true
  },
  // Staff find it in the ledger.
  keepMoney: done,
  tellStaff: done,
  // Asked in `refundLevel`, with what is asked for.
  askBack: done,
}

const hasNotEnded = (now: Date) => or(isNull(membership.until), gt(membership.until, now))

/** The person is locked. False where there is nothing to give: the level is gone or held for good, and the money is to be given back by hand. */
async function grant(tx: Tx, world: SaleWorld, row: PurchaseRow): Promise<boolean> {
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
async function withdraw(tx: Tx, row: PurchaseRow): Promise<void> {
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

/**
 * Gives back what was paid for a level; asked twice it goes out once. Throws where it is not paid, where it came with an
 * order, which gives it back itself, and where it has gone back.
 */
export async function refundLevel(tx: Tx, number: number, actor: Actor): Promise<{ gross: number }> {
  const [known] = await tx.select().from(purchase).where(eq(purchase.number, number))
  if (!known) throw new Problem('no-such-purchase')
  if (known.personId) await lockPerson(tx, known.personId)
  const row = (await lockedPurchase(tx, known.reference))!
  const order = await orderThatMade(tx, row.reference)
  if (order !== null) throw new Problem('refunded-with-order', { number: order })
  const request = `level ${row.number}`
  const before = await askedBefore(tx, request)
  if (before) return { gross: before.gross }
  if (!purchaseStep(row.state, 'backAsked')) throw new Problem('not-paid')
  const { gross } = await askMoneyBack(tx, {
    reference: row.reference,
    of: 'level',
    gross: row.amount,
    why: '',
    request,
    actor,
  })
  await leaveTrace(tx, actor, 'purchase.refund', `purchase ${row.number}`, { gross })
  return { gross }
}

/** The number of the order a purchase came with; null of one that was paid by itself. */
export async function orderThatMade(tx: AnyDb, reference: string): Promise<number | null> {
  const [row] = await tx
    .select({ number: shopOrder.number })
    .from(orderLine)
    .innerJoin(shopOrder, eq(shopOrder.id, orderLine.orderId))
    .where(eq(orderLine.purchase, reference))
  return row?.number ?? null
}

/** What somebody paid for levels, as staff are told of it. */
export interface PaidTold {
  number: number
  level: string
  amount: number
  state: PurchaseState
  createdAt: string
  /** The number of the order it came with. */ order: number | null
  /** Asked back, and not told to be out yet. */ asked: boolean
}

export async function paidBy(db: AnyDb, personId: string): Promise<PaidTold[]> {
  const rows = await db
    .select({ bought: purchase, order: shopOrder.number, back: moneyBack.id })
    .from(purchase)
    .leftJoin(orderLine, eq(orderLine.purchase, purchase.reference))
    .leftJoin(shopOrder, eq(shopOrder.id, orderLine.orderId))
    .leftJoin(
      moneyBack,
      and(eq(moneyBack.reference, purchase.reference), eq(moneyBack.of, 'level'), isNull(moneyBack.doneAt)),
    )
    .where(eq(purchase.personId, personId))
    .orderBy(desc(purchase.createdAt))
  return rows.map(({ bought: { number, level, amount, state, createdAt }, order, back }) => ({
    number,
    level,
    amount,
    state,
    createdAt: createdAt.toISOString(),
    order,
    asked: back !== null,
  }))
}
