import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { Problem } from '../../../problem'
import { readJson, staffCaller } from '../../../request'
import { authoriseBlock } from '../../../services/pages/content-rights'
import { blockInput, saveBlock } from '../../../services/pages/content'

export default defineEventHandler(async (event) => {
  const worker = await staffCaller(event)
  const input = await readJson(event, blockInput)
  if (input.id !== getRouterParam(event, 'id')) throw new Problem('bad-input', 'The id in the body is not the one in the address.', { at: '/id' })
  await authoriseBlock(db(), worker, input.id, 'change', input)
  await saveBlock(db(), input, worker.actor, false)
  return sendNoContent(event)
})
