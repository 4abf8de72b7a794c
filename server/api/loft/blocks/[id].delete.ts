import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { staffCaller } from '../../../request'
import { removeBlock } from '../../../services/pages/content'

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  await removeBlock(db(), worker, getRouterParam(event, 'id') ?? '', worker.actor)
  return sendNoContent(event)
})
