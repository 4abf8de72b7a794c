/** Orders as staff look after them: found, looked at, sent, noted; each part by the right it takes. */
import { stringify } from 'csv-stringify/sync'
import { and, asc, desc, eq, inArray, isNotNull, lt, or, sql } from 'drizzle-orm'
import { z } from 'zod'
import { orderStates } from '../../../core/payments/money-table'
import type { FrozenOrder } from '../../../core/orders/order'
import type { OrderState } from '../../../core/payments/money-table'
import type { RefundBody } from '../../../core/orders/refund'
import { mayStaff } from '../../../core/staff/staff-rule'
import { typedMoney } from '../../../core/money'
import { harmlessCell } from '../../../core/texts/harmless-cell'
import type { AnyDb, Tx } from '../../db/database'
import { moneyBack, shopOrder, stock } from '../../db/schema'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import type { Worker } from '../live/worker'
import { authorise } from '../staff/authorise'
import { seesPeople } from '../staff/people-seen'
import { invoicesOf } from '../papers/invoices'
import { refundable } from './refunds'
import { canHappen, moveOrder } from './moves'
import type { OrderRow } from '../papers/order-row'
import { orderWorld } from './world'

export const ordersAsked = z.object({
  /** A number, or words of a name or mail address. */ search: z.string().trim().max(200).optional(),
  /** Of one person, by id. */ person: z.string().min(1).max(100).optional(),
  state: z.enum(orderStates).optional(),
  /** Only those something is the matter with. */ trouble: z.literal('1').optional(),
  /** Those before this number. */ before: z.coerce.number().int().positive().optional(),
})
export type OrdersAsked = z.output<typeof ordersAsked>

export interface ListedOrder {
  number: number
  state: OrderState
  placedAt: string
  /** Who bought; only for whoever may look at buyers. */ name?: string
  country: string
  gross: number
  refunded: number
  pieces: number
  /** Something of it is sent. */ isParcel: boolean
  trouble: string | null
}

const looksAtBuyers = ({ rights }: Worker) =>
  mayStaff(rights, { kind: 'orders', action: 'look', fields: ['buyer'] }).allowed

function whereOf(worker: Worker, { search, person, state, trouble, before }: OrdersAsked) {
  const number = search && /^#?\d{1,9}$/.test(search) ? Number(search.replace('#', '')) : null
  const words = search && number === null ? search : null
  // Whoever may not look at buyers cannot find them either.
  const found =
    words === null
      ? undefined
      : looksAtBuyers(worker)
        ? or(
            sql`position(lower(${words}) in lower(${shopOrder.name})) > 0`,
            sql`position(lower(${words}) in lower(${shopOrder.email})) > 0`,
          )
        : sql`false`
  return and(
    state === undefined ? undefined : eq(shopOrder.state, state),
    trouble === undefined ? undefined : isNotNull(shopOrder.trouble),
    before === undefined ? undefined : lt(shopOrder.number, before),
    number === null ? undefined : eq(shopOrder.number, number),
    found,
    person === undefined ? undefined : looksAtBuyers(worker) ? eq(shopOrder.personId, person) : sql`false`,
  )
}

const pageSize = 50
export async function listOrders(
  db: AnyDb,
  worker: Worker,
  asked: OrdersAsked,
): Promise<{ orders: ListedOrder[]; more: boolean; waiting: number }> {
  const rows = await db
    .select({
      order: shopOrder,
      pieces: sql<number>`(select coalesce(sum(l.quantity), 0)::int from order_line l where l.order_id = ${shopOrder.id})`,
    })
    .from(shopOrder)
    .where(whereOf(worker, asked))
    .orderBy(desc(shopOrder.number))
    .limit(pageSize + 1)
  return {
    orders: rows.slice(0, pageSize).map(({ order, pieces }) => listed(worker, order, pieces)),
    more: rows.length > pageSize,
    waiting: await db.$count(shopOrder, eq(shopOrder.state, 'paid')),
  }
}

const listed = (worker: Worker, order: OrderRow, pieces: number): ListedOrder => ({
  number: order.number,
  state: order.state,
  placedAt: order.placedAt.toISOString(),
  ...(looksAtBuyers(worker) ? { name: order.name } : {}),
  country: order.country,
  gross: order.gross,
  refunded: order.refunded,
  pieces,
  isParcel: order.frozen.delivery !== null,
  trouble: order.trouble,
})

export interface OrderTold extends ListedOrder {
  edition: number
  /** Every figure with how it came about. */ basket: FrozenOrder['basket']
  shown: FrozenOrder['shown']
  titles: Record<string, string>
  delivery: FrozenOrder['delivery']
  codes: string[]
  /** What the buyer wrote, for whoever may look at buyers. */ note: string
  gift: boolean
  net: number
  tax: number
  paidAt: string | null
  sentAt: string | null
  /** Of the buyer, for whoever may look at buyers. */
  buyer?: {
    name: string
    email: string
    personId: string | null
    address: FrozenOrder['address']
    levels: string[]
    roles: string[]
  }
  /** By product what one costs the shop, for whoever may look at cost. */ costs?: Record<string, number>
  /** Pieces of each line that are given back, or are being given back. */ refundedPieces: number[]
  deliveryRefunded: boolean
  refunds: { id: number; at: string; by: string; why: string; gross: number; done: boolean; body: RefundBody }[]
  papers: { number: string; kind: 'invoice' | 'credit' }[]
}

async function orderOf(db: AnyDb, number: number): Promise<OrderRow> {
  const [order] = await db.select().from(shopOrder).where(eq(shopOrder.number, number))
  if (!order) throw new Problem('no-such-order')
  return order
}

