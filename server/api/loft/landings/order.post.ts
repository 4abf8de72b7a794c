import { defineEventHandler, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { moveEntry } from '../../../services/rules/rulebook-store'

const input = z.strictObject({
  key: z.string(),
  /** The landing it comes before; null: last. */ before: z.string().nullable(),
})

export default defineEventHandler(async event => {
  const { actor } = await staffCaller(event)
  await moveEntry(db(), { kind: 'landing', ...(await readJson(event, input)), actor })
  return sendNoContent(event)
})
