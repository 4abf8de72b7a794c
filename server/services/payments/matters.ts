/** What staff must see to: money that came in and nobody had asked for, and money that went out unasked. */
import { and, desc, eq, isNull, or } from 'drizzle-orm'
import { clockDate } from '../../clock'
import { lockPerson } from '../../db/lock-person'
import type { AnyDb, Tx } from '../../db/database'
import { moneyBack, paymentNotice, person, purchase, shopOrder } from '../../db/schema'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import type { Worker } from '../live/worker'
import { seesPeople } from '../staff/people-seen'
import { askMoneyBack, isStray, sumsOf } from './ledger'

export interface PaymentMatter {
  number: number
  at: string
  /** `besides`: came in; `unasked`: went out. */ what: 'besides' | 'unasked'
  /** Minor units; null where the provider did not say. */ amount: number | null
  /** What it was paid for: an order, a level, or nothing that is known here. */
  order: number | null
  level: string | null
  /** Whose level, for whoever may look at that. */ person: { id: string; name: string } | null
  /** On its way back: asked, and not told to be out yet. */ asked: boolean
}

const mostShown = 100

/** Newest first: what nobody has seen to, and what is on its way back. */
export async function listMatters(db: AnyDb, { rights }: Worker): Promise<PaymentMatter[]> {
  const rows = await db
    .select({ notice: paymentNotice, order: shopOrder.number, bought: purchase, who: person, back: moneyBack })
    .from(paymentNotice)
    .leftJoin(shopOrder, eq(shopOrder.reference, paymentNotice.reference))
    .leftJoin(purchase, eq(purchase.reference, paymentNotice.reference))
    .leftJoin(person, eq(person.id, purchase.personId))
    .leftJoin(moneyBack, eq(moneyBack.notice, paymentNotice.id))
    .where(or(isStray(), and(eq(moneyBack.of, 'besides'), isNull(moneyBack.doneAt))))
    .orderBy(desc(paymentNotice.number))
    .limit(mostShown)
  const looks = seesPeople(rights, 'name', 'levels')
  return rows.map(({ notice, order, bought, who, back }) => ({
    number: notice.number,
    at: notice.receivedAt.toISOString(),
    what: notice.became as PaymentMatter['what'],
    amount: notice.amount,
    order,
    level: seesPeople(rights, 'levels') ? (bought?.level ?? null) : null,
    person: looks && who ? { id: who.id, name: who.name } : null,
    asked: back !== null,
  }))
}

/** What it is about is locked, so that money back is counted one after the other. */
async function locked(tx: Tx, number: number) {
  const [known] = await tx.select().from(paymentNotice).where(eq(paymentNotice.number, number))
  if (!known) throw new Problem('not-found')
  const { reference } = known
  const [bought] = await tx
    .select({ person: purchase.personId })
    .from(purchase)
    .where(eq(purchase.reference, reference))
  const [ordered] = await tx
    .select({ person: shopOrder.personId })
    .from(shopOrder)
    .where(eq(shopOrder.reference, reference))
  const who = bought?.person ?? ordered?.person
  if (who) await lockPerson(tx, who)
  await tx.select().from(shopOrder).where(eq(shopOrder.reference, reference)).for('update')
  await tx.select().from(purchase).where(eq(purchase.reference, reference)).for('update')
  const [notice] = await tx.select().from(paymentNotice).where(eq(paymentNotice.number, number)).for('update')
  return notice!
}

async function subjectOf(tx: AnyDb, { reference, number }: { reference: string; number: number }): Promise<string> {
  const [order] = await tx
    .select({ number: shopOrder.number })
    .from(shopOrder)
    .where(eq(shopOrder.reference, reference))
  const [bought] = await tx.select({ number: purchase.number }).from(purchase).where(eq(purchase.reference, reference))
  return order ? `order ${order.number}` : bought ? `purchase ${bought.number}` : `payment ${number}`
}

/** Gives back what was paid besides; asked twice it goes out once. */
export async function giveBackBesides(tx: Tx, number: number, actor: Actor): Promise<void> {
  const notice = await locked(tx, number)
  if (notice.became !== 'besides' || notice.amount === null) throw new Problem('not-paid')
  if (await tx.$count(moneyBack, eq(moneyBack.notice, notice.id))) return
  // What the provider gave back unasked is out already.
  const sums = await sumsOf(tx, notice.reference)
  const back = Math.min(notice.amount, sums.in - sums.asked)
  if (back <= 0) throw new Problem('more-than-paid')
  await askMoneyBack(tx, {
    reference: notice.reference,
    of: 'besides',
    notice: notice.id,
    gross: back,
    why: '',
    request: `besides ${notice.number}`,
    actor,
  })
  await seen(tx, notice.id, actor)
  await leaveTrace(tx, actor, 'payment.back', await subjectOf(tx, notice), { gross: back })
}

/** Somebody has seen to it otherwise. */
export async function seeTo(tx: Tx, number: number, actor: Actor): Promise<void> {
  const notice = await locked(tx, number)
  if (notice.seenAt) return
  await seen(tx, notice.id, actor)
  await leaveTrace(tx, actor, 'payment.seen', await subjectOf(tx, notice))
}

const seen = (tx: Tx, id: string, { name }: Actor) =>
  tx.update(paymentNotice).set({ seenAt: clockDate(), seenBy: name }).where(eq(paymentNotice.id, id))