export async function tellOrder(db: AnyDb, worker: Worker, number: number): Promise<OrderTold> {
  const order = await orderOf(db, number)
  const { frozen } = order
  const left = await refundable(db, order)
  const refunds = await db
    .select()
    .from(moneyBack)
    .where(and(eq(moneyBack.orderId, order.id), eq(moneyBack.of, 'goods')))
    .orderBy(asc(moneyBack.id))
  const {
    address,
    buyer: { levels, roles },
  } = frozen
  const looksAtCost = mayStaff(worker.rights, { kind: 'cost', action: 'look' }).allowed
  return {
    ...listed(
      worker,
      order,
      left.lines.reduce((sum, one) => sum + one.quantity, 0),
    ),
    edition: order.edition,
    basket: frozen.basket,
    shown: frozen.shown,
    titles: frozen.titles,
    delivery: frozen.delivery,
    codes: frozen.codes,
    note: looksAtBuyers(worker) ? frozen.note : '',
    gift: frozen.gift !== null,
    net: order.net,
    tax: order.tax,
    paidAt: order.paidAt?.toISOString() ?? null,
    sentAt: order.sentAt?.toISOString() ?? null,
    ...(looksAtBuyers(worker)
      ? {
          buyer: {
            name: order.name,
            email: order.email,
            personId: order.personId,
            address,
            levels: seesPeople(worker.rights, 'levels') ? levels : [],
            roles: seesPeople(worker.rights, 'roles') ? roles : [],
          },
        }
      : {}),
    ...(looksAtCost ? { costs: await costsOf(db, Object.keys(frozen.titles)) } : {}),
    refundedPieces: left.lines.map(one => one.refundedPieces),
    deliveryRefunded: left.deliveryRefunded,
    refunds: refunds.map(({ id, at, by, why, gross, doneAt, body }) => ({
      id,
      at: at.toISOString(),
      by,
      why,
      gross,
      done: doneAt !== null,
      body: body!,
    })),
    papers: (await invoicesOf(db, order.id)).map(one => ({ number: one.number, kind: one.kind })),
  }
}

async function costsOf(db: AnyDb, products: readonly string[]): Promise<Record<string, number>> {
  const rows = products.length
    ? await db
        .select()
        .from(stock)
        .where(inArray(stock.product, [...products]))
    : []
  return Object.fromEntries(rows.map(({ product, cost }) => [product, cost]))
}

export const orderChange = z.strictObject({
  /** `sent` from paid, and back; an order nobody paid is given up. */ state: z
    .enum(['paid', 'sent', 'givenUp'])
    .optional(),
  /** What was the matter is seen to. */ trouble: z.null().optional(),
})
export type OrderChange = z.output<typeof orderChange>

export async function changeOrder(
  tx: Tx,
  worker: Worker,
  { number, change: { state, trouble }, actor }: { number: number; change: OrderChange; actor: Actor },
): Promise<void> {
  authorise(worker.rights, { kind: 'orders', action: 'change', fields: ['state'] })
  const [order] = await tx.select().from(shopOrder).where(eq(shopOrder.number, number)).for('update')
  if (!order) throw new Problem('no-such-order')
  if (trouble === null && order.trouble !== null)
    await tx.update(shopOrder).set({ trouble: null }).where(eq(shopOrder.id, order.id))
  if (state !== undefined && state !== order.state) await moveTo(tx, worker, order, state)
  await leaveTrace(tx, actor, 'order.change', `order ${order.number}`, {
    ...(state ? { state } : {}),
    ...(trouble === null ? { trouble } : {}),
  })
}

const eventOf = { sent: 'sent', paid: 'notSent', givenUp: 'unpaid' } as const
async function moveTo(tx: Tx, { snapshot }: Worker, order: OrderRow, state: keyof typeof eventOf): Promise<void> {
  if (state === 'paid' && !order.frozen.delivery) throw new Problem('nothing-to-change')
  if (!canHappen(order, eventOf[state])) throw new Problem(order.paidAt ? 'order-sent-already' : 'order-not-paid')
  await moveOrder({ tx, world: orderWorld(snapshot), order }, eventOf[state])
}

const mostExported = 100_000
/** As CSV, a line for each order; buyers are in it for whoever may look at them. */
export async function exportOrders(db: AnyDb, worker: Worker, asked: OrdersAsked): Promise<string> {
  const buyers = looksAtBuyers(worker)
  const columns = [
    'number',
    'placed',
    'state',
    ...(buyers ? ['name', 'email'] : []),
    'country',
    'currency',
    'net',
    'tax',
    'gross',
    'refunded',
    'delivery',
    'goods',
  ]
  let file = stringify([columns])
  for (let before = asked.before, left = mostExported; left > 0; left -= 1000) {
    const rows = await db
      .select()
      .from(shopOrder)
      .where(whereOf(worker, { ...asked, ...(before === undefined ? {} : { before }) }))
      .orderBy(desc(shopOrder.number))
      .limit(1000)
    if (!rows.length) break
    file += stringify(rows.map(order => rowOf(order, buyers)))
    before = rows.at(-1)!.number
  }
  return file
}

function rowOf(order: OrderRow, buyers: boolean): (string | number)[] {
  const { frozen } = order
  const money = (minor: number) => typedMoney(minor, frozen.currency)
  const goods = frozen.basket.lines.map(({ product, quantity }) => `${quantity} ${frozen.titles[product] ?? product}`)
  return [
    order.number,
    order.placedAt.toISOString(),
    order.state,
    ...(buyers ? [harmlessCell(order.name), harmlessCell(order.email)] : []),
    order.country,
    frozen.currency,
    money(order.net),
    money(order.tax),
    money(order.gross),
    money(order.refunded),
    harmlessCell(frozen.delivery?.name ?? ''),
    harmlessCell(goods.join('; ')),
  ]
}
