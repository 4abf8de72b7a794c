/** Orders as they lie in the database, for tests of what follows from them. */
import type { FrozenOrder } from '../../core/orders/order'
import type { OrderState } from '../../core/payments/money-table'
import type { Connection } from '../../server/db/database'
import { orderLine, shopOrder } from '../../server/db/schema'
import { newId } from '../../server/services/secrets/tokens'

interface Ordered {
  state?: OrderState
  gross?: number
  refunded?: number
  lines: {
    product: string
    categories?: string[]
    quantity?: number
    refundedPieces?: number
    /** Roles it gives the buyer. */ roles?: string[]
  }[]
}

/** Of somebody; what stands in it besides is of no matter. */
export async function ordered(
  { db }: Pick<Connection, 'db'>,
  personId: string,
  { state = 'paid', gross = 1000, refunded = 0, lines }: Ordered,
): Promise<string> {
  const id = newId('order', 20)
  const now = new Date()
  await db.insert(shopOrder).values({
    id,
    reference: newId('pay', 16),
    request: newId('till', 20),
    personId,
    email: `${personId}@ordered.example`,
    name: personId,
    country: 'IE',
    state,
    edition: 1,
    net: gross,
    tax: 0,
    gross,
    refunded: Math.min(refunded, gross),
    frozen: {} as FrozenOrder,
    placedAt: now,
    expiresAt: now,
    paidAt: state === 'placed' ? null : now,
  })
  await db.insert(orderLine).values(
    lines.map(({ product, categories = [], quantity = 1, refundedPieces = 0, roles }, position) => ({
      orderId: id,
      position,
      product,
      categories,
      quantity,
      refundedPieces,
      ...(roles ? { gives: { roles }, givenTo: personId } : {}),
      net: 0,
      tax: 0,
      gross: 0,
    })),
  )
  return id
}
