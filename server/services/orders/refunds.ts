/** Giving money back: asked of the payment provider in the transaction that writes it down; it counts once that tells of it. */
import { and, eq, isNotNull, sql } from 'drizzle-orm'
import { z } from 'zod'
import { refundFor } from '../../../core/orders/refund'
import type { OrderToRefund, RefundBody } from '../../../core/orders/refund'
import { isTaxed } from '../../../core/tax/tax-trail'
import { clockDate } from '../../clock'
import type { Tx } from '../../db/database'
import { orderLine, orderRefund, shopOrder } from '../../db/schema'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { askRefund } from '../payments/stand-in'
import type { OrderRow } from './place'

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
  const [known] = await tx.select().from(orderRefund).where(eq(orderRefund.request, request))
  if (known) return { gross: known.gross }
  if (!order.paidAt) throw new Problem('order-not-paid')
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
  const [made] = await tx
    .insert(orderRefund)
    .values({
      orderId: order.id,
      at: clockDate(),
      by: actor.name,
      byId: actor.id,
      why,
      body,
      gross: back.gross,
      tax: back.gross - back.net,
      request,
    })
    .returning()
  await askRefund(tx, { reference: order.reference, amount: back.gross, refund: made!.id })
  await leaveTrace(tx, actor, 'order.refund', `order ${order.number}`, { gross: back.gross, why })
  return { gross: back.gross }
}

/** What of an order can still be given back. */
export async function refundable(tx: Tx, order: OrderRow): Promise<OrderToRefund> {
  const rows = await tx.select().from(orderLine).where(eq(orderLine.orderId, order.id)).orderBy(orderLine.position)
  const taken = order.frozen.basket.lines.filter(isTaxed)
  const deliveryRefunded = await tx.$count(
    orderRefund,
    and(eq(orderRefund.orderId, order.id), isNotNull(sql`nullif(${orderRefund.body} -> 'delivery', 'null'::jsonb)`)),
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
