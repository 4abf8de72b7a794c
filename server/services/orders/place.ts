/** Placing an order: one transaction, however often it is asked for; and giving it up again. */
import { and, eq, inArray, like, lte, sql } from 'drizzle-orm'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import { codesUsed, quoteBasket } from '../../../core/orders/basket-quote'
import type { BasketQuote } from '../../../core/orders/basket-quote'
import type { FrozenOrder } from '../../../core/orders/order'
import { categoriesAround, givesOf } from '../../../core/kinds/product'
import { isTaxed } from '../../../core/tax/tax-trail'
import { clockDate } from '../../clock'
import type { Database, Tx } from '../../db/database'
import { codeUse, orderLine, shopOrder, till } from '../../db/schema'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Visitor } from '../../../core/visitor/visitor'
import type { Snapshot } from '../editions/snapshot'
import { visitorOf } from '../standing/visitor-of'
import { newId } from '../secrets/tokens'
import { spendCode } from '../shop/given-codes'
import { basketOf, changeBasketIn } from './baskets'
import { keepStock, letOrderGo } from './held-stock'
import { merged } from './lines'
import type { KeptLine } from './lines'
import { tillName } from './tills'
import type { TillHolder, TillRow } from './tills'

export type OrderRow = typeof shopOrder.$inferSelect

export interface PlaceAsk {
  snapshot: Snapshot
  /** Who they are, with what they hold: of a person asked once more while nothing of it can move. */
  deciderOf(person: Visitor | null): CompiledDecider
  holder: TillHolder
  /** A guest's, as their browser holds them; a person's are read. */ guestLines?: readonly KeptLine[]
  /** What they saw was to be paid, minor units: another sum by now is told, not taken. */ agreed: number
}

/** The order, and whether it is new; asked twice it is made once. Throws why it cannot be. */
export async function placeOrder(db: Database, ask: PlaceAsk): Promise<{ order: OrderRow; fresh: boolean }> {
  const { holder } = ask
  return db.transaction(async tx => {
    if ('person' in holder) await tx.execute(sql`select 1 from person where id = ${holder.person} for update`)
    const [row] = await tx
      .select()
      .from(till)
      .where(eq(till.holder, tillName(holder)))
      .for('update')
    if (!row) throw new Problem('till-empty')
    const lines = 'person' in holder ? await basketOf(tx, holder.person) : [...(ask.guestLines ?? [])]
    const [known] = await tx.select().from(shopOrder).where(eq(shopOrder.request, row.request))
    if (known && isAgain(known, lines)) return { order: known, fresh: false }
    // What was said at the till holds for another order too.
    if (known) {
      row.request = newId('till', 20)
      await tx.update(till).set({ request: row.request }).where(eq(till.holder, row.holder))
    }
    if (!lines.length) throw new Problem('basket-empty')
    const decider = ask.deciderOf('person' in holder ? await visitorOf(tx, holder.person) : null)
    const quote = quoteNow(ask, decider, row, lines)
    const order = await keepOrder(tx, ask, decider, { row, quote })
    if ('person' in holder) await changeBasketIn(tx, holder.person, () => [])
    return { order, fresh: true }
  })
}

/** Whether it is the same asked twice: nothing else lies in the basket by now, and nobody has given it up. */
function isAgain({ state, frozen }: OrderRow, lines: readonly KeptLine[]): boolean {
  const said = (list: readonly { product: string; quantity: number }[]) =>
    list.map(({ product, quantity }) => `${quantity} ${product}`).join()
  return state !== 'givenUp' && (!lines.length || said(lines) === said(frozen.basket.lines))
}

/** What is paid now; throws where it is not what they saw, or something of it is not to be had. */
function quoteNow(
  { snapshot, holder, agreed }: PlaceAsk,
  decider: CompiledDecider,
  row: TillRow,
  lines: readonly KeptLine[],
): BasketQuote {
  const asked = lines.map(({ product, quantity }) => ({ product, quantity }))
  const quote = quoteBasket(decider, { lines: asked, sentTo: row.address, delivery: row.delivery, when: 'pay' })
  const { basket, sent, chosen, ways } = quote
  if (!basket.lines.every(isTaxed)) throw new Problem('basket-changed')
  if (sent && !chosen) throw new Problem(ways.length ? 'delivery-not-chosen' : 'not-sent-there')
  if (basket.gross !== agreed) throw new Problem('basket-changed')
  if (!('person' in holder) && !row.gift && givingLines(snapshot, basket.lines).length)
    throw new Problem('gives-after-sign-in')
  return quote
}

const givesIn = ({ rules: { index } }: Snapshot, product: string) => givesOf(index.get('product', product), index)

/** Without roles of the staff, which nobody buys. */
function givenBy(snapshot: Snapshot, product: string): { level?: string; roles?: string[] } | null {
  const { level, roles = [] } = givesIn(snapshot, product) ?? {}
  const bought = roles.filter(id => snapshot.rules.rulebook.roles?.some(role => role.id === id && !role.staff))
  if (level === undefined && !bought.length) return null
  return { ...(level === undefined ? {} : { level }), ...(bought.length ? { roles: bought } : {}) }
}

