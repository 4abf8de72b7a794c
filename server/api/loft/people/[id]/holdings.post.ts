import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { giveHolding, holdingInput } from '../../../../services/people/people'

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  await giveHolding(db(), worker, getRouterParam(event, 'id') ?? '', await readJson(event, holdingInput), worker.actor)
  return sendNoContent(event)
})
