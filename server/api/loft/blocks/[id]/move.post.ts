import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { moveBlock } from '../../../../services/pages/content'

const input = z.strictObject({
  /** The block beside it that it comes before; null: last. */ before: z.string().nullable(),
})

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  const { before } = await readJson(event, input)
  await moveBlock(db(), worker, { id: getRouterParam(event, 'id') ?? '', before, actor: worker.actor })
  return sendNoContent(event)
})