function aroundIn({ rules: { index } }: Snapshot, id: string): string[] {
  const product = index.get('product', id)
  return product ? categoriesAround(product, index) : []
}

const givingLines = (snapshot: Snapshot, lines: readonly { product: string }[]) =>
  lines.filter(({ product }) => givesIn(snapshot, product))

const titleIn =
  ({ rules }: Snapshot) =>
  (product: string): string =>
    rules.index.get('product', product)?.title ?? product

async function keepOrder(
  tx: Tx,
  { snapshot, holder }: PlaceAsk,
  decider: CompiledDecider,
  { row, quote }: { row: TillRow; quote: BasketQuote },
): Promise<OrderRow> {
  const { basket } = quote
  const lines = basket.lines.filter(isTaxed)
  const title = titleIn(snapshot)
  const id = newId('order', 20)
  const expiresAt = await keepStock(tx, lines, { till: tillName(holder), order: id, title })
  const codes = codesUsed(basket, snapshot.rules)
  for (const { offer, code } of codes.toSorted((a, b) => (a.offer < b.offer ? -1 : 1)))
    await spendCode(tx, snapshot, {
      typed: await typedFor(tx, holder, offer, code),
      holder,
      offer,
      request: `${id} ${offer}`,
    })
  const person = 'person' in holder ? holder.person : null
  const frozen: FrozenOrder = {
    edition: snapshot.edition,
    currency: snapshot.rules.index.site.currency ?? 'EUR',
    titles: Object.fromEntries(lines.map(({ product }) => [product, title(product)])),
    basket,
    shown: quote.shown,
    address: row.address,
    delivery: quote.chosen && { id: quote.chosen.id, name: quote.chosen.name },
    codes: codes.map(one => one.code),
    note: row.note,
    gift: row.gift,
    buyer: { levels: [...decider.asker.levels.keys()], roles: [...decider.asker.roles] },
  }
  const [order] = await tx
    .insert(shopOrder)
    .values({
      id,
      reference: newId('pay', 16),
      request: row.request,
      personId: person,
      email: row.email,
      name: row.name,
      country: row.address.country,
      edition: frozen.edition,
      net: basket.net,
      tax: basket.tax,
      gross: basket.gross,
      frozen,
      placedAt: clockDate(),
      expiresAt,
    })
    .returning()
  await tx.insert(orderLine).values(
    lines.map(({ product, quantity, net, gross }, position) => ({
      orderId: id,
      position,
      product,
      quantity,
      net,
      tax: gross - net,
      gross,
      categories: aroundIn(snapshot, product),
      gives: givenBy(snapshot, product),
    })),
  )
  await leaveTrace(tx, { id: person, name: row.name }, 'order.place', `order ${order!.number}`, { gross: basket.gross })
  return order!
}

/** The code that is kept for them, which may be one of many; else what everybody types. */
async function typedFor(tx: Tx, holder: TillHolder, offer: string, shared: string): Promise<string> {
  const [kept] = await tx.execute<{ code: string }>(sql`
    select c.code from code_use u join single_code c on c.id = u.code_id
    where u.offer = ${offer} and u.used_at is null and ${'person' in holder ? sql`u.person_id = ${holder.person}` : sql`u.guest = ${holder.guest}`}`)
  return kept?.code ?? shared
}

/**
 * Gives an order up that nobody has paid: what was kept for it is free, its codes are good again, and what was in it lies
 * in the basket once more. Answers its lines; null where it is none to give up.
 */
export async function giveUp(db: Database, id: string, personId: string | null): Promise<KeptLine[] | null> {
  return db.transaction(async tx => {
    if (personId !== null) await tx.execute(sql`select 1 from person where id = ${personId} for update`)
    const [row] = await tx.select().from(shopOrder).where(eq(shopOrder.id, id)).for('update')
    if (row?.state !== 'placed') return null
    await undoPlaced(tx, [row.id])
    await leaveTrace(tx, { id: personId, name: row.name }, 'order.give-up', `order ${row.number}`)
    const lines = row.frozen.basket.lines.map(({ product, quantity }) => ({ product, quantity, seen: null }))
    if (personId !== null) await changeBasketIn(tx, personId, own => merged(own, lines))
    return lines
  })
}

async function undoPlaced(tx: Tx, ids: readonly string[]): Promise<void> {
  for (const id of ids) {
    await letOrderGo(tx, id)
    await tx.delete(codeUse).where(like(codeUse.request, `${id} %`))
  }
  // Whoever comes to the till again places another.
  await tx
    .update(shopOrder)
    .set({ state: 'givenUp' })
    .where(inArray(shopOrder.id, [...ids]))
}

/** Orders nobody paid in time. */
export async function giveUpUnpaid(db: Database): Promise<number> {
  return db.transaction(async tx => {
    const rows = await tx
      .select({ id: shopOrder.id })
      .from(shopOrder)
      .where(and(eq(shopOrder.state, 'placed'), lte(shopOrder.expiresAt, clockDate())))
      .limit(500)
      .for('update', { skipLocked: true })
    if (rows.length)
      await undoPlaced(
        tx,
        rows.map(one => one.id),
      )
    return rows.length
  })
}
