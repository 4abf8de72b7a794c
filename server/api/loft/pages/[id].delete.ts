import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { staffCaller } from '../../../request'
import { removePage } from '../../../services/pages/content'

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  await removePage(db(), worker, getRouterParam(event, 'id') ?? '', worker.actor)
  return sendNoContent(event)
})
