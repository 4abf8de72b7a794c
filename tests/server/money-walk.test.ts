/**
 * The table of core/payments/money-table.ts walked at random on a real database: orders and levels placed, paid, declined,
 * given up, sent and given back, every notice late, twice and out of order, every step cut off between any two statements.
 */
import { randomUUID } from 'node:crypto'
import { and, eq, isNotNull, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { CompiledRules } from '../../core/gates/compiled'
import { quoteBasket } from '../../core/orders/basket-quote'
import { orderSteps, purchaseSteps } from '../../core/payments/money-table'
import type { OrderState, PurchaseState, Steps } from '../../core/payments/money-table'
import type { Connection, Database } from '../../server/db/database'
import {
  codeUse,
  invoice,
  membership,
  moneyBack,
  noticeDue,
  orderLine,
  paymentNotice,
  person,
  purchase,
  shopOrder,
  stock,
  stockReserved,
} from '../../server/db/schema'
import { inOneTurn } from '../../server/db/turn'
import { Problem } from '../../server/problem'
import { changeBasket } from '../../server/services/orders/baskets'
import { changeOrder } from '../../server/services/orders/looked-after'
import { backToBasket, giveUpUnpaid, placeOrder } from '../../server/services/orders/place'
import { giveBack, toRefund } from '../../server/services/orders/refunds'
import { takeOrderNotice } from '../../server/services/orders/settle'
import { chooseDelivery, saveTill } from '../../server/services/orders/tills'
import { orderWorld } from '../../server/services/orders/world'
import type { OrderWorld } from '../../server/services/orders/world'
import { buy, quote } from '../../server/services/memberships/memberships'
import { refundLevel, takeNotice } from '../../server/services/memberships/purchases'
import { sumsOf } from '../../server/services/payments/ledger'
import type { TakenNotice } from '../../server/services/payments/ledger'
import { giveBackBesides, listMatters } from '../../server/services/payments/matters'
import { newId } from '../../server/services/secrets/tokens'
import { stillKept } from '../../server/services/shop/reserved'
import { giveCode } from '../../server/services/shop/given-codes'
import { visitorOf } from '../../server/services/standing/visitor-of'
import type { Snapshot } from '../../server/services/live/snapshot'
import { CutOff, cutOff } from '../support/watched'
import { freshDatabase } from '../support/database'
import { ines, liveRules, snapshotOf } from '../support/world'

/** Longer in `npm run faults`. */
const walks = Number(process.env.BRAVIK_WALKS ?? 3)
const steps = Number(process.env.BRAVIK_WALK_STEPS ?? 90)
const goods = 'needle-gauge'
const inStore = 9
const buyers = ['walk-a', 'walk-b']
const staff = { rights: { personId: 'ines', masterKey: true, rules: [] } }

let site: Connection
let live: Snapshot
let world: OrderWorld
beforeAll(async () => {
  site = await freshDatabase('demo')
  const rules = await liveRules(site)
  const offers = [
    ...(rules.rulebook.offers ?? []),
    { id: 'walk', on: { shop: true as const }, code: 'WALK', uses: { all: 2 }, bands: [{ off: { percent: 50 } }] },
  ]
  live = snapshotOf(new CompiledRules({ ...rules.rulebook, offers }, rules.index))
  world = orderWorld(live)
  const now = new Date()
  await site.db
    .insert(person)
    .values(buyers.map(id => ({ id, name: id, email: `${id}@walk.example`, confirmedAt: now, approvedAt: now })))
})
afterAll(() => site.close())

/** The same numbers for the same seed (Mulberry32). */
function randomOf(seed: number) {
  let state = seed
  const next = () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32
  }
  return {
    below: (count: number) => Math.floor(next() * count),
    pick: <T>(list: readonly T[]) => list[Math.floor(next() * list.length)],
  }
}
type Random = ReturnType<typeof randomOf>

const where = {
  name: 'Una',
  email: 'una@walk.example',
  lines: '3 Quay Row',
  town: 'Wexlow',
  postcode: 'WX1',
  country: 'IE',
  note: '',
}

