import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { changeFirm, firmChange } from '../../../services/people/firms'

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  await changeFirm(db(), worker, getRouterParam(event, 'id') ?? '', await readJson(event, firmChange), worker.actor)
  return sendNoContent(event)
})
