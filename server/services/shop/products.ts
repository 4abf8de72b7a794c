/** What the mill has in store: looked at and changed by staff, each part by those who may. */
import { asc, eq } from 'drizzle-orm'
import { z } from 'zod'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { StaffAsk } from '../../../core/staff/staff-rule'
import type { Database, Tx } from '../../db/database'
import { product } from '../../db/schema'
import { Problem } from '../../problem'
import { authorise } from '../staff/authorise'
import { weavePatterns } from '../pages/blocks'
import { makerIn } from '../pages/content-rights'
import type { Worker } from '../pages/content-rights'
import { leaveTrace } from '../trace'
import type { Actor } from '../trace'

type Row = typeof product.$inferSelect

export const productChange = z.strictObject({
  title: z.string().trim().min(1, 'A product has a name.').max(200).optional(),
  picture: z.enum(weavePatterns).optional(),
  price: z.int().min(0).max(100_000_000).optional(),
  stock: z.int('Whole pieces only.').min(0, 'There is no less than nothing.').max(1_000_000).optional(),
  cost: z.int().min(0).max(100_000_000).optional(),
})
export type ProductChange = z.infer<typeof productChange>

/** What of a product each kind of right is about. */
const askFor: { [K in keyof Required<ProductChange>]: Pick<StaffAsk, 'kind' | 'fields'> } = {
  title: { kind: 'products', fields: ['title'] },
  picture: { kind: 'products', fields: ['pictures'] },
  price: { kind: 'prices' },
  stock: { kind: 'stock' },
  cost: { kind: 'cost' },
}
const partKeys = Object.keys(askFor) as (keyof ProductChange)[]

export interface ListedProduct {
  id: string
  title: string
  picture: string
  price?: number
  stock?: number
  cost?: number
  may: (keyof ProductChange)[]
}

/** Products these rights may look at, with only the parts they may look at: what may not be seen is not sent. */
export async function listProducts(db: Tx, worker: Worker): Promise<ListedProduct[]> {
  const { rights } = worker
  const rows = await db.select().from(product).orderBy(asc(product.title))
  const looks = (kind: StaffAsk['kind']) => mayStaff(rights, { kind, action: 'look' }).allowed
  const makers = new Map<string | null, (audience: string) => boolean>()
  for (const { madeBy } of rows)
    if (!makers.has(madeBy)) makers.set(madeBy, await makerIn(db, worker, 'products', madeBy))
  const owned = (row: Row) => ({ thing: ownedBy(row), makerIn: makers.get(row.madeBy)! })
  return rows
    .filter(row => mayStaff(rights, { kind: 'products', action: 'look', ...owned(row) }).allowed)
    .map(row => ({
      id: row.id,
      title: row.title,
      picture: row.picture,
      ...(looks('prices') ? { price: row.price } : {}),
      ...(looks('stock') ? { stock: row.stock } : {}),
      ...(looks('cost') ? { cost: row.cost } : {}),
      may: partKeys.filter(key => mayStaff(rights, { ...askFor[key], action: 'change', ...owned(row) }).allowed),
    }))
}

const ownedBy = (row: Row) => ({ madeBy: row.madeBy, assignedTo: row.assignedTo })

export async function changeProduct(
  db: Database,
  worker: Worker,
  id: string,
  change: ProductChange,
  actor: Actor,
): Promise<void> {
  await db.transaction(async tx => {
    const [row] = await tx.select().from(product).where(eq(product.id, id)).for('update')
    if (!row) throw new Problem('not-found', 'There is no such product.')
    const touched = partKeys.filter(key => change[key] !== undefined)
    if (!touched.length) throw new Problem('bad-input', 'Nothing is to be changed.')
    const maker = await makerIn(tx, worker, 'products', row.madeBy)
    for (const key of touched)
      authorise(worker.rights, { ...askFor[key], action: 'change', thing: ownedBy(row), makerIn: maker })
    await tx
      .update(product)
      .set(Object.fromEntries(touched.map(key => [key, change[key]])))
      .where(eq(product.id, id))
    await leaveTrace(
      tx,
      actor,
      'product.change',
      `product ${id}`,
      Object.fromEntries(touched.map(key => [key, { before: row[key], after: change[key] }])),
    )
  })
}
