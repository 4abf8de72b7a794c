import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { addNote } from '../../../../services/people/people'

const input = z.strictObject({ text: z.string().trim().min(1, 'A note says something.').max(5000) })

export default defineEventHandler(async event => {
  const { actor } = await staffCaller(event)
  const { text } = await readJson(event, input)
  await addNote(db(), getRouterParam(event, 'id') ?? '', text, actor)
  return sendNoContent(event)
})
