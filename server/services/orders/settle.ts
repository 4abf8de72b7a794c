/** What becomes of an order as the payment provider tells of it: paid, declined, given back; twice, late, or of another sum. */
import { and, desc, eq, inArray, isNull, sql } from 'drizzle-orm'
import type { NoticeBecame } from '../../../core/payments/money-table'
import type { AnyDb, Tx } from '../../db/database'
import { inOneTurn, savepoint } from '../../db/turn'
import { orderLine, paymentNotice, person, shopOrder } from '../../db/schema'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import { isSettled, noteNotice, noticeBecame, outstanding, wentOut } from '../payments/ledger'
import type { MoneyBackRow, TakenNotice } from '../payments/ledger'
import { provider } from '../payments/provider'
import { moveOrder } from './moves'
import type { OrderRow } from '../papers/order-row'
import type { OrderWorld } from './world'

/** What is to be written down once it is through. */
export interface OrderSettled {
  order: OrderRow
  effect: 'paid' | 'refunded' | null
}

export async function orderOfReference(db: AnyDb, reference: string): Promise<OrderRow | null> {
  const [row] = await db.select().from(shopOrder).where(eq(shopOrder.reference, reference))
  return row ?? null
}

/** Takes a notice about an order: twice counts once, and nothing is paid but by the sum that was asked. Null where there is no such order. */
export async function takeOrderNotice(db: AnyDb, world: OrderWorld, notice: TakenNotice): Promise<OrderSettled | null> {
  return inOneTurn(db, async tx => {
    const known = await orderOfReference(tx, notice.reference)
    if (!known) return null
    await lockPeople(tx, known)
    const [order] = await tx.select().from(shopOrder).where(eq(shopOrder.id, known.id)).for('update')
    const asked = notice.kind === 'paid' ? order!.gross : null
    if (!(await noteNotice(tx, notice, asked))) return { order: order!, effect: null }
    const taken = { tx, world, order: order!, notice }
    const became = await (notice.kind === 'paid'
      ? takePaid(taken)
      : notice.kind === 'refunded'
        ? takeBack(taken)
        : 'declined')
    await noticeBecame(tx, notice.id, became)
    const effect = became === 'settled' ? 'paid' : became === 'back' ? 'refunded' : null
    await leaveTrace(tx, provider, `order.${notice.kind}`, `order ${order!.number}`, {
      notice: notice.id,
      became,
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

interface Taken {
  tx: Tx
  world: OrderWorld
  order: OrderRow
  notice: TakenNotice
}

async function takePaid({ tx, world, order, notice }: Taken): Promise<NoticeBecame> {
  const [came, asked] = [notice.amount ?? order.gross, order.gross]
  const isAgain = order.paidAt !== null || (await isSettled(tx, order.reference))
  if (isAgain || came !== asked) {
    const told = isAgain
      ? `Paid ${world.money(came)} besides the ${world.money(asked)}.`
      : `Paid ${world.money(came)} instead of ${world.money(asked)}.`
    await moveOrder({ tx, world, order, told }, 'paidBesides')
    return 'besides'
  }
  // All of what follows, or none: what cannot be had any more is undone alone.
  const gone = await savepoint(tx, inner => paidFully({ tx: inner, world, order })).then(() => null, goneOf(order))
  if (gone === null) return 'settled'
  const told = `Paid ${world.money(came)} after it was given up, and it cannot be had as it was agreed any more: ${gone}`
  await moveOrder({ tx, world, order, told }, 'paidGone')
  return 'besides'
}

/** Why it is not to be had; whatever else went wrong goes on as it was. */
const goneOf =
  ({ state }: OrderRow) =>
  (error: unknown): string => {
    if (state !== 'givenUp' || !(error instanceof Problem)) throw error
    return error.message
  }

/** Everything that follows from an order being paid; it is locked, and so are the people it concerns. */
export async function paidFully(of: { tx: Tx; world: OrderWorld; order: OrderRow }): Promise<OrderRow> {
  const order = await moveOrder(of, 'paid')
  // Of what is not sent nobody has anything to pack.
  return order.frozen.delivery ? order : moveOrder({ ...of, order }, 'nothingToSend')
}

async function takeBack({ tx, world, order, notice }: Taken): Promise<NoticeBecame> {
  const back = await outstanding(tx, notice)
  if (!back) {
    const amount = notice.amount === undefined ? 'Money' : world.money(notice.amount)
    const told = `${amount} given back by the payment provider, which nobody here asked for.`
    await moveOrder({ tx, world, order, told }, 'backUnasked')
    return 'unasked'
  }
  await wentOut(tx, back)
  if (back.of === 'goods') await goodsWentBack({ tx, world, order }, back)
  return 'back'
}

async function goodsWentBack(of: { tx: Tx; world: OrderWorld; order: OrderRow }, back: MoneyBackRow): Promise<void> {
  const isWhole = of.order.refunded + back.gross === of.order.gross
  await moveOrder({ ...of, back }, isWhole ? 'backWhole' : 'backInPart')
}

/** Orders that were placed with an address before it was somebody's: theirs once a link mailed to it was followed. */
export async function adoptOrders(tx: AnyDb, { id }: { id: string }): Promise<void> {
  const [who] = await tx
    .select({ email: person.email, provenAt: person.provenAt })
    .from(person)
    .where(eq(person.id, id))
  if (!who?.provenAt) return
  const mine = and(isNull(shopOrder.personId), sql`lower(${shopOrder.email}) = ${who.email.toLowerCase()}`)
  if (await tx.$count(shopOrder, mine)) await tx.update(shopOrder).set({ personId: id }).where(mine)
}

/** What the provider told last of a payment. */
export async function lastNotice(db: AnyDb, reference: string): Promise<string | null> {
  const [row] = await db
    .select({ kind: paymentNotice.kind })
    .from(paymentNotice)
    .where(eq(paymentNotice.reference, reference))
    .orderBy(desc(paymentNotice.receivedAt))
    .limit(1)
  return row?.kind ?? null
}
