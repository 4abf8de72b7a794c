import { defineEventHandler, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { authorise } from '../../../services/staff/authorise'
import { emailAddress, invite } from '../../../services/entrance/sign-up'

const input = z.strictObject({
  email: emailAddress,
  levels: z.array(z.string()).max(20).default([]),
  roles: z.array(z.string()).max(20).default([]),
  firm: z.string().optional(),
})

export default defineEventHandler(async event => {
  const { actor, rights } = await staffCaller(event)
  const { firm, ...asked } = await readJson(event, input)
  // What an invitation brings is given, so it takes the right to give it.
  const fields = [...(asked.levels.length ? ['levels'] : []), ...(asked.roles.length ? ['roles'] : [])]
  if (fields.length) authorise(rights, { kind: 'people', action: 'change', fields })
  if (firm) authorise(rights, { kind: 'firms', action: 'change' })
  await invite(db(), { ...asked, ...(firm ? { firm } : {}) }, actor)
  return sendNoContent(event)
})
