import { defineEventHandler, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { Problem } from '../../../problem'
import { knownRole } from '../../../services/people/people'
import { emailAddress, invite } from '../../../services/entrance/sign-up'

const input = z.strictObject({ email: emailAddress, levels: z.array(z.string()).max(20).default([]), roles: z.array(z.string()).max(20).default([]), firm: z.string().optional() })

export default defineEventHandler(async (event) => {
  const { actor, snapshot } = await staffCaller(event)
  const { firm, ...asked } = await readJson(event, input)
  const book = snapshot.rules.rulebook
  for (const role of asked.roles) if (knownRole(book, role).staff) throw new Problem('bad-input', 'A staff role is handed out by name, never by an invitation.', { at: '/roles' })
  for (const level of asked.levels) if (!book.levels?.some(one => one.id === level)) throw new Problem('bad-input', `There is no level “${level}” in the live edition.`, { at: '/levels' })
  if (firm && !snapshot.firms.some(one => one.id === firm)) throw new Problem('bad-input', `There is no firm “${firm}”.`, { at: '/firm' })
  await invite(db(), { ...asked, ...(firm ? { firm } : {}) }, actor)
  return sendNoContent(event)
})
