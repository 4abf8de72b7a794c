import { defineEventHandler } from 'h3'
import { z } from 'zod'
import { visitor } from '../../../core/rulebook/visitor'
import { db } from '../../db/database'
import { readJson, staffCaller } from '../../request'
import { draftSnapshot } from '../../services/rules/snapshot'
import { authoriseWalk } from '../../services/entrance/walk-rights'
import { makeWalkToken, walkMinutes } from '../../services/entrance/walk-token'

const input = z.strictObject({ tier: z.string().max(200), visitor, draft: z.boolean() })

/** A pass to see the site as a kind of visitor: for this session, for a quarter of an hour. */
export default defineEventHandler(async event => {
  const { signedIn, nowMs, rights, snapshot } = await staffCaller(event)
  const asked = await readJson(event, input)
  const { rules } = asked.draft ? await draftSnapshot() : snapshot
  await authoriseWalk(db(), rights, snapshot, rules.rulebook, asked.visitor)
  const expires = nowMs + walkMinutes * 60_000
  return { base: `/walk/${makeWalkToken({ ...asked, session: signedIn.sessionId, expires })}`, expires }
})
