/** What becomes of buying a level as the payment provider tells of it, and of the time that was paid for. */
import { and, desc, eq, isNull } from 'drizzle-orm'
import { purchaseStep } from '../../../core/payments/money-table'
import type { NoticeBecame, PurchaseEffect, PurchaseEvent, PurchaseState } from '../../../core/payments/money-table'
import { clockDate } from '../../clock'
import { lockPerson } from '../../db/lock-person'
import type { AnyDb, Tx } from '../../db/database'
import { moneyBack, orderLine, purchase, shopOrder } from '../../db/schema'
import { inOneTurn } from '../../db/turn'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import {
  askedBefore,
  askMoneyBack,
  isSettled,
  noteNotice,
  noticeBecame,
  outstanding,
  wentOut,
} from '../payments/ledger'
import type { TakenNotice } from '../payments/ledger'
import { provider } from '../payments/provider'
import { grant, lockedPurchase, withdraw } from './granted'
import { purchaseOf } from './held'
import type { PurchaseRow } from './held'
import { tellDeclined } from './memberships'
import type { SaleWorld } from './memberships'

export interface NoticeTaken {
  personId: string | null
  level: string
  effect: 'grant' | 'withdraw' | null
  first: boolean
}

/** Takes a notice about a payment: twice counts once, and the order does not matter. */
export async function takeNotice(db: AnyDb, world: SaleWorld, notice: TakenNotice): Promise<NoticeTaken> {
  return inOneTurn(db, async tx => {
    const known = await purchaseOf(tx, notice.reference)
    if (known?.personId) await lockPerson(tx, known.personId)
    const row = await lockedPurchase(tx, notice.reference)
    if (!row) throw new Problem('no-such-purchase')
    const { personId, level } = row
    if (!(await noteNotice(tx, notice, notice.kind === 'declined' ? null : row.amount)))
      return { personId, level, effect: null, first: false }
    const taken = { tx, world, row, notice }
    const became = await (notice.kind === 'paid'
      ? takePaid(taken)
      : notice.kind === 'refunded'
        ? takeBack(taken)
        : takeDeclined(taken))
    await noticeBecame(tx, notice.id, became)
    const after = await purchaseOf(tx, row.reference)
    const effect =
      row.state !== 'paid' && after!.state === 'paid'
        ? ('grant' as const)
        : row.state === 'paid' && after!.state === 'refunded'
          ? ('withdraw' as const)
          : null
    await leaveTrace(tx, provider, `purchase.${notice.kind}`, `purchase ${row.number}`, { notice: notice.id, became })
    return { personId, level, effect, first: true }
  })
}

interface Taken {
  tx: Tx
  world: SaleWorld
  row: PurchaseRow
  notice: TakenNotice
}

async function takePaid({ tx, world, row, notice }: Taken): Promise<NoticeBecame> {
  // One that an order made was paid with the order.
  const isAgain = row.state === 'paid' || (await isSettled(tx, row.reference))
  if (isAgain || (notice.amount !== undefined && notice.amount !== row.amount)) {
    await move({ tx, world, row }, 'paidBesides')
    return 'besides'
  }
  if (await move({ tx, world, row }, 'paid')) return 'settled'
  await move({ tx, world, row }, 'paidGone')
  return row.state === 'refunded' ? 'settled' : 'besides'
}

async function takeDeclined({ tx, world, row }: Taken): Promise<NoticeBecame> {
  await move({ tx, world, row }, 'declined')
  await tellDeclined(tx, world, row)
  return 'declined'
}

async function takeBack({ tx, world, row, notice }: Taken): Promise<NoticeBecame> {
  const back = await outstanding(tx, notice)
  if (back) await wentOut(tx, back)
  if (back?.of === 'besides') return 'back'
  await move({ tx, world, row }, back ? 'back' : 'backUnasked')
  return back ? 'back' : 'unasked'
}

interface Move {
  tx: Tx
  world: SaleWorld
  row: PurchaseRow
}

/** Does all that follows; false where there was nothing to give, and nothing is changed. */
async function move(of: Move, event: PurchaseEvent): Promise<boolean> {
  const { tx, row } = of
  const step = purchaseStep(row.state, event)
  if (!step) return false
  for (const effect of step.does) if (!(await effects[effect](of))) return false
  if (step.to !== row.state)
    await tx
      .update(purchase)
      .set({ state: step.to, settledAt: clockDate() })
      .where(eq(purchase.reference, row.reference))
  return true
}

const done = async () => true

const effects: Record<PurchaseEffect, (of: Move) => Promise<boolean>> = {
  grant: ({ tx, world, row }) => grant(tx, world, row),
  withdraw: async ({ tx, row }) => {
    await withdraw(tx, row)
    return true
  },
  // Staff find it in the ledger.
  keepMoney: done,
  tellStaff: done,
  // Asked in `refundLevel`, with what is asked for.
  askBack: done,
}

/**
 * Gives back what was paid for a level; asked twice it goes out once. Throws where it is not paid, where it came with an
 * order, which gives it back itself, and where it has gone back.
 */
export async function refundLevel(tx: Tx, number: number, actor: Actor): Promise<{ gross: number }> {
  const [known] = await tx.select().from(purchase).where(eq(purchase.number, number))
  if (!known) throw new Problem('no-such-purchase')
  if (known.personId) await lockPerson(tx, known.personId)
  const row = (await lockedPurchase(tx, known.reference))!
  const order = await orderThatMade(tx, row.reference)
  if (order !== null) throw new Problem('refunded-with-order', { number: order })
  const request = `level ${row.number}`
  const before = await askedBefore(tx, request)
  if (before) return { gross: before.gross }
  if (!purchaseStep(row.state, 'backAsked')) throw new Problem('not-paid')
  const { gross } = await askMoneyBack(tx, {
    reference: row.reference,
    of: 'level',
    gross: row.amount,
    why: '',
    request,
    actor,
  })
  await leaveTrace(tx, actor, 'purchase.refund', `purchase ${row.number}`, { gross })
  return { gross }
}

/** The number of the order a purchase came with; null of one that was paid by itself. */
async function orderThatMade(tx: AnyDb, reference: string): Promise<number | null> {
  const [row] = await tx
    .select({ number: shopOrder.number })
    .from(orderLine)
    .innerJoin(shopOrder, eq(shopOrder.id, orderLine.orderId))
    .where(eq(orderLine.purchase, reference))
  return row?.number ?? null
}

/** What somebody paid for levels, as staff are told of it. */
export interface PaidTold {
  number: number
  level: string
  amount: number
  state: PurchaseState
  createdAt: string
  /** The number of the order it came with. */ order: number | null
  /** Asked back, and not told to be out yet. */ asked: boolean
}

export async function paidBy(db: AnyDb, personId: string): Promise<PaidTold[]> {
  const rows = await db
    .select({ bought: purchase, order: shopOrder.number, back: moneyBack.id })
    .from(purchase)
    .leftJoin(orderLine, eq(orderLine.purchase, purchase.reference))
    .leftJoin(shopOrder, eq(shopOrder.id, orderLine.orderId))
    .leftJoin(
      moneyBack,
      and(eq(moneyBack.reference, purchase.reference), eq(moneyBack.of, 'level'), isNull(moneyBack.doneAt)),
    )
    .where(eq(purchase.personId, personId))
    .orderBy(desc(purchase.createdAt))
  return rows.map(({ bought: { number, level, amount, state, createdAt }, order, back }) => ({
    number,
    level,
    amount,
    state,
    createdAt: createdAt.toISOString(),
    order,
    asked: back !== null,
  }))
}
