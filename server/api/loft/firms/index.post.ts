import { defineEventHandler, setResponseStatus } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { addFirm, firmInput } from '../../../services/people/firms'

export default defineEventHandler(async event => {
  const { actor } = await staffCaller(event)
  const input = await readJson(event, firmInput)
  await addFirm(db(), input, actor)
  setResponseStatus(event, 201)
  return { id: input.id }
})
