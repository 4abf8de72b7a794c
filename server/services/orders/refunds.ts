/** Giving money back: asked of the payment provider in the transaction that writes it down; it counts once that tells of it. */
import { and, eq, isNotNull, sql } from 'drizzle-orm'
import { z } from 'zod'
import { refundFor } from '../../../core/orders/refund'
import type { OrderToRefund, RefundBody } from '../../../core/orders/refund'
import { isTaxed } from '../../../core/tax/tax-trail'
import type { AnyDb, Tx } from '../../db/database'
import { orderLine, moneyBack, shopOrder } from '../../db/schema'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { askMoneyBack, askedBefore } from '../payments/ledger'
import { canHappen } from './moves'
import type { OrderRow } from '../papers/order-row'

export const toRefund = z.strictObject({
  /** Pieces of each line, by its place in the order from 0; left out, whatever was not given back yet, delivery included. */
  lines: z
    .array(z.strictObject({ position: z.int().min(0), pieces: z.int('Whole pieces.').min(0).max(1_000_000) }))
    .max(200)
    .optional(),
  delivery: z.boolean().default(false),
  /** What was sent back is in store again. */ restock: z.boolean().default(false),
  why: z.string().trim().max(400).default(''),
  /** Names what is asked for: asked twice, it is given back once. */
  request: z.uuid(),
})
export type ToRefund = z.input<typeof toRefund>

/** Throws `order-not-paid`, `more-than-paid`; the order is locked, so two refunds are counted one after the other. */
export async function giveBack(
  tx: Tx,
  number: number,
  { lines, delivery, restock, why, request }: z.output<typeof toRefund>,
  actor: Actor,
): Promise<{ gross: number }> {
  const [order] = await tx.select().from(shopOrder).where(eq(shopOrder.number, number)).for('update')
  if (!order) throw new Problem('no-such-order')
  const known = await askedBefore(tx, request)
  if (known) return { gross: known.gross }
  if (!canHappen(order, 'backAsked')) throw new Problem(order.paidAt ? 'more-than-paid' : 'order-not-paid')
  const before = await refundable(tx, order)
  const pieces = new Map<number, number>()
  if (lines) for (const { position, pieces: count } of lines) pieces.set(position, (pieces.get(position) ?? 0) + count)
  else for (const line of before.lines) pieces.set(line.position, line.quantity - line.refundedPieces)
  const back = refundFor(before, { pieces, delivery: delivery || (!lines && !before.deliveryRefunded) })
  if (back === 'no-such-line') throw new Problem('more-than-paid', {}, { at: '/lines' })
  if (back === 'more-than-paid') throw new Problem('more-than-paid', {}, { at: '/lines' })
  if (back === 'nothing') throw new Problem('nothing-to-change')
  for (const line of back.lines)
    await tx
      .update(orderLine)
      .set({ refundedPieces: sql`${orderLine.refundedPieces} + ${line.pieces}` })
      .where(and(eq(orderLine.orderId, order.id), eq(orderLine.position, line.position)))
  const body: RefundBody = { lines: back.lines, delivery: back.delivery, restock }
  await askMoneyBack(tx, {
    reference: order.reference,
    of: 'goods',
    orderId: order.id,
    gross: back.gross,
    tax: back.gross - back.net,
    body,
    why,
    request,
    actor,
  })
  await leaveTrace(tx, actor, 'order.refund', `order ${order.number}`, { gross: back.gross, why })
  return { gross: back.gross }
}

/** What of an order can still be given back. */
export async function refundable(tx: AnyDb, order: OrderRow): Promise<OrderToRefund> {
  const rows = await tx.select().from(orderLine).where(eq(orderLine.orderId, order.id)).orderBy(orderLine.position)
  const taken = order.frozen.basket.lines.filter(isTaxed)
  const deliveryRefunded = await tx.$count(
    moneyBack,
    and(eq(moneyBack.orderId, order.id), isNotNull(sql`nullif(${moneyBack.body} -> 'delivery', 'null'::jsonb)`)),
  )
  return {
    lines: rows.map(({ position, quantity, refundedPieces }) => {
      const { net, taxes, gross } = taken[position]!
      return { position, quantity, refundedPieces, net, taxes, gross }
    }),
    delivery: order.frozen.basket.delivery,
    deliveryRefunded: deliveryRefunded > 0,
  }
}
