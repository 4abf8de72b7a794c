import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { staffCaller } from '../../../request'
import { authorisePage } from '../../../services/pages/content-rights'
import { removePage } from '../../../services/pages/content'

export default defineEventHandler(async (event) => {
  const worker = await staffCaller(event)
  const id = getRouterParam(event, 'id') ?? ''
  await authorisePage(db(), worker, id, 'withdraw')
  await removePage(db(), id, worker.actor)
  return sendNoContent(event)
})