/** What can be done, each on a database that may be gone in the middle. */
const deeds: Record<string, (db: Database, random: Random) => Promise<unknown>> = {
  async place(db, random) {
    const holder = { person: random.pick(buyers)! }
    const lines = [{ product: goods, quantity: 1 + random.below(2), seen: null }]
    const decide = async () => new CompiledDecider(live.rules, (await visitorOf(site.db, holder.person))!, Date.now())
    if (random.below(2))
      await giveCode(
        site.db,
        { snapshot: live, decider: await decide() },
        { typed: 'walk', holder, network: randomUUID() },
      ).catch(refused)
    await changeBasket(site.db, holder.person, () => lines)
    await site.db.transaction(tx => saveTill(tx, holder, where))
    await chooseDelivery(site.db as never, holder, 'post')
    const asked = lines.map(({ product, quantity }) => ({ product, quantity }))
    const { basket } = quoteBasket(await decide(), { lines: asked, sentTo: where, delivery: 'post', when: 'pay' })
    await placeOrder(db, {
      snapshot: live,
      world,
      holder,
      agreed: basket.gross,
      deciderOf: known => new CompiledDecider(live.rules, known!, Date.now()),
    })
  },
  async notice(db, random) {
    const order = random.pick(await site.db.select().from(shopOrder).orderBy(shopOrder.number))
    if (!order) return
    const told = random.pick(['paid', 'paid', 'paid', 'declined', 'refunded'] as const)!
    const amount = random.below(5) ? order.gross : order.gross + 1
    // Some are told twice.
    const id = random.below(3) ? newId('notice', 16) : `again-${order.number}`
    await takeOrderNotice(db, world, { id, reference: order.reference, kind: told, amount })
  },
  async back(db, random) {
    const order = random.pick(await site.db.select().from(shopOrder).where(eq(shopOrder.state, 'placed')))
    if (order) await backToBasket(db, world, order.id, order.personId)
  },
  async late(db, random) {
    const order = random.pick(await site.db.select().from(shopOrder).where(eq(shopOrder.state, 'placed')))
    if (!order) return
    await site.db
      .update(shopOrder)
      .set({ expiresAt: new Date(0) })
      .where(eq(shopOrder.id, order.id))
    await giveUpUnpaid(db, world)
  },
  async staff(db, random) {
    const order = random.pick(await site.db.select().from(shopOrder))
    if (!order) return
    const state = random.pick(['sent', 'paid', 'givenUp'] as const)!
    const worker = { ...staff, snapshot: live }
    await inOneTurn(db, tx => changeOrder(tx, worker, { number: order.number, change: { state }, actor: ines }))
  },
  async refund(db, random) {
    const order = random.pick(await site.db.select().from(shopOrder).where(isNotNull(shopOrder.paidAt)))
    if (!order) return
    const part = { lines: [{ position: 0, pieces: 1 }], restock: random.below(2) === 0 }
    const ask = toRefund.parse({ request: randomUUID(), ...(random.below(2) ? part : {}) })
    for (const request of random.below(2) ? [ask.request, ask.request] : [ask.request])
      await inOneTurn(db, tx => giveBack(tx, order.number, { ...ask, request }, ines))
  },
  async besides(db, random) {
    const matter = random.pick(await listMatters(site.db, staff as never))
    if (matter) await inOneTurn(db, tx => giveBackBesides(tx, matter.number, ines))
  },
  async hear(db, random) {
    const due = random.pick(await site.db.select().from(noticeDue).orderBy(noticeDue.id))
    if (!due) return
    await take(db, due)
    // Its taking is lost now and then, and it is told once more.
    if (random.below(3)) await site.db.delete(noticeDue).where(eq(noticeDue.id, due.id))
  },
  async level(db, random) {
    const id = random.pick(buyers)!
    const level = random.pick(['maker', 'guild'])!
    const asked = await quote(site.db, world, id, level)
    if (typeof asked !== 'string' && asked.sort !== 'downgrade')
      await buy(db, world, { id, name: id }, level, asked.amount)
  },
  async levelNotice(db, random) {
    const bought = random.pick(await site.db.select().from(purchase).orderBy(purchase.number))
    if (!bought) return
    const kind = random.pick(['paid', 'paid', 'declined', 'refunded'] as const)!
    const amount = random.below(5) ? bought.amount : bought.amount + 1
    await takeNotice(db, world, { id: newId('notice', 16), reference: bought.reference, kind, amount })
  },
  async levelBack(db, random) {
    const bought = random.pick(await site.db.select().from(purchase).where(eq(purchase.state, 'paid')))
    if (bought) await inOneTurn(db, tx => refundLevel(tx, bought.number, ines))
  },
}

