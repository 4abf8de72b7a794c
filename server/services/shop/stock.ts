/** What is in store: looked at and changed by staff, each part by those who may. Counted by the day, so it holds at once. */
import { inTransaction } from '../../db/turn'
import { eq, sql } from 'drizzle-orm'
import { z } from 'zod'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { StaffAsk } from '../../../core/staff/staff-rule'
import type { AnyDb } from '../../db/database'
import { clockDate } from '../../clock'
import { stock, stockMove } from '../../db/schema'
import { Problem } from '../../problem'
import { draftContents, lockRules, readState } from '../versions/versions'
import type { StoredVersion } from '../versions/versions'
import { authoriseOwned, lookable, ownersOfThing, ownersOfThings } from '../editions/thing-rights'
import { makerOf } from '../live/worker'
import type { Worker } from '../live/worker'
import { reservedOf } from './reserved'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

export const stockChange = z.strictObject({
  stock: z.int('Whole pieces only.').min(0, 'There is no less than nothing.').max(1_000_000).optional(),
  /** The count that was looked at: where it is another by now, nothing is changed. */
  was: z.int().min(0).optional(),
  cost: z.int().min(0).max(100_000_000).optional(),
})
export type StockChange = z.infer<typeof stockChange>

/** The right each part of a product in the grid takes; the last two hold at once. */
const askFor = {
  title: { kind: 'products', fields: ['title'] },
  categories: { kind: 'products', fields: ['categories'] },
  price: { kind: 'prices' },
  stock: { kind: 'stock' },
  cost: { kind: 'cost' },
} as const satisfies Record<string, { kind: StaffAsk['kind']; fields?: readonly string[] }>
export type ProductPart = keyof typeof askFor
const parts = Object.keys(askFor) as ProductPart[]

/** What is counted of goods, and what may be done with them: short, since there may be a hundred thousand. */
export interface GoodsCounted {
  /** What may be done, as there are different answers. */ may: ProductPart[][]
  /** By product: which of these it is. */
  goods: Record<string, number>
  /** By product, for whoever may look at stock: pieces in store, and of these put aside. Of none nothing is said. */
  stock?: Record<string, number>
  reserved?: Record<string, number>
  /** By product, for whoever may look at cost: minor units. */
  cost?: Record<string, number>
}

/** Of the products of the draft that these rights may look at. What may not be looked at is not sent. */
export async function countGoods(db: AnyDb, worker: Worker): Promise<GoodsCounted> {
  const { rights } = worker
  const all = (await draftContents(db, await readState(db))).of('product') as (StoredVersion & { kind: 'product' })[]
  const seen = await lookable(db, worker, all)
  const owners = await ownersOfThings(db, ['product'])
  const may: ProductPart[][] = []
  const known = new Map<string, number>()
  const goods: Record<string, number> = {}
  for (const { one } of seen) {
    const owned = owners.get(`product ${one.key}`) ?? { madeBy: null, assignedTo: null }
    const owner = `${owned.madeBy} ${owned.assignedTo}`
    let set = known.get(owner)
    if (set === undefined) {
      const maker = await makerOf(db, worker, 'products', owned.madeBy)
      const allowed = (part: ProductPart) =>
        mayStaff(rights, { ...askFor[part], action: 'change', thing: owned, ...maker }).allowed
      known.set(owner, (set = may.push(parts.filter(allowed)) - 1))
    }
    goods[one.key] = set
  }
  const looks = (kind: StaffAsk['kind']) => mayStaff(rights, { kind, action: 'look' }).allowed
  const [stored, reserved] = [await db.select().from(stock), await reservedOf(db)]
  const kept = stored.filter(row => Object.hasOwn(goods, row.product))
  return {
    may,
    goods,
    ...(looks('stock')
      ? {
          stock: Object.fromEntries(kept.map(row => [row.product, row.pieces])),
          reserved: Object.fromEntries([...reserved].filter(([product]) => Object.hasOwn(goods, product))),
        }
      : {}),
    ...(looks('cost') ? { cost: Object.fromEntries(kept.map(row => [row.product, row.cost])) } : {}),
  }
}

/** What products cost the shop, minor units; only those that say so. */
export async function listCosts(db: AnyDb): Promise<Record<string, number>> {
  const rows = await db
    .select({ product: stock.product, cost: stock.cost })
    .from(stock)
    .where(sql`${stock.cost} > 0`)
  return Object.fromEntries(rows.map(({ product, cost }) => [product, cost]))
}

export async function changeStock(
  db: AnyDb,
  worker: Worker,
  id: string,
  change: StockChange,
  actor: Actor,
): Promise<void> {
  await inTransaction(db, async tx => {
    const draft = await draftContents(tx, await lockRules(tx))
    if (!draft.get('product', id)) throw new Problem('no-such-product')
    const touched = (['stock', 'cost'] as const).filter(part => change[part] !== undefined)
    if (!touched.length) throw new Problem('nothing-to-change')
    const owned = await ownersOfThing(tx, 'product', id)
    for (const part of touched) await authoriseOwned(tx, worker, { kind: part, action: 'change' }, owned)
    const [before] = await tx.select().from(stock).where(eq(stock.product, id)).for('update')
    if (change.was !== undefined && change.was !== (before?.pieces ?? 0))
      throw new Problem('stock-moved', { pieces: before?.pieces ?? 0 }, { at: '/stock' })
    const next = { pieces: change.stock ?? before?.pieces ?? 0, cost: change.cost ?? before?.cost ?? 0 }
    await tx
      .insert(stock)
      .values({ product: id, ...next })
      .onConflictDoUpdate({ target: stock.product, set: { pieces: sql`excluded.pieces`, cost: sql`excluded.cost` } })
    if (next.pieces !== (before?.pieces ?? 0))
      await tx.insert(stockMove).values({
        at: clockDate(),
        product: id,
        before: before?.pieces ?? 0,
        after: next.pieces,
        personId: actor.id,
        who: actor.name,
        how: 'counted',
      })
    const was = { stock: before?.pieces ?? 0, cost: before?.cost ?? 0 }
    await leaveTrace(
      tx,
      actor,
      'product.stock',
      `product ${id}`,
      Object.fromEntries(touched.map(part => [part, { before: was[part], after: change[part] }])),
    )
  })
}
