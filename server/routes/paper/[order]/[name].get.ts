import { defineEventHandler, getRouterParam } from 'h3'
import { db } from '../../../db/database'
import { sendPaper } from '../../../papers'
import { Problem } from '../../../problem'
import { callerOf } from '../../../request/caller'
import { invoiceOf } from '../../../services/papers/invoices'

/** An invoice or credit note as a file, by its number and what it is wanted as. */
export default defineEventHandler(async event => {
  const [, number, as] = /^([\w-]+)\.(pdf|xml)$/.exec(getRouterParam(event, 'name') ?? '') ?? []
  const found = number ? await invoiceOf(db(), getRouterParam(event, 'order') ?? '', number) : null
  if (!found) throw new Problem('not-found')
  const { snapshot } = await callerOf(event)
  return sendPaper(event, found, as as 'pdf' | 'xml', snapshot.rules.index.site.timezone)
})
