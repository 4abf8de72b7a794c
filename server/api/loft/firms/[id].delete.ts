import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { staffCaller } from '../../../request'
import { removeFirm } from '../../../services/people/firms'

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  await removeFirm(db(), worker, getRouterParam(event, 'id') ?? '', worker.actor)
  return sendNoContent(event)
})