async function take(
  db: Database,
  { id, reference, kind, amount, refund }: typeof noticeDue.$inferSelect,
): Promise<void> {
  const notice: TakenNotice = { id, reference, kind, amount: amount ?? undefined, refund: refund ?? undefined }
  if (!(await takeOrderNotice(db, world, notice))) await takeNotice(db, world, notice)
}

/** What is refused, or cut off, has done nothing; anything else is wrong. */
function refused(error: unknown): void {
  if (!(error instanceof Problem) && !(error instanceof CutOff)) throw error
}

/** Whether one step, or two, lead from one state to another. */
function leads<S extends string>(table: Steps<S, string, string>, from: S, to: S): boolean {
  const after = (state: S) => Object.values(table[state] as object).map(step => (step as { to: S }).to)
  return from === to || after(from).some(one => one === to || after(one).includes(to))
}

async function holds(before: ReadonlyMap<string, string>): Promise<Map<string, string>> {
  const orders = await site.db
    .select()
    .from(shopOrder)
    .where(sql`${shopOrder.email} = ${where.email}`)
  const lines = await site.db.select().from(orderLine)
  const back = await site.db.select().from(moneyBack)
  const papers = await site.db.select().from(invoice)
  const states = new Map<string, string>()
  let sold = 0
  let ordered = 0
  for (const order of orders) {
    const mine = back.filter(one => one.orderId === order.id)
    const done = mine.filter(one => one.doneAt !== null)
    const issued = papers.filter(one => one.orderId === order.id)
    const sum = (kind: string) => issued.filter(one => one.kind === kind).reduce((all, one) => all + one.body.gross, 0)
    const notices = await site.db.select().from(paymentNotice).where(eq(paymentNotice.reference, order.reference))
    const of = (became: string) =>
      notices.filter(one => one.became === became).reduce((all, one) => all + (one.amount ?? 0), 0)
    const sums = await sumsOf(site.db, order.reference)
    const said = `order ${order.number}, ${order.state}`
    // Paid is what is kept and what went back, and nothing goes out that did not come in.
    expect(sums.in, said).toBe((order.paidAt ? order.gross : 0) + of('besides'))
    expect(order.refunded, said).toBe(done.reduce((all, one) => all + one.gross, 0))
    expect(
      back.filter(one => one.reference === order.reference).reduce((all, one) => all + one.gross, 0),
      said,
    ).toBeLessThanOrEqual(sums.in)
    expect(notices.filter(one => one.became === 'settled').length, said).toBe(order.paidAt ? 1 : 0)
    expect([sum('invoice'), issued.filter(one => one.kind === 'invoice').length], said).toEqual(
      order.paidAt ? [order.gross, 1] : [0, 0],
    )
    expect([sum('credit'), issued.filter(one => one.kind === 'credit').length], said).toEqual([
      order.refunded,
      done.length,
    ])
    expect(order.state === 'refunded', said).toBe(order.paidAt !== null && order.refunded === order.gross)
    const [line] = lines.filter(one => one.orderId === order.id)
    const returned = done
      .flatMap(one => (one.body?.restock ? one.body.lines : []))
      .reduce((all, one) => all + one.pieces, 0)
    if (order.paidAt) sold += line!.quantity - returned
    if (order.state === 'placed') ordered += line!.quantity
    if (before.has(order.id))
      expect(
        leads(orderSteps, before.get(order.id) as OrderState, order.state),
        `${before.get(order.id)} to ${said}`,
      ).toBe(true)
    states.set(order.id, order.state)
  }
  const [counted] = await site.db.select().from(stock).where(eq(stock.product, goods))
  const [kept] = await site.db
    .select({ pieces: sql<number>`coalesce(sum(${stockReserved.pieces}), 0)::int` })
    .from(stockReserved)
    .where(and(eq(stockReserved.product, goods), isNotNull(stockReserved.orderId), stillKept()))
  expect([counted!.pieces, kept!.pieces], 'pieces in store, and kept for orders').toEqual([inStore - sold, ordered])
  const withCode = orders.filter(one => one.frozen.codes.length && one.state !== 'givenUp').length
  const uses = await site.db.$count(codeUse, and(eq(codeUse.offer, 'walk'), isNotNull(codeUse.usedAt)))
  expect([uses, uses <= 2], 'uses of the code').toEqual([withCode, true])
  for (const bought of await site.db.select().from(purchase)) {
    const sums = await sumsOf(site.db, bought.reference)
    const said = `purchase ${bought.number}, ${bought.state}`
    expect(sums.asked <= sums.in || bought.state === 'refunded', said).toBe(true)
    if (before.has(bought.reference))
      expect(
        leads(purchaseSteps, before.get(bought.reference) as PurchaseState, bought.state),
        `${before.get(bought.reference)} to ${said}`,
      ).toBe(true)
    states.set(bought.reference, bought.state)
  }
  return states
}

