/** An invoice or credit note as a file, to whoever may have it. */
import { setResponseHeaders } from 'h3'
import type { H3Event } from 'h3'
import { z } from 'zod'
import { invoicePdf } from './services/papers/invoice-pdf'
import { invoiceUbl } from './services/papers/invoice-ubl'
import type { InvoiceRow } from './services/papers/invoices'
import { spokenWords } from './spoken-words'

export const paperAsked = z.object({ as: z.enum(['pdf', 'xml']).default('pdf') })

export async function sendPaper(
  event: H3Event,
  paper: InvoiceRow,
  as: z.infer<typeof paperAsked>['as'],
  timezone: string,
): Promise<string | Buffer> {
  setResponseHeaders(event, {
    'cache-control': 'private, no-store',
    'content-type': as === 'pdf' ? 'application/pdf' : 'application/xml; charset=utf-8',
    'content-disposition': `inline; filename="${paper.number}.${as}"`,
  })
  return as === 'xml' ? invoiceUbl(paper) : invoicePdf(paper, spokenWords(event), timezone)
}
