/** Stock of what is being bought: kept at the till for a while, for an order until it is paid, then gone. */
import { and, eq, inArray, isNull, ne, or, sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { BasketLine } from '../../../core/shop/price-trail'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { stock, stockMove, stockReserved } from '../../db/schema'
import { Problem } from '../../problem'
import { hashOf, newId } from '../secrets/tokens'
import { stillKept } from '../shop/reserved'

/** Milliseconds something is kept for whoever stands at the till, and for an order nobody has paid yet. */
const tillMs = 20 * 60_000
const unpaidMs = 30 * 60_000

/** Pieces of one product together: whatever lines they stand in. */
export function piecesOf(lines: readonly BasketLine[]): Map<string, number> {
  const pieces = new Map<string, number>()
  for (const { product, quantity } of lines) pieces.set(product, (pieces.get(product) ?? 0) + quantity)
  return pieces
}

/** Of products that are counted, what is free for this till: what it keeps itself is. Others are not named: they are always there. */
export async function freeOf(tx: AnyDb, products: readonly string[], till: string): Promise<Map<string, number>> {
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
 * What one keeper may keep of a product without paying: pieces at one time at their tills, and milliseconds within a
 * while. What is asked for beyond the pieces is sold all the same, as long as it is there; it is only not kept. A keeper
 * is a person, or the network a guest comes from.
 */
export const mostKept = {
  person: { pieces: 60, heldMs: 90 * 60_000 },
  network: { pieces: 20, heldMs: 40 * 60_000 },
  withinMs: 3 * 3_600_000,
} as const

export type Keeper = { person: string } | { network: string }
const keeperName = (keeper: Keeper): string =>
  'person' in keeper ? `person:${keeper.person}` : `network:${hashOf(keeper.network)}`

interface KeepAsk {
  till: string
  /** Of what was ordered: all of it is kept, or none. */ order?: string
  /** Left out, nothing bounds it. */ keeper?: Keeper
  title(product: string): string
}

/**
 * Keeps what lies in a basket for its till, or for the order it became; what the till kept before is let go. Throws
 * `sold-out` with the first product of which less is free, and `kept-too-long` where an order would keep once more what
 * its keeper has kept for long without paying.
 */
export async function keepStock(tx: Tx, lines: readonly BasketLine[], ask: KeepAsk): Promise<Date> {
  const { till, order, keeper, title } = ask
  const pieces = piecesOf(lines)
  await lockCounts(tx, pieces.keys())
  const free = await freeOf(tx, [...pieces.keys()], till)
  for (const [product, wanted] of pieces) {
    const there = free.get(product)
    if (there !== undefined && wanted > there) throw new Problem('sold-out', { what: title(product), free: there })
  }
  const counted = [...pieces].filter(([product]) => free.has(product))
  const bounds = keeper && (await boundsOf(tx, keeper, till, counted))
  if (order !== undefined && counted.some(([product]) => bounds?.get(product)?.orderedTooLong))
    throw new Problem('kept-too-long')
  await letTillGo(tx, till)
  const until = new Date(clockMs() + (order === undefined ? tillMs : unpaidMs))
  const kept = counted.flatMap(([product, wanted]) => {
    const { most = wanted } = (order === undefined && bounds?.get(product)) || {}
    const count = Math.min(wanted, most)
    return count > 0 ? [{ product, pieces: count }] : []
  })
  if (kept.length)
    await tx.insert(stockReserved).values(
      kept.map(one => ({
        ...one,
        until,
        madeAt: clockDate(),
        madeBy: 'till',
        note: order === undefined ? 'at the till' : 'ordered, not paid yet',
        request: newId('kept', 20),
        keeper: keeper ? keeperName(keeper) : null,
        ...(order === undefined ? { till } : { orderId: order }),
      })),
    )
  return until
}

/** By product, what its keeper may still keep at this till, and whether what they ordered was kept for too long without being paid. */
async function boundsOf(
  tx: AnyDb,
  keeper: Keeper,
  till: string,
  counted: readonly (readonly [string, number])[],
): Promise<Map<string, { most: number; orderedTooLong: boolean }>> {
  if (!counted.length) return new Map()
  const now = clockDate()
  const since = new Date(now.getTime() - mostKept.withinMs)
  const ends = sql`least(${stockReserved.until}, ${now.toISOString()}::timestamptz)`
  const begins = sql`greatest(${stockReserved.madeAt}, ${since.toISOString()}::timestamptz)`
  const heldMs = (which: SQL) =>
    sql<number>`coalesce(sum(extract(epoch from (${ends} - ${begins}))) filter (where ${ends} > ${begins} and ${which}), 0)::float8 * 1000`
  const rows = await tx
    .select({
      product: stockReserved.product,
      others: sql<number>`coalesce(sum(${stockReserved.pieces}) filter (where ${stockReserved.until} > ${now.toISOString()}::timestamptz and ${stockReserved.till} is distinct from ${till} and ${stockReserved.till} is not null), 0)::int`,
      atTillMs: heldMs(sql`${stockReserved.orderId} is null`),
      orderedMs: heldMs(sql`${stockReserved.orderId} is not null`),
    })
    .from(stockReserved)
    .where(
      and(
        eq(stockReserved.keeper, keeperName(keeper)),
        inArray(
          stockReserved.product,
          counted.map(([product]) => product),
        ),
      ),
    )
    .groupBy(stockReserved.product)
  const { pieces, heldMs: longest } = mostKept['person' in keeper ? 'person' : 'network']
  return new Map(
    counted.map(([product]) => {
      const { others = 0, atTillMs = 0, orderedMs = 0 } = rows.find(one => one.product === product) ?? {}
      const most = atTillMs + orderedMs < longest ? Math.max(0, pieces - others) : 0
      return [product, { most, orderedTooLong: orderedMs >= longest }]
    }),
  )
}

/** What is in the basket no more is kept for its till no more. */
export async function keepNoMoreThan(tx: AnyDb, till: string, lines: readonly BasketLine[]): Promise<void> {
  const wanted = piecesOf(lines)
  const kept = await tx
    .select()
    .from(stockReserved)
    .where(and(eq(stockReserved.till, till), stillKept()))
  for (const { id, product, pieces } of kept) {
    const left = wanted.get(product) ?? 0
    if (left >= pieces) continue
    await tx
      .update(stockReserved)
      .set(left > 0 ? { pieces: left } : { until: clockDate() })
      .where(eq(stockReserved.id, id))
  }
}

/** Until when a till's things are kept for it; null where nothing is. */
export async function keptUntil(tx: AnyDb, till: string): Promise<Date | null> {
  const [row] = await tx
    .select({ until: stockReserved.until })
    .from(stockReserved)
    .where(and(eq(stockReserved.till, till), stillKept()))
    .limit(1)
  return row?.until ?? null
}

/** It is free from now on; that it was kept is known for a while, and counts. */
const free = (tx: Tx, which: SQL | undefined) =>
  tx.update(stockReserved).set({ until: clockDate() }).where(and(which, stillKept()))
const letTillGo = (tx: Tx, till: string) => free(tx, eq(stockReserved.till, till))
export const letOrderGo = (tx: Tx, order: string) => free(tx, eq(stockReserved.orderId, order))

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
  await tx.delete(stockReserved).where(eq(stockReserved.orderId, order.id))
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
