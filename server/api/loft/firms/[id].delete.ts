import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { staffCaller } from '../../../request'
import { removeFirm } from '../../../services/people/firms'

export default defineEventHandler(async (event) => {
  const { actor } = await staffCaller(event)
  await removeFirm(db(), getRouterParam(event, 'id') ?? '', actor)
  return sendNoContent(event)
})
