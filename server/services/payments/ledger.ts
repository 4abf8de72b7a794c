/**
 * All money that came in and went out, by the reference of its payment: each notice of the provider once, with what became
 * of it, and one record for each time money is given back. Whoever calls holds the lock of what the payment is about.
 */
import { and, eq, inArray, isNull, sql } from 'drizzle-orm'
import type { MoneyBackOf, NoticeBecame, NoticeKind } from '../../../core/payments/money-table'
import type { RefundBody } from '../../../core/orders/refund'
import { clockDate } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { moneyBack, paymentNotice } from '../../db/schema'
import { Problem } from '../../problem'
import type { Actor } from '../../trace'
import { askRefund } from './stand-in'

/** What the provider tells of a payment. */
export interface TakenNotice {
  /** The provider's own id of this notice. */ id: string
  reference: string
  kind: NoticeKind
  /** Minor units. */ amount?: number | undefined
  /** Of money given back: which of ours it is about. */ refund?: number | undefined
}

export type MoneyBackRow = typeof moneyBack.$inferSelect

/** Writes a notice down. False where it was told before. `asked`: what it is about where it names no sum. */
export async function noteNotice(
  tx: Tx,
  { id, reference, kind, amount }: TakenNotice,
  asked: number | null,
): Promise<boolean> {
  const fresh = await tx
    .insert(paymentNotice)
    .values({ id, reference, kind, amount: amount ?? asked, receivedAt: clockDate() })
    .onConflictDoNothing()
    .returning({ id: paymentNotice.id })
  return fresh.length > 0
}

export const noticeBecame = (tx: Tx, id: string, became: NoticeBecame) =>
  tx.update(paymentNotice).set({ became }).where(eq(paymentNotice.id, id))

/** Whether the payment that was asked for under this reference has come in. */
export const isSettled = async (tx: AnyDb, reference: string): Promise<boolean> =>
  (await tx.$count(
    paymentNotice,
    and(eq(paymentNotice.reference, reference), eq(paymentNotice.kind, 'paid'), eq(paymentNotice.became, 'settled')),
  )) > 0

/** Minor units: what came in, what is asked back or out already, and what of it has gone out. */
export async function sumsOf(tx: AnyDb, reference: string): Promise<{ in: number; asked: number; out: number }> {
  const [row] = await tx.execute<{ in: string; asked: string; out: string; unasked: string }>(sql`
    select (select coalesce(sum(amount), 0) from payment_notice where reference = ${reference} and kind = 'paid' and became in ('settled', 'besides')) "in",
      (select coalesce(sum(amount), 0) from payment_notice where reference = ${reference} and kind = 'refunded' and became = 'unasked') unasked,
      (select coalesce(sum(gross), 0) from money_back where reference = ${reference}) asked,
      (select coalesce(sum(gross), 0) from money_back where reference = ${reference} and done_at is not null) out`)
  const { in: came, asked, out, unasked } = row!
  return { in: Number(came), asked: Number(asked) + Number(unasked), out: Number(out) + Number(unasked) }
}

export interface AskBack {
  reference: string
  of: MoneyBackOf
  gross: number
  tax?: number
  orderId?: string
  /** Of what was paid besides. */ notice?: string
  body?: RefundBody
  why: string
  /** Names what is asked for: asked twice, it goes out once. */ request: string
  actor: Actor
}

/** Asks the provider for money back, and writes it down with that; throws `more-than-paid` where less is left of what came in. */
export async function askMoneyBack(tx: Tx, { actor, gross, reference, ...asked }: AskBack): Promise<MoneyBackRow> {
  const sums = await sumsOf(tx, reference)
  if (gross > sums.in - sums.asked) throw new Problem('more-than-paid')
  const [made] = await tx
    .insert(moneyBack)
    .values({ ...asked, reference, gross, at: clockDate(), by: actor.name, byId: actor.id })
    .returning()
  await askRefund(tx, { reference, amount: gross, refund: made!.id })
  return made!
}

/** What a request asked for before; null where it is new. */
export async function askedBefore(tx: AnyDb, request: string): Promise<MoneyBackRow | null> {
  return (await tx.select().from(moneyBack).where(eq(moneyBack.request, request)))[0] ?? null
}

/** Which record a notice of money given back is about: of this payment, of this sum, and not out yet. Locked. */
export async function outstanding(
  tx: Tx,
  { reference, refund, amount }: Pick<TakenNotice, 'reference' | 'refund' | 'amount'>,
): Promise<MoneyBackRow | null> {
  if (refund === undefined) return null
  const [row] = await tx
    .select()
    .from(moneyBack)
    .where(and(eq(moneyBack.id, refund), eq(moneyBack.reference, reference), isNull(moneyBack.doneAt)))
    .for('update')
  return row && (amount === undefined || amount === row.gross) ? row : null
}

export const wentOut = (tx: Tx, { id }: Pick<MoneyBackRow, 'id'>) =>
  tx.update(moneyBack).set({ doneAt: clockDate() }).where(eq(moneyBack.id, id))

/** What staff must see to: money nobody asked for, come in or gone out. */
const strayKinds = ['besides', 'unasked'] as const satisfies readonly NoticeBecame[]
export const isStray = () => and(isNull(paymentNotice.seenAt), inArray(paymentNotice.became, [...strayKinds]))
