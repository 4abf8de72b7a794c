import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../db/database'
import { Problem } from '../../../problem'
import { parseWith } from '../../../parse-with'
import { readJson, staffCaller } from '../../../request'
import { blockChange, changeBlock } from '../../../services/pages/content'

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  const own = getRouterParam(event, 'id') ?? ''
  const { id, ...change } = await readJson(event, z.looseObject({ id: z.string().optional() }))
  if (id !== undefined && id !== own)
    throw new Problem('bad-input', 'The id in the body is not the one in the address.', { at: '/id' })
  await changeBlock(db(), worker, own, parseWith(blockChange, change), worker.actor)
  return sendNoContent(event)
})
