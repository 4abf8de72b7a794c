import { defineEventHandler, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { entryPlace, expected } from '../../../../services/rules/entry-address'
import { permitEntry } from '../../../../services/rules/entry-rights'
import { removeEntry } from '../../../../services/rules/rulebook-store'

export default defineEventHandler(async event => {
  const { actor, rights } = await staffCaller(event)
  const { expects } = await readJson(event, z.strictObject({ expects: expected }))
  await removeEntry(db(), { ...entryPlace(event), expects, actor, permit: permitEntry(rights) })
  return sendNoContent(event)
})
