/** What is in store: looked at and changed by staff, each part by those who may. Counted by the day, so it holds at once. */
import { eq, sql } from 'drizzle-orm'
import { z } from 'zod'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { StaffAsk } from '../../../core/staff/staff-rule'
import type { Product } from '../../../core/kinds/product'
import type { Database, Tx } from '../../db/database'
import { stock } from '../../db/schema'
import { Problem } from '../../problem'
import { contentOf, draftContents, lockRules, readState } from '../versions/versions'
import type { StoredVersion } from '../versions/versions'
import { authoriseOwned, lookable, ownersOfThing, ownersOfThings } from '../editions/thing-rights'
import { makerOf } from '../editions/worker'
import type { Worker } from '../editions/worker'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

export const stockChange = z.strictObject({
  stock: z.int('Whole pieces only.').min(0, 'There is no less than nothing.').max(1_000_000).optional(),
  cost: z.int().min(0).max(100_000_000).optional(),
})
export type StockChange = z.infer<typeof stockChange>

/** The right each part of a product in the list takes; the first three are versioned, the others hold at once. */
const askFor = {
  title: { kind: 'products', fields: ['title'] },
  picture: { kind: 'products', fields: ['pictures'] },
  price: { kind: 'prices' },
  stock: { kind: 'stock' },
  cost: { kind: 'cost' },
} as const satisfies Record<string, { kind: StaffAsk['kind']; fields?: readonly string[] }>
export type ProductPart = keyof typeof askFor
const parts = Object.keys(askFor) as ProductPart[]

export interface ListedProduct {
  id: string
  version: { id: number; revision: number }
  title: string
  /** The product it is a variant of. */ of?: string
  picture?: string
  price?: number
  stock?: number
  cost?: number
  may: ProductPart[]
}

/** Products of the draft these rights may look at, with only the parts they may look at: what may not be seen is not sent. */
export async function listProducts(db: Tx, worker: Worker): Promise<ListedProduct[]> {
  const { rights } = worker
  const all = (await draftContents(db, await readState(db))).of('product') as (StoredVersion & { kind: 'product' })[]
  const seen = await lookable(db, worker, all)
  const owners = await ownersOfThings(db, ['product'])
  const contents = await contentOf(
    db,
    seen.map(({ one }) => one.id),
  )
  const stored = new Map((await db.select().from(stock)).map(row => [row.product, row]))
  const looks = (kind: StaffAsk['kind']) => mayStaff(rights, { kind, action: 'look' }).allowed
  const found: ListedProduct[] = []
  for (const { one, seen: sees } of seen) {
    const { title = one.key, price = 0, of } = one.body as Product
    const owned = owners.get(`product ${one.key}`) ?? { madeBy: null, assignedTo: null }
    const maker = await makerOf(db, worker, 'products', owned.madeBy)
    const kept = stored.get(one.key)
    found.push({
      id: one.key,
      version: { id: one.id, revision: one.revision },
      title: sees('title') ? title : one.key,
      ...(of === undefined ? {} : { of }),
      ...(sees('picture') ? { picture: String(contents.get(one.id)?.picture ?? 'plain') } : {}),
      ...(sees('price') ? { price } : {}),
      ...(looks('stock') ? { stock: kept?.pieces ?? 0 } : {}),
      ...(looks('cost') ? { cost: kept?.cost ?? 0 } : {}),
      may: parts.filter(
        part => mayStaff(rights, { ...askFor[part], action: 'change', thing: owned, ...maker }).allowed,
      ),
    })
  }
  return found.sort((a, b) => (a.title < b.title ? -1 : 1))
}

/** What products cost the shop, minor units; only those that say so. */
export async function listCosts(db: Tx): Promise<Record<string, number>> {
  const rows = await db
    .select({ product: stock.product, cost: stock.cost })
    .from(stock)
    .where(sql`${stock.cost} > 0`)
  return Object.fromEntries(rows.map(({ product, cost }) => [product, cost]))
}

export async function changeStock(
  db: Database,
  worker: Worker,
  id: string,
  change: StockChange,
  actor: Actor,
): Promise<void> {
  await db.transaction(async tx => {
    const draft = await draftContents(tx, await lockRules(tx))
    if (!draft.get('product', id)) throw new Problem('no-such-product')
    const touched = (['stock', 'cost'] as const).filter(part => change[part] !== undefined)
    if (!touched.length) throw new Problem('nothing-to-change')
    const owned = await ownersOfThing(tx, 'product', id)
    for (const part of touched) await authoriseOwned(tx, worker, { kind: part, action: 'change' }, owned)
    const [before] = await tx.select().from(stock).where(eq(stock.product, id)).for('update')
    const next = { pieces: change.stock ?? before?.pieces ?? 0, cost: change.cost ?? before?.cost ?? 0 }
    await tx
      .insert(stock)
      .values({ product: id, ...next })
      .onConflictDoUpdate({ target: stock.product, set: { pieces: sql`excluded.pieces`, cost: sql`excluded.cost` } })
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
