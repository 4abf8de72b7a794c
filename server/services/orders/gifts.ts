/** What buying gives: to whoever bought it, or as a gift to whoever has its link. */
import { lockPerson } from '../../db/lock-person'
import { inTransaction } from '../../db/turn'
import { and, eq } from 'drizzle-orm'
import { clockDate } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { oneTimeLink, orderLine, shopOrder } from '../../db/schema'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import { mailWritten, siteAddress, writeMail } from '../mail/mail'
import { giveBought } from '../memberships/granted'
import { hashOf, newToken } from '../secrets/tokens'
import type { OrderRow } from '../papers/order-row'
import type { OrderWorld } from './world'

export type LineRow = typeof orderLine.$inferSelect

/** What a line gives, to somebody who is locked. */
export async function giveLine(
  tx: Tx,
  world: OrderWorld,
  order: OrderRow,
  line: LineRow,
  personId: string,
): Promise<void> {
  const { gives } = line
  if (!gives || line.givenTo) return
  // By the number: the id is the address of the order.
  const reference = `order ${order.number} line ${line.position + 1}`
  const purchase =
    gives.level === undefined
      ? null
      : await giveBought(tx, world, { personId, level: gives.level, amount: line.gross, reference })
  await tx
    .update(orderLine)
    .set({ givenTo: personId, purchase })
    .where(and(eq(orderLine.orderId, line.orderId), eq(orderLine.position, line.position)))
}

const giftDays = 365
/** A link whoever gets it takes the gift with, once they are signed in. */
export async function sendGift(tx: Tx, order: OrderRow, lines: readonly LineRow[]): Promise<void> {
  const given = lines.filter(line => line.gives)
  if (!given.length) return
  const token = newToken()
  await tx.insert(oneTimeLink).values({
    tokenHash: hashOf(token),
    purpose: 'gift',
    data: { order: order.id },
    expiresAt: new Date(clockDate().getTime() + giftDays * 86_400_000),
  })
  await mailWritten(
    await writeMail(tx, {
      text: 'gift',
      to: order.frozen.gift!,
      values: {
        from: order.name,
        what: given.map(line => titleOf(order, line)).join(', '),
        link: `${siteAddress()}/gift/${token}`,
      },
    }),
  )
}

const isWaiting = (line: LineRow) => line.gives !== null && !line.givenTo && line.refundedPieces < line.quantity

export interface GiftTold {
  from: string
  what: string[]
  /** The mail address it was sent to. */ email: string
  /** Until when it can be taken; null where it was taken already, or given back. */ until: string | null
}
/** What a link gives, for whoever has it; null where there is no such link. */
export async function readGift(db: AnyDb, token: string): Promise<GiftTold | null> {
  const [link] = await db
    .select()
    .from(oneTimeLink)
    .where(eq(oneTimeLink.tokenHash, hashOf(token)))
  const id = orderOf(link)
  if (!link || !id) return null
  const [order] = await db.select().from(shopOrder).where(eq(shopOrder.id, id))
  if (!order) return null
  const lines = await db.select().from(orderLine).where(eq(orderLine.orderId, id)).orderBy(orderLine.position)
  const waiting = lines.filter(isWaiting)
  const isOpen = !link.usedAt && order.paidAt !== null && order.state !== 'refunded' && waiting.length > 0
  return {
    from: order.name,
    what: (isOpen ? waiting : lines.filter(line => line.gives)).map(line => titleOf(order, line)),
    email: order.frozen.gift ?? '',
    until: isOpen ? link.expiresAt.toISOString() : null,
  }
}

const titleOf = ({ frozen }: OrderRow, { product }: LineRow) => frozen.titles[product] ?? product
const orderOf = (link: typeof oneTimeLink.$inferSelect | undefined): string | undefined =>
  link?.purpose === 'gift' && link.expiresAt.getTime() > clockDate().getTime()
    ? (link.data as { order?: string }).order
    : undefined

/** Takes a gift for somebody signed in; throws where it was taken, or is none any more. */
export async function takeGift(db: AnyDb, world: OrderWorld, token: string, personId: string): Promise<void> {
  await inTransaction(db, async tx => {
    const [link] = await tx
      .select()
      .from(oneTimeLink)
      .where(eq(oneTimeLink.tokenHash, hashOf(token)))
      .for('update')
    const id = orderOf(link)
    if (!link || !id) throw new Problem('not-found')
    if (link.usedAt) throw new Problem('gift-taken')
    await lockPerson(tx, personId)
    const [order] = await tx.select().from(shopOrder).where(eq(shopOrder.id, id)).for('update')
    if (!order?.paidAt || order.state === 'refunded') throw new Problem('gift-taken')
    const lines = await tx.select().from(orderLine).where(eq(orderLine.orderId, id)).orderBy(orderLine.position)
    const waiting = lines.filter(isWaiting)
    if (!waiting.length) throw new Problem('gift-taken')
    for (const line of waiting) await giveLine(tx, world, order, line, personId)
    await tx.update(oneTimeLink).set({ usedAt: clockDate() }).where(eq(oneTimeLink.tokenHash, link.tokenHash))
    await leaveTrace(tx, { id: personId, name: personId }, 'order.gift', `order ${order.number}`)
  })
}
