import { defineEventHandler } from 'h3'
import { z } from 'zod'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { entryPlace, expected } from '../../../../services/rules/entry-address'
import { permitEntry } from '../../../../services/rules/entry-rights'
import { saveEntry } from '../../../../services/rules/rulebook-store'

const input = z.strictObject({ body: z.unknown(), expects: expected })

export default defineEventHandler(async event => {
  const { actor, rights } = await staffCaller(event)
  const { kind, key } = entryPlace(event)
  const asked = await readJson(event, input)
  const saved = await saveEntry(db(), { kind, key, ...asked, actor, permit: permitEntry(rights) })
  return { version: saved && { id: saved.id, revision: saved.revision } }
})
