/** What a guest brings along when they sign in: what lies in their basket, what they said at the till, what they ordered. */
import { inTransaction } from '../db/turn'
import { and, eq, sql } from 'drizzle-orm'
import type { H3Event } from 'h3'
import { db } from '../db/database'
import { stockReserved, till } from '../db/schema'
import { bringBasket } from '../services/orders/baskets'
import { adoptOrders } from '../services/orders/settle'
import { tillName } from '../services/orders/tills'
import { hashOf } from '../services/secrets/tokens'
import { guestTokenOf } from '../services/shop/guest-codes'
import { guestLines, keepGuestLines } from './basket-held'

export async function bringAlong(event: H3Event, personId: string): Promise<void> {
  const lines = guestLines(event)
  if (lines.length) {
    await bringBasket(db(), personId, lines)
    keepGuestLines(event, [])
  }
  const token = guestTokenOf(event)
  if (token) await bringTill(hashOf(token), personId)
  await adoptOrders(db(), { id: personId })
}

/** What a person said at a till before stands; what is kept for the guest is kept for them. */
async function bringTill(guest: string, personId: string): Promise<void> {
  const [from, to] = [tillName({ guest }), tillName({ person: personId })]
  await inTransaction(db(), async tx => {
    const moved = await tx
      .update(till)
      .set({ holder: to, personId })
      .where(and(eq(till.holder, from), sql`not exists (select from till t where t.holder = ${to})`))
      .returning({ holder: till.holder })
    if (!moved.length) await tx.delete(till).where(eq(till.holder, from))
    await tx.update(stockReserved).set({ till: to }).where(eq(stockReserved.till, from))
  })
}
