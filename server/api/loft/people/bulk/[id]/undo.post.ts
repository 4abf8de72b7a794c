import { defineEventHandler, sendNoContent } from 'h3'
import { db } from '../../../../../db/database'
import { numberParam, staffCaller } from '../../../../../request'
import { undoBulk } from '../../../../../services/people/bulk'

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  await undoBulk(db(), worker, numberParam(event, 'id'), worker.actor)
  return sendNoContent(event)
})
