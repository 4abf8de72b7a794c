/** Stock of what is being bought: kept at the till for a while, for an order until it is paid, then gone. */
import { and, eq, inArray, isNull, ne, or, sql } from 'drizzle-orm'
import type { BasketLine } from '../../../core/shop/price-trail'
import { clockDate, clockMs } from '../../clock'
import type { Tx } from '../../db/database'
import { stock, stockMove, stockReserved } from '../../db/schema'
import { Problem } from '../../problem'
import { newId } from '../secrets/tokens'
import { stillKept } from '../shop/reserved'

/** Milliseconds something is kept for whoever stands at the till, and for an order nobody has paid yet. */
export const tillMs = 20 * 60_000
export const unpaidMs = 30 * 60_000

/** Pieces of one product together: whatever lines they stand in. */
export function piecesOf(lines: readonly BasketLine[]): Map<string, number> {
  const pieces = new Map<string, number>()
  for (const { product, quantity } of lines) pieces.set(product, (pieces.get(product) ?? 0) + quantity)
  return pieces
}

/** Of products that are counted, what is free for this till: what it keeps itself is. Others are not named: they are always there. */
export async function freeOf(tx: Tx, products: readonly string[], till: string): Promise<Map<string, number>> {
  if (!products.length) return new Map()
  const counted = await tx
    .select()
    .from(stock)
    .where(inArray(stock.product, [...products]))
  const kept = await tx
    .select({ product: stockReserved.product, pieces: sql<number>`sum(${stockReserved.pieces})::int` })
    .from(stockReserved)
    .where(
      and(
        inArray(stockReserved.product, [...products]),
        stillKept(),
        or(isNull(stockReserved.till), ne(stockReserved.till, till)),
      ),
    )
    .groupBy(stockReserved.product)
  const reserved = new Map(kept.map(row => [row.product, row.pieces]))
  return new Map(counted.map(({ product, pieces }) => [product, Math.max(0, pieces - (reserved.get(product) ?? 0))]))
}

/** The counts are locked, in the order of their products, so that nobody waits for somebody who waits for them. */
async function lockCounts(tx: Tx, products: Iterable<string>): Promise<void> {
  const sorted = [...products].sort()
  if (sorted.length)
    await tx
      .select({ product: stock.product })
      .from(stock)
      .where(inArray(stock.product, sorted))
      .orderBy(stock.product)
      .for('update')
}

/**
 * Keeps what lies in a basket for its till, or for the order it became; what the till kept before is let go. Throws
 * `sold-out` with the first product of which less is free.
 */
export async function keepStock(
  tx: Tx,
  lines: readonly BasketLine[],
  { till, order, title }: { till: string; order?: string; title(product: string): string },
): Promise<Date> {
  const pieces = piecesOf(lines)
  await lockCounts(tx, pieces.keys())
  const free = await freeOf(tx, [...pieces.keys()], till)
  for (const [product, wanted] of pieces) {
    const there = free.get(product)
    if (there !== undefined && wanted > there) throw new Problem('sold-out', { what: title(product), free: there })
  }
  await letTillGo(tx, till)
  const until = new Date(clockMs() + (order === undefined ? tillMs : unpaidMs))
  const counted = [...pieces].filter(([product]) => free.has(product))
  if (counted.length)
    await tx.insert(stockReserved).values(
      counted.map(([product, count]) => ({
        product,
        pieces: count,
        until,
        madeAt: clockDate(),
        madeBy: 'till',
        note: order === undefined ? 'at the till' : 'ordered, not paid yet',
        request: newId('kept', 20),
        ...(order === undefined ? { till } : { orderId: order }),
      })),
    )
  return until
}

/** Until when a till's things are kept for it; null where nothing is. */
export async function keptUntil(tx: Tx, till: string): Promise<Date | null> {
  const [row] = await tx
    .select({ until: stockReserved.until })
    .from(stockReserved)
    .where(and(eq(stockReserved.till, till), stillKept()))
    .limit(1)
  return row?.until ?? null
}

export const letTillGo = (tx: Tx, till: string) => tx.delete(stockReserved).where(eq(stockReserved.till, till))
export const letOrderGo = (tx: Tx, order: string) => tx.delete(stockReserved).where(eq(stockReserved.orderId, order))

/** What was paid leaves the store. Answers products of which less was there than was sold: none is counted below nothing. */
export async function takeStock(
  tx: Tx,
  order: { id: string; number: number },
  lines: readonly BasketLine[],
): Promise<string[]> {
  return moveStock(tx, order, lines, 'sold')
}

/** What came back goes into the store again. */
export async function putBack(
  tx: Tx,
  order: { id: string; number: number },
  lines: readonly BasketLine[],
): Promise<void> {
  await moveStock(tx, order, lines, 'returned')
}

async function moveStock(
  tx: Tx,
  order: { id: string; number: number },
  lines: readonly BasketLine[],
  how: 'sold' | 'returned',
): Promise<string[]> {
  const pieces = piecesOf(lines)
  await lockCounts(tx, pieces.keys())
  await letOrderGo(tx, order.id)
  if (!pieces.size) return []
  const counted = await tx
    .select()
    .from(stock)
    .where(inArray(stock.product, [...pieces.keys()]))
  const short: string[] = []
  for (const { product, pieces: before } of counted) {
    const moved = pieces.get(product)!
    const after = how === 'sold' ? Math.max(0, before - moved) : before + moved
    if (how === 'sold' && moved > before) short.push(product)
    await tx.update(stock).set({ pieces: after }).where(eq(stock.product, product))
    await tx.insert(stockMove).values({ at: clockDate(), product, before, after, who: `order ${order.number}`, how })
  }
  return short
}