describe('money', () => {
  it.each(Array.from({ length: walks }, (_, i) => i + 1))('comes to what it should, walk %i', async seed => {
    await site.db.execute(
      sql`truncate shop_order, order_line, invoice, money_back, payment_notice, notice_due, purchase, code_use, stock_reserved, till, basket_line cascade`,
    )
    await site.db.delete(membership).where(sql`person_id like 'walk-%'`)
    await site.db.update(stock).set({ pieces: inStore }).where(eq(stock.product, goods))
    const random = randomOf(seed * 7919)
    const names = Object.keys(deeds)
    let states = new Map<string, string>()
    for (let i = 0; i < steps; i++) {
      const name = random.pick(['place', 'notice', 'notice', 'hear', ...names])!
      // A third of them end between two statements.
      const db = random.below(3) ? site.db : cutOff(site.db, 1 + random.below(25))
      await deeds[name]!(db, random).catch(refused)
      states = await holds(states)
    }
    // Everything goes back: nothing is kept, nothing is held.
    for (let i = 0; i < 3; i++) {
      for (const due of await site.db.select().from(noticeDue)) await take(site.db, due)
      await site.db.delete(noticeDue)
      for (const { number } of await listMatters(site.db, staff as never))
        await inOneTurn(site.db, tx => giveBackBesides(tx, number, ines)).catch(refused)
      for (const { number } of await site.db.select().from(shopOrder).where(isNotNull(shopOrder.paidAt)))
        await inOneTurn(site.db, tx => giveBack(tx, number, toRefund.parse({ request: randomUUID() }), ines)).catch(
          refused,
        )
      for (const { number } of await site.db.select().from(purchase).where(eq(purchase.state, 'paid')))
        await inOneTurn(site.db, tx => refundLevel(tx, number, ines)).catch(refused)
    }
    await holds(states)
    const references = await site.db.selectDistinct({ reference: paymentNotice.reference }).from(paymentNotice)
    for (const { reference } of references) {
      const sums = await sumsOf(site.db, reference)
      expect(sums.out, reference).toBeGreaterThanOrEqual(sums.in)
    }
    const held = await site.db
      .select()
      .from(membership)
      .where(
        sql`person_id like 'walk-%' and source = 'bought' and (until is null or until > now() + interval '1 second')`,
      )
    expect(held).toEqual([])
  })
})
