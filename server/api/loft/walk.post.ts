import { defineEventHandler } from 'h3'
import { z } from 'zod'
import { visitor } from '../../../core/rulebook/visitor'
import { db } from '../../db/database'
import { readJson, staffCaller } from '../../request'
import { authorise } from '../../services/staff/authorise'
import { visitorOf } from '../../services/people/visitor-of'
import { makeWalkToken, walkMinutes } from '../../services/entrance/walk-token'

const input = z.strictObject({ tier: z.string().max(200), visitor, draft: z.boolean() })

/** A pass to see the site as a kind of visitor: for this session, for a quarter of an hour. */
export default defineEventHandler(async (event) => {
  const { signedIn, nowMs, rights } = await staffCaller(event)
  const asked = await readJson(event, input)
  // A tier is nobody in particular; as a real person the walk shows what is theirs alone.
  const person = asked.visitor.person && await visitorOf(db(), asked.visitor.person.id)
  if (person) authorise(rights, { kind: 'people', action: 'look' })
  const expires = nowMs + walkMinutes * 60_000
  return { base: `/walk/${makeWalkToken({ ...asked, session: signedIn.sessionId, expires })}`, expires }
})
