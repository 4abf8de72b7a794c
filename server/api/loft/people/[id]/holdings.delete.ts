import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../../db/database'
import { mostInteger, readJson, staffCaller } from '../../../../request'
import { takeHolding } from '../../../../services/people/people'

const input = z.union([
  z.strictObject({ membership: z.int().min(1).max(mostInteger) }),
  z.strictObject({ role: z.string() }),
])

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  await takeHolding(db(), worker, getRouterParam(event, 'id') ?? '', await readJson(event, input), worker.actor)
  return sendNoContent(event)
})
