import { defineEventHandler } from 'h3'
import { z } from 'zod'
import { db } from '../../db/database'
import { readJson, staffCaller } from '../../request'
import { authorisePublish } from '../../services/rules/entry-rights'
import { publish } from '../../services/rules/rulebook-store'
import { reload } from '../../services/rules/snapshot'

const input = z.strictObject({ note: z.string().max(2000), expects: z.int() })

export default defineEventHandler(async event => {
  const { actor, rights } = await staffCaller(event)
  const asked = await readJson(event, input)
  const edition = await publish(db(), { ...asked, actor, authorise: tx => authorisePublish(tx, rights) })
  // The other servers hear of it by themselves; this one obeys before it answers.
  await reload()
  return { edition }
})
