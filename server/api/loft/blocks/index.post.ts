import { defineEventHandler, setResponseStatus } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { addBlock, blockInput } from '../../../services/pages/content'

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  const input = await readJson(event, blockInput)
  await addBlock(db(), worker, input, worker.actor)
  setResponseStatus(event, 201)
  return { id: input.id }
})
