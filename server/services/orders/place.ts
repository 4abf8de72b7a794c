/** Placing an order: one transaction, however often it is asked for; and giving it up again. */
import { isVatNumber } from '../../../core/visitor/vat-number'
import { and, eq, lte } from 'drizzle-orm'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import { basketReductions, codesUsed, quoteBasket } from '../../../core/orders/basket-quote'
import type { BasketQuote } from '../../../core/orders/basket-quote'
import type { FrozenOrder } from '../../../core/orders/order'
import { categoriesAround, givesOf } from '../../../core/kinds/product'
import { isTaxed } from '../../../core/tax/tax-trail'
import { clockDate } from '../../clock'
import { lockPerson } from '../../db/lock-person'
import type { AnyDb, Tx } from '../../db/database'
import { orderLine, shopOrder, till } from '../../db/schema'
import { inOneTurn } from '../../db/turn'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Visitor } from '../../../core/visitor/visitor'
import type { Snapshot } from '../live/snapshot'
import { visitorOf } from '../standing/visitor-of'
import { newId } from '../secrets/tokens'
import { spendCode } from '../shop/given-codes'
import { basketOf, changeBasketIn } from './baskets'
import { keepStock } from './held-stock'
import type { Keeper } from './held-stock'
import { merged } from './lines'
import type { KeptLine } from './lines'
import { canHappen, moveOrder } from './moves'
import type { OrderRow } from '../papers/order-row'
import { spentFor, typedFor } from './spent-codes'
import { tillName } from './tills'
import type { TillHolder, TillRow } from './tills'
import { paidFully } from './settle'
import type { OrderWorld } from './world'

export interface PlaceAsk {
  snapshot: Snapshot
  world: OrderWorld
  /** What bounds how much is kept for them unpaid; left out, nothing does. */ keeper?: Keeper
  /** Who they are, with what they hold: of a person asked once more while nothing of it can move. */
  deciderOf(person: Visitor | null): CompiledDecider
  holder: TillHolder
  /** A guest's, as their browser holds them; a person's are read. */ guestLines?: readonly KeptLine[]
  /** What they saw was to be paid, minor units: another sum by now is told, not taken. */ agreed: number
}

/** The order, and whether it is new; asked twice it is made once. Throws why it cannot be. */
export async function placeOrder(db: AnyDb, ask: PlaceAsk): Promise<{ order: OrderRow; fresh: boolean }> {
  const { holder } = ask
  return inOneTurn(db, async tx => {
    if ('person' in holder) await lockPerson(tx, holder.person)
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
    const placed = await keepOrder(tx, ask, decider, { row, quote })
    // Of nothing to pay nobody tells: it is paid as it is placed.
    const order = placed.gross === 0 ? await paidFully({ tx, world: ask.world, order: placed }) : placed
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

/** The first VAT number among what they said of themselves, or their firm. */
function vatNumberOf({ rules, asker }: CompiledDecider): { vatNumber?: string } {
  const numbers = (rules.rulebook.facts ?? []).flatMap(({ id, type }) => {
    const value = type === 'vatNumber' ? asker.fact(id) : undefined
    return typeof value === 'string' && isVatNumber(value) ? [value] : []
  })
  return numbers[0] === undefined ? {} : { vatNumber: numbers[0] }
}

const titleIn =
  ({ rules }: Snapshot) =>
  (product: string): string =>
    rules.index.get('product', product)?.title ?? product

async function keepOrder(
  tx: Tx,
  { snapshot, holder, keeper }: PlaceAsk,
  decider: CompiledDecider,
  { row, quote }: { row: TillRow; quote: BasketQuote },
): Promise<OrderRow> {
  const { basket } = quote
  const lines = basket.lines.filter(isTaxed)
  const title = titleIn(snapshot)
  const id = newId('order', 20)
  const expiresAt = await keepStock(tx, lines, {
    till: tillName(holder),
    order: id,
    title,
    ...(keeper ? { keeper } : {}),
  })
  const codes = codesUsed(basket, snapshot.rules)
  const typed: NonNullable<FrozenOrder['typed']> = []
  for (const { offer, code: word } of codes.toSorted((a, b) => (a.offer < b.offer ? -1 : 1))) {
    const code = await typedFor(tx, holder, offer, word)
    await spendCode(tx, snapshot, { typed: code, holder, offer, request: spentFor(id, offer) })
    typed.push({ offer, word, code })
  }
  const person = 'person' in holder ? holder.person : null
  const frozen: FrozenOrder = {
    edition: snapshot.edition,
    currency: snapshot.rules.index.site.currency ?? 'EUR',
    titles: Object.fromEntries(lines.map(({ product }) => [product, title(product)])),
    basket,
    shown: quote.shown,
    reductions: basketReductions(basket, snapshot.rules),
    address: row.address,
    delivery: quote.chosen && { id: quote.chosen.id, name: quote.chosen.name },
    codes: codes.map(one => one.code),
    typed,
    note: row.note,
    gift: row.gift,
    buyer: {
      levels: [...decider.asker.levels.keys()],
      roles: [...decider.asker.roles],
      ...vatNumberOf(decider),
    },
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

/**
 * Goes back from an order that nobody has paid: what was kept for it is free, its codes are good again, and what was in it
 * lies in the basket once more. Answers its lines; null where it is none to go back from.
 */
export async function backToBasket(
  db: AnyDb,
  world: OrderWorld,
  id: string,
  personId: string | null,
): Promise<KeptLine[] | null> {
  return inOneTurn(db, async tx => {
    if (personId !== null) await lockPerson(tx, personId)
    const [order] = await tx.select().from(shopOrder).where(eq(shopOrder.id, id)).for('update')
    const isTheirs = order && (order.personId === null || order.personId === personId)
    if (!isTheirs || !canHappen(order, 'backToBasket')) return null
    await moveOrder({ tx, world, order }, 'backToBasket')
    await leaveTrace(tx, { id: personId, name: order.name }, 'order.give-up', `order ${order.number}`)
    const lines = order.frozen.basket.lines.map(({ product, quantity }) => ({ product, quantity, seen: null }))
    // Of a guest who has signed in since.
    if (personId !== null && order.personId === null) await changeBasketIn(tx, personId, own => merged(own, lines))
    return lines
  })
}

/** Orders nobody paid in time. */
export async function giveUpUnpaid(db: AnyDb, world: OrderWorld): Promise<number> {
  return inOneTurn(db, async tx => {
    const rows = await tx
      .select()
      .from(shopOrder)
      .where(and(eq(shopOrder.state, 'placed'), lte(shopOrder.expiresAt, clockDate())))
      .limit(500)
      .for('update', { skipLocked: true })
    for (const order of rows) await moveOrder({ tx, world, order }, 'unpaid')
    return rows.length
  })
}
