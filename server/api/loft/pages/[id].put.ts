import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { authorisePage } from '../../../services/pages/content-rights'
import { pageInput, savePage } from '../../../services/pages/content'

export default defineEventHandler(async (event) => {
  const worker = await staffCaller(event)
  const input = { ...(await readJson(event, pageInput.omit({ id: true }))), id: getRouterParam(event, 'id') ?? '' }
  await authorisePage(db(), worker, input.id, 'change', input)
  await savePage(db(), input, worker.actor, false)
  return sendNoContent(event)
})
