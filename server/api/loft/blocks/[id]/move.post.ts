import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { authoriseBlockPlace } from '../../../../services/pages/content-rights'
import { moveBlock } from '../../../../services/pages/content'

const input = z.strictObject({ /** The block beside it that it comes before; null: last. */ before: z.string().nullable() })

export default defineEventHandler(async (event) => {
  const worker = await staffCaller(event)
  const id = getRouterParam(event, 'id') ?? ''
  const { before } = await readJson(event, input)
  await authoriseBlockPlace(db(), worker, id)
  await moveBlock(db(), { id, before, actor: worker.actor })
  return sendNoContent(event)
})
