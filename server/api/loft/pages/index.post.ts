import { defineEventHandler, setResponseStatus } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { pageInput, savePage } from '../../../services/pages/content'

export default defineEventHandler(async (event) => {
  const { actor } = await staffCaller(event)
  const input = await readJson(event, pageInput)
  await savePage(db(), input, actor, true)
  setResponseStatus(event, 201)
  return { id: input.id }
})
