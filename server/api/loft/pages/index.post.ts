import { defineEventHandler, setResponseStatus } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { addPage, pageInput } from '../../../services/pages/content'

export default defineEventHandler(async event => {
  const { actor } = await staffCaller(event)
  const input = await readJson(event, pageInput)
  await addPage(db(), input, actor)
  setResponseStatus(event, 201)
  return { id: input.id }
})
