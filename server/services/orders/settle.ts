/** What becomes of an order as the payment provider tells of it: paid, declined, given back; twice, late, or of another sum. */
import { and, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm'
import type { NoticeKind } from '../../../core/memberships/payment-state'
import { clockDate } from '../../clock'
import type { Database, Tx } from '../../db/database'
import { orderLine, orderRefund, paymentNotice, person, shopOrder } from '../../db/schema'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { mailWritten, siteAddress, writeMail } from '../mail/mail'
import { takeBackBought } from '../memberships/memberships'
import type { SaleWorld } from '../memberships/memberships'
import { putBack, takeStock } from './held-stock'
import { giveLine, sendGift } from './gifts'
import { issueCredit, issueInvoice } from '../papers/invoices'
import type { Seller } from '../papers/invoices'
import type { OrderRow } from './place'

const provider: Actor = { id: null, name: 'payment provider' }

export interface OrderNotice {
  /** The provider's own id of this notice. */ id: string
  reference: string
  kind: NoticeKind
  /** Minor units. */ amount?: number | undefined
  /** Which of our refunds it is about. */ refund?: number | undefined
}

/** What settling needs to know of the live rules and settings. */
export interface OrderWorld extends SaleWorld {
  seller: Seller
  money(minor: number): string
}

/** What is to be written down once it is through. */
export interface OrderSettled {
  order: OrderRow
  effect: 'paid' | 'refunded' | null
}

export async function orderOfReference(db: Tx, reference: string): Promise<OrderRow | null> {
  const [row] = await db.select().from(shopOrder).where(eq(shopOrder.reference, reference))
  return row ?? null
}

/** Takes a notice about an order: twice counts once, and nothing is paid but by the sum that was asked. Null where there is no such order. */
export async function takeOrderNotice(
  db: Database,
  world: OrderWorld,
  notice: OrderNotice,
): Promise<OrderSettled | null> {
  return db.transaction(async tx => {
    const known = await orderOfReference(tx, notice.reference)
    if (!known) return null
    await lockPeople(tx, known)
    const [order] = await tx.select().from(shopOrder).where(eq(shopOrder.id, known.id)).for('update')
    const fresh = await tx
      .insert(paymentNotice)
      .values({ id: notice.id, reference: notice.reference, kind: notice.kind })
      .onConflictDoNothing()
      .returning({ id: paymentNotice.id })
    if (!fresh.length) return { order: order!, effect: null }
    const effect = await effectOf(tx, world, order!, notice)
    await leaveTrace(tx, provider, `order.${notice.kind}`, `order ${order!.number}`, {
      notice: notice.id,
      effect,
      ...(notice.amount === undefined ? {} : { amount: notice.amount }),
    })
    return { order: order!, effect }
  })
}

/** Everybody whose standing it may change, before the order itself: as whoever buys is locked first, too. */
async function lockPeople(tx: Tx, order: OrderRow): Promise<void> {
  const given = await tx.select({ id: orderLine.givenTo }).from(orderLine).where(eq(orderLine.orderId, order.id))
  const ids = [...new Set([order.personId, ...given.map(one => one.id)])].filter(id => id !== null).sort()
  if (ids.length)
    await tx.select({ id: person.id }).from(person).where(inArray(person.id, ids)).orderBy(person.id).for('update')
}

async function effectOf(
  tx: Tx,
  world: OrderWorld,
  order: OrderRow,
  notice: OrderNotice,
): Promise<OrderSettled['effect']> {
  if (notice.kind === 'declined') return null
  if (notice.kind === 'paid') return (await settlePaid(tx, world, order, notice.amount)) ? 'paid' : null
  return (await settleRefund(tx, world, order, notice)) ? 'refunded' : null
}

/** Behind what is there already: nobody has seen to that yet. */
async function setTrouble(tx: Tx, { id, trouble: before }: OrderRow, told: string): Promise<void> {
  if (before?.includes(told)) return
  const trouble = before ? `${before} ${told}` : told
  await tx.update(shopOrder).set({ trouble }).where(eq(shopOrder.id, id))
}

async function settlePaid(tx: Tx, world: OrderWorld, order: OrderRow, amount: number | undefined): Promise<boolean> {
  const isSettled = order.state !== 'placed' && order.state !== 'givenUp'
  if (amount !== undefined && amount !== order.gross) {
    const [paid, asked] = [world.money(amount), world.money(order.gross)]
    await setTrouble(tx, order, isSettled ? `Paid ${paid} besides the ${asked}.` : `Paid ${paid} instead of ${asked}.`)
    return false
  }
  if (isSettled) return false
  await payOrder(tx, world, order)
  return true
}

/** Everything that follows from an order being paid; it is locked, and so are the people it concerns. */
export async function payOrder(tx: Tx, world: OrderWorld, order: OrderRow): Promise<void> {
  const lines = await tx.select().from(orderLine).where(eq(orderLine.orderId, order.id)).orderBy(orderLine.position)
  const short = await takeStock(tx, order, lines)
  const trouble = short.length
    ? `Sold more than there was of ${short.map(id => order.frozen.titles[id] ?? id).join(', ')}.`
    : null
  // Of what is not sent nobody has anything to pack.
  const state = order.frozen.delivery ? 'paid' : 'sent'
  await tx
    .update(shopOrder)
    .set({ state, paidAt: clockDate(), ...(trouble ? { trouble } : {}) })
    .where(eq(shopOrder.id, order.id))
  const made = await issueInvoice(tx, order, world.seller)
  if (order.frozen.gift) await sendGift(tx, order, lines)
  else if (order.personId) for (const line of lines) await giveLine(tx, world, line, order.personId)
  await mailWritten(
    await writeMail(tx, {
      text: 'order-paid',
      to: order.email,
      values: {
        name: order.name,
        number: String(order.number),
        amount: world.money(order.gross),
        invoice: made.number,
        link: orderLink(order),
      },
    }),
  )
}

export const orderLink = ({ id }: Pick<OrderRow, 'id'>) => `${siteAddress()}/order/${id}`

async function settleRefund(tx: Tx, world: OrderWorld, order: OrderRow, notice: OrderNotice): Promise<boolean> {
  const [refund] = await tx
    .select()
    .from(orderRefund)
    .where(and(eq(orderRefund.id, notice.refund ?? 0), eq(orderRefund.orderId, order.id)))
    .for('update')
  if (!refund) {
    const amount = notice.amount === undefined ? 'Money' : world.money(notice.amount)
    await setTrouble(tx, order, `${amount} given back by the payment provider, which nobody here asked for.`)
    return false
  }
  if (refund.doneAt) return false
  if (notice.amount !== undefined && notice.amount !== refund.gross) {
    await setTrouble(tx, order, `Gave back ${world.money(notice.amount)} instead of ${world.money(refund.gross)}.`)
    return false
  }
  await tx.update(orderRefund).set({ doneAt: clockDate() }).where(eq(orderRefund.id, refund.id))
  const refunded = order.refunded + refund.gross
  const isWhole = refunded === order.gross
  await tx
    .update(shopOrder)
    .set({ refunded, ...(isWhole ? { state: 'refunded' } : {}) })
    .where(eq(shopOrder.id, order.id))
  await takeBack(
    tx,
    order,
    refund.body.lines.map(one => one.position),
  )
  if (refund.body.restock) await putBack(tx, order, piecesBack(order, refund.body))
  const made = await issueCredit(tx, order, refund, world.seller)
  await mailWritten(
    await writeMail(tx, {
      text: 'order-refunded',
      to: order.email,
      values: {
        name: order.name,
        number: String(order.number),
        amount: world.money(refund.gross),
        invoice: made.number,
        link: orderLink(order),
      },
    }),
  )
  return true
}

const piecesBack = ({ frozen }: OrderRow, { lines }: { lines: { position: number; pieces: number }[] }) => {
  const taken = frozen.basket.lines.filter(line => !('refused' in line))
  return lines.map(({ position, pieces }) => ({ product: taken[position]!.product, quantity: pieces }))
}

/** What lines gave that are given back wholly. */
async function takeBack(tx: Tx, order: OrderRow, positions: readonly number[]): Promise<void> {
  if (!positions.length) return
  const lines = await tx
    .select()
    .from(orderLine)
    .where(
      and(eq(orderLine.orderId, order.id), inArray(orderLine.position, [...positions]), isNotNull(orderLine.givenTo)),
    )
  for (const line of lines) {
    if (line.refundedPieces < line.quantity) continue
    if (line.purchase) await takeBackBought(tx, line.purchase)
  }
}

/** Orders that were placed with an address before it was somebody's: theirs from when they are known to have it. */
export async function adoptOrders(tx: Tx, { id, email }: { id: string; email: string }): Promise<void> {
  const mine = and(isNull(shopOrder.personId), sql`lower(${shopOrder.email}) = ${email.toLowerCase()}`)
  if (await tx.$count(shopOrder, mine)) await tx.update(shopOrder).set({ personId: id }).where(mine)
}

/** What the provider told last of a payment. */
export async function lastNotice(db: Tx, reference: string): Promise<string | null> {
  const [row] = await db
    .select({ kind: paymentNotice.kind })
    .from(paymentNotice)
    .where(eq(paymentNotice.reference, reference))
    .orderBy(desc(paymentNotice.receivedAt))
    .limit(1)
  return row?.kind ?? null
}

/** An order of nothing to pay is paid as soon as it is placed. */
export async function settleFree(db: Database, world: OrderWorld, id: string): Promise<void> {
  await db.transaction(async tx => {
    const [known] = await tx.select().from(shopOrder).where(eq(shopOrder.id, id))
    if (!known) return
    await lockPeople(tx, known)
    const [order] = await tx.select().from(shopOrder).where(eq(shopOrder.id, id)).for('update')
    if (order?.state === 'placed' && order.gross === 0) await payOrder(tx, world, order)
  })
}
