/** An invoice or a credit note on a page that prints well; whoever has the order's address has its papers. */
import type { InvoiceBody } from '../../core/orders/order'
import { db } from '../db/database'
import { Problem } from '../problem'
import { invoiceOf } from '../services/papers/invoices'
import type { OwnPage } from './own-page'

export interface InvoiceData {
  number: string
  kind: 'invoice' | 'credit'
  issuedAt: string
  body: InvoiceBody
  order: string
  timezone: string
}

export const invoicePage: OwnPage<InvoiceData> = {
  path: '/invoice',
  async load({ rest: [order = '', number = '', ...more], caller }) {
    const found = more.length ? null : await invoiceOf(db(), order, number)
    if (!found) throw new Problem('not-found')
    const { kind, body, issuedAt } = found
    return {
      number,
      kind,
      body,
      order,
      issuedAt: issuedAt.toISOString(),
      timezone: caller.snapshot.rules.index.site.timezone,
    }
  },
}
