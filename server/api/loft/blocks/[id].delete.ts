import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { staffCaller } from '../../../request'
import { authoriseBlock } from '../../../services/pages/content-rights'
import { removeBlock } from '../../../services/pages/content'

export default defineEventHandler(async (event) => {
  const worker = await staffCaller(event)
  const id = getRouterParam(event, 'id') ?? ''
  await authoriseBlock(db(), worker, id, 'withdraw')
  await removeBlock(db(), id, worker.actor)
  return sendNoContent(event)
})
