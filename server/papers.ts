/** An invoice or credit note as a file, to whoever may have it. */
import { setResponseHeaders } from 'h3'
import type { H3Event } from 'h3'
import { z } from 'zod'
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
  // What writes them is read with the first: it takes a while, and the site starts without.
  if (as === 'xml') return (await import('./services/papers/invoice-ubl')).invoiceUbl(paper)
  return (await import('./services/papers/invoice-pdf')).invoicePdf(paper, spokenWords(event), timezone)
}
