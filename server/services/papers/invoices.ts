/** Invoices and credit notes: what stands on one is kept as it was issued, under a number that follows the one before. */
import { and, asc, eq, sql } from 'drizzle-orm'
import type { FrozenOrder, InvoiceBody, InvoiceLine } from '../../../core/orders/order'
import type { RefundBody } from '../../../core/orders/refund'
import { isTaxed } from '../../../core/tax/tax-trail'
import type { AppliedRate, TaxOfRate } from '../../../core/tax/tax-trail'
import { localTime } from '../../../core/calendar'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { invoice, invoiceSeries, shopOrder } from '../../db/schema'
import type { OrderRow } from './order-row'

export type InvoiceRow = typeof invoice.$inferSelect
export type Seller = InvoiceBody['seller'] & { timezone: string }

/** `2026-00017`, `C2026-00003`: by the year it is at the mill. The series is locked to the end of the transaction, so that a number is taken by what is kept and by nothing else. */
async function nextNumber(tx: Tx, kind: InvoiceRow['kind'], year: string): Promise<string> {
  const series = `${kind === 'credit' ? 'C' : ''}${year}`
  const [row] = await tx
    .insert(invoiceSeries)
    .values({ series, last: 1 })
    .onConflictDoUpdate({ target: invoiceSeries.series, set: { last: sql`${invoiceSeries.last} + 1` } })
    .returning({ last: invoiceSeries.last })
  return `${series}-${String(row!.last).padStart(5, '0')}`
}

async function issue(
  tx: Tx,
  order: OrderRow,
  {
    kind,
    body,
    refundId = null,
    timezone,
  }: Pick<InvoiceRow, 'kind' | 'body'> & { refundId?: number | null; timezone: string },
): Promise<InvoiceRow> {
  const year = localTime(clockMs(), timezone).date.slice(0, 4)
  const number = await nextNumber(tx, kind, year)
  const values = { number, kind, orderId: order.id, refundId, issuedAt: clockDate(), body }
  return (await tx.insert(invoice).values(values).returning())[0]!
}

const withNames = (taxes: readonly TaxOfRate[], applied: readonly AppliedRate[]) =>
  taxes.map(({ rate, amount }) => {
    const { called, percent } = applied.find(one => one.rate === rate)!
    return { rate, called, percent, amount }
  })

const appliedOf = ({ basket }: FrozenOrder, position: number) => basket.lines.filter(isTaxed)[position]!.tax.applied
const titleOf = ({ titles }: FrozenOrder, product: string) => titles[product] ?? product

/** By what a tax is called and its percentage: what a buyer adds up. */
function summed(lines: readonly InvoiceLine[]): InvoiceBody['taxes'] {
  const all = new Map<string, InvoiceBody['taxes'][number]>()
  for (const { rate, called, percent, amount } of lines.flatMap(one => one.taxes)) {
    const there = all.get(`${called}\n${percent}`)
    if (there) there.amount += amount
    else all.set(`${called}\n${percent}`, { rate, called, percent, amount })
  }
  return [...all.values()]
}

function bodyOf(order: OrderRow, seller: Seller, lines: InvoiceLine[], delivery: InvoiceLine | null): InvoiceBody {
  const { frozen } = order
  const { timezone: _, ...from } = seller
  const all = delivery ? [...lines, delivery] : lines
  const net = all.reduce((sum, one) => sum + one.net, 0)
  const gross = all.reduce((sum, one) => sum + one.gross, 0)
  return {
    seller: from,
    buyer: { name: order.name, email: order.email, address: frozen.address },
    orderNumber: order.number,
    currency: frozen.currency,
    lines,
    delivery,
    taxes: summed(all),
    net,
    tax: gross - net,
    gross,
    shown: frozen.shown,
  }
}

export async function issueInvoice(tx: Tx, order: OrderRow, seller: Seller): Promise<InvoiceRow> {
  const { basket, delivery: way } = order.frozen
  const lines = basket.lines.filter(isTaxed).map(({ product, quantity, net, gross, taxes, tax }) => ({
    title: titleOf(order.frozen, product),
    quantity,
    net,
    gross,
    taxes: withNames(taxes, tax.applied),
  }))
  const { net, gross, taxes, trail } = basket.delivery
  const delivery = way && { title: way.name, quantity: 1, net, gross, taxes: withNames(taxes, trail?.applied ?? []) }
  return issue(tx, order, { kind: 'invoice', body: bodyOf(order, seller, lines, delivery), timezone: seller.timezone })
}

export async function issueCredit(
  tx: Tx,
  order: OrderRow,
  { id, body }: { id: number; body: RefundBody },
  seller: Seller,
): Promise<InvoiceRow> {
  const { frozen } = order
  const taken = frozen.basket.lines.filter(isTaxed)
  const lines = body.lines.map(({ position, pieces, net, gross, taxes }) => ({
    title: titleOf(frozen, taken[position]!.product),
    quantity: pieces,
    net,
    gross,
    taxes: withNames(taxes, appliedOf(frozen, position)),
  }))
  const back = body.delivery
  const delivery = back && {
    title: frozen.delivery?.name ?? '',
    quantity: 1,
    net: back.net,
    gross: back.gross,
    taxes: withNames(back.taxes, frozen.basket.delivery.trail?.applied ?? []),
  }
  const [first] = await tx
    .select()
    .from(invoice)
    .where(and(eq(invoice.orderId, order.id), eq(invoice.kind, 'invoice')))
  const made = { ...bodyOf(order, seller, lines, delivery), ...(first ? { of: first.number } : {}) }
  return issue(tx, order, { kind: 'credit', body: made, refundId: id, timezone: seller.timezone })
}

export const invoicesOf = (db: AnyDb, orderId: string): Promise<InvoiceRow[]> =>
  db.select().from(invoice).where(eq(invoice.orderId, orderId)).orderBy(asc(invoice.issuedAt), asc(invoice.number))

/** One by its number, of this order; null where there is none. */
export async function invoiceOf(db: AnyDb, orderId: string, number: string): Promise<InvoiceRow | null> {
  const [row] = await db
    .select()
    .from(invoice)
    .where(and(eq(invoice.orderId, orderId), eq(invoice.number, number)))
  return row ?? null
}

/** The same by the number of its order, as staff name it. */
export async function invoiceOfNumber(db: AnyDb, order: number, number: string): Promise<InvoiceRow | null> {
  const [row] = await db
    .select({ paper: invoice })
    .from(invoice)
    .innerJoin(shopOrder, eq(shopOrder.id, invoice.orderId))
    .where(and(eq(shopOrder.number, order), eq(invoice.number, number)))
  return row?.paper ?? null
}
