/** Invoices and credit notes: what stands on one is kept as it was issued, under a number that follows the one before. */
import { and, asc, eq, sql } from 'drizzle-orm'
import { creditBody, invoiceBody } from '../../../core/orders/invoice-body'
import type { PaperSeller } from '../../../core/orders/invoice-body'
import type { RefundBody } from '../../../core/orders/refund'
import { localTime } from '../../../core/calendar'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { invoice, invoiceSeries, shopOrder } from '../../db/schema'
import type { OrderRow } from './order-row'

export type InvoiceRow = typeof invoice.$inferSelect
export type Seller = PaperSeller & { timezone: string }

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

const without = ({ timezone: _, ...seller }: Seller) => seller

export const issueInvoice = (tx: Tx, order: OrderRow, seller: Seller): Promise<InvoiceRow> =>
  issue(tx, order, { kind: 'invoice', body: invoiceBody(order, without(seller)), timezone: seller.timezone })

export async function issueCredit(
  tx: Tx,
  order: OrderRow,
  { id, body: back }: { id: number; body: RefundBody },
  seller: Seller,
): Promise<InvoiceRow> {
  const [first] = await tx
    .select()
    .from(invoice)
    .where(and(eq(invoice.orderId, order.id), eq(invoice.kind, 'invoice')))
  const body = creditBody(order, { back, of: first?.number }, without(seller))
  return issue(tx, order, { kind: 'credit', body, refundId: id, timezone: seller.timezone })
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
