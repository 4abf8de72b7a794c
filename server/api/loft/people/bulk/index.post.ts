import { defineEventHandler } from 'h3'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { applyBulk, bulkApply } from '../../../../services/people/bulk'

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  return applyBulk(db(), worker, await readJson(event, bulkApply), worker.actor)
})
