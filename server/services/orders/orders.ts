/** Orders as they are read: one by its id, somebody's own, and those staff look after. */
import { desc, eq } from 'drizzle-orm'
import type { AnyDb } from '../../db/database'
import { shopOrder } from '../../db/schema'
import type { OrderRow } from '../papers/order-row'

export async function orderById(db: AnyDb, id: string): Promise<OrderRow | null> {
  const [row] = await db.select().from(shopOrder).where(eq(shopOrder.id, id))
  return row ?? null
}

const mostShown = 200
export const ordersOf = (db: AnyDb, personId: string): Promise<OrderRow[]> =>
  db.select().from(shopOrder).where(eq(shopOrder.personId, personId)).orderBy(desc(shopOrder.number)).limit(mostShown)
