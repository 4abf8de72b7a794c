import { defineEventHandler, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { entryPlace, expected } from '../../../../services/entry-address'
import { authoriseEntry } from '../../../../services/entry-rights'
import { removeEntry } from '../../../../services/rulebook-store'

export default defineEventHandler(async (event) => {
  const { actor, rights } = await staffCaller(event)
  const { expects } = await readJson(event, z.strictObject({ expects: expected }))
  const place = entryPlace(event)
  await authoriseEntry(db(), rights, { ...place, body: null })
  await removeEntry(db(), { ...place, expects, actor })
  return sendNoContent(event)
})
