import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { decideSignUp } from '../../../../services/entrance/sign-up'

const input = z.discriminatedUnion('approve', [
  z.strictObject({ approve: z.literal(true) }),
  z.strictObject({ approve: z.literal(false), words: z.string().max(2000).default('') }),
])

export default defineEventHandler(async event => {
  const { actor, snapshot } = await staffCaller(event)
  const world = {
    book: snapshot.rules.rulebook,
    settings: snapshot.settings,
    timezone: snapshot.rules.index.site.timezone,
  }
  await decideSignUp(db(), world, getRouterParam(event, 'id') ?? '', await readJson(event, input), actor)
  return sendNoContent(event)
})
