import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { changePage, pageChange } from '../../../services/pages/content'

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  await changePage(db(), worker, getRouterParam(event, 'id') ?? '', await readJson(event, pageChange), worker.actor)
  return sendNoContent(event)
})
