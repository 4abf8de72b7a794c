/** What becomes of an order: each step of core/payments/money-table.ts, with all it does, in the caller's transaction. */
import { and, eq, inArray, isNotNull, sql } from 'drizzle-orm'
import { orderStep } from '../../../core/payments/money-table'
import type { OrderEffect, OrderEvent } from '../../../core/payments/money-table'
import { clockDate } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { orderLine, shopOrder } from '../../db/schema'
import { Problem } from '../../problem'
import { mailWritten, writeMail } from '../mail/mail'
import type { MailTextKey } from '../mail/mail-texts'
import { takeBackBought } from '../memberships/granted'
import { issueCredit, issueInvoice } from '../papers/invoices'
import type { MoneyBackRow } from '../payments/ledger'
import { changeBasketIn } from './baskets'
import { giveLine, sendGift } from './gifts'
import { letOrderGo, piecesOf, putBack, takeStock } from './held-stock'
import { merged, withCount } from './lines'
import type { KeptLine } from './lines'
import { orderLink } from '../papers/order-row'
import type { OrderRow } from '../papers/order-row'
import { freeCodesOf } from './spent-codes'
import { takeAgain } from './take-again'
import type { OrderWorld } from './world'

interface Move {
  tx: Tx
  world: OrderWorld
  order: OrderRow
  /** What has gone out, of steps that are about that. */ back?: MoneyBackRow
  /** What staff are told, of steps that tell them. */ told?: string
  /** The number of the paper the step issued. */ paper?: string
}

/** Whether this can happen to it now. */
export const canHappen = ({ state }: Pick<OrderRow, 'state'>, event: OrderEvent): boolean =>
  orderStep(state, event) !== null

/** Does all that follows. The order is locked, and so is everybody whose standing it may change. Answers it as it is then. */
export async function moveOrder(move: Move, event: OrderEvent): Promise<OrderRow> {
  const { tx, order } = move
  const step = orderStep(order.state, event)
  if (!step) throw new Problem('order-not-so', { state: order.state })
  const [now] = await tx
    .update(shopOrder)
    .set({ state: step.to, ...momentsOf(event), ...(move.back ? { refunded: order.refunded + move.back.gross } : {}) })
    .where(eq(shopOrder.id, order.id))
    .returning()
  const moved = { ...move, order: now! }
  for (const effect of step.does) await effects[effect](moved)
  return (await tx.select().from(shopOrder).where(eq(shopOrder.id, order.id)))[0]!
}

function momentsOf(event: OrderEvent): Partial<Pick<OrderRow, 'paidAt' | 'sentAt'>> {
  if (event === 'paid') return { paidAt: clockDate() }
  if (event === 'sent') return { sentAt: clockDate() }
  return event === 'notSent' ? { sentAt: null } : {}
}

const linesOf = (tx: AnyDb, { id }: OrderRow) =>
  tx.select().from(orderLine).where(eq(orderLine.orderId, id)).orderBy(orderLine.position)
const basketLines = ({ frozen }: OrderRow): KeptLine[] =>
  frozen.basket.lines.map(({ product, quantity }) => ({ product, quantity, seen: null }))

const effects: Record<OrderEffect, (move: Move) => Promise<void>> = {
  takeAgain: ({ tx, world, order }) => takeAgain(tx, world, order),

  async emptyBasket({ tx, order: { personId }, order }) {
    if (personId === null) return
    const pieces = piecesOf(basketLines(order))
    await changeBasketIn(tx, personId, own =>
      own.reduce((all, { product, quantity }) => {
        const bought = pieces.get(product)
        return bought === undefined ? all : withCount(all, product, Math.max(0, quantity - bought))
      }, own),
    )
  },

  async takeStock(move) {
    const { tx, order } = move
    const short = await takeStock(tx, order, await linesOf(tx, order))
    const called = short.map(id => order.frozen.titles[id] ?? id).join(', ')
    if (called) await tellStaff({ ...move, told: `Sold more than there was of ${called}.` })
  },

  async issueInvoice(move) {
    move.paper = (await issueInvoice(move.tx, move.order, move.world.seller)).number
  },

  async give({ tx, order, world }) {
    const lines = await linesOf(tx, order)
    if (order.frozen.gift) await sendGift(tx, order, lines)
    else if (order.personId) for (const line of lines) await giveLine(tx, world, order, line, order.personId)
  },

  mailPaid: move => mailAbout(move, 'order-paid', move.order.gross),
  mailBack: move => mailAbout(move, 'order-refunded', move.back!.gross),
  mailSent: move => mailAbout(move, 'order-sent'),

  // The money itself stands in the ledger as paid besides.
  keepMoney: tellStaff,
  tellStaff,

  // Asked in `refunds.ts`, with what is asked for.
  askBack: async () => {},

  async takeBack({ tx, order, back }) {
    const positions = (back!.body?.lines ?? []).map(one => one.position)
    if (!positions.length) return
    const given = await tx
      .select()
      .from(orderLine)
      .where(and(eq(orderLine.orderId, order.id), inArray(orderLine.position, positions), isNotNull(orderLine.givenTo)))
    // What lines gave that are given back wholly.
    for (const line of given)
      if (line.refundedPieces >= line.quantity && line.purchase) await takeBackBought(tx, line.purchase)
  },

  async putBack({ tx, order, back }) {
    if (!back!.body?.restock) return
    const taken = order.frozen.basket.lines.filter(line => !('refused' in line))
    await putBack(
      tx,
      order,
      back!.body.lines.map(({ position, pieces }) => ({ product: taken[position]!.product, quantity: pieces })),
    )
  },

  async issueCredit(move) {
    const { tx, order, world, back } = move
    move.paper = (await issueCredit(tx, order, { id: back!.id, body: back!.body! }, world.seller)).number
  },

  async freeStock({ tx, order }) {
    await letOrderGo(tx, order.id)
  },

  async freeCodes({ tx, order }) {
    await freeCodesOf(tx, order.id)
  },

  async fillBasket({ tx, order }) {
    if (order.personId !== null) await changeBasketIn(tx, order.personId, own => merged(own, basketLines(order)))
  },
}

/** Behind what is there already: nobody has seen to that yet. */
async function tellStaff({ tx, order: { id }, told = '' }: Move): Promise<void> {
  await tx
    .update(shopOrder)
    .set({
      trouble: sql`case when position(${told} in coalesce(trouble, '')) > 0 then trouble else concat_ws(' ', trouble, ${told}::text) end`,
    })
    .where(eq(shopOrder.id, id))
}

async function mailAbout({ tx, order, world, paper }: Move, text: MailTextKey, amount?: number): Promise<void> {
  await mailWritten(
    await writeMail(tx, {
      text,
      to: order.email,
      values: {
        name: order.name,
        number: String(order.number),
        link: orderLink(order),
        ...(amount === undefined ? { way: order.frozen.delivery?.name ?? '' } : { amount: world.money(amount) }),
        ...(paper === undefined ? {} : { invoice: paper }),
      },
    }),
  )
}
