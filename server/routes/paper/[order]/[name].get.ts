import { defineEventHandler, getRouterParam, setResponseHeaders } from 'h3'
import { db } from '../../../db/database'
import { Problem } from '../../../problem'
import { callerOf } from '../../../request'
import { invoiceOf } from '../../../services/papers/invoices'
import { invoicePdf } from '../../../services/papers/invoice-pdf'
import { invoiceUbl } from '../../../services/papers/invoice-ubl'
import { spokenWords } from '../../../spoken-words'

/** An invoice or credit note as a file, by its number and what it is wanted as. */
export default defineEventHandler(async event => {
  const [, number, as] = /^([\w-]+)\.(pdf|xml)$/.exec(getRouterParam(event, 'name') ?? '') ?? []
  const found = number ? await invoiceOf(db(), getRouterParam(event, 'order') ?? '', number) : null
  if (!found) throw new Problem('not-found')
  setResponseHeaders(event, {
    'cache-control': 'private, no-store',
    'content-type': as === 'pdf' ? 'application/pdf' : 'application/xml; charset=utf-8',
    'content-disposition': `inline; filename="${found.number}.${as}"`,
  })
  if (as === 'xml') return invoiceUbl(found)
  const { snapshot } = await callerOf(event)
  const { site } = snapshot.rules.index
  return invoicePdf(found, spokenWords(event), site.timezone)
})
