import { defineEventHandler, getRouterParam, sendRedirect, setResponseHeaders } from 'h3'
import { eq } from 'drizzle-orm'
import { db } from '../../db/database'
import { block } from '../../db/schema'
import { Problem } from '../../problem'
import { callerOf } from '../../request'
import { record, tierOf } from '../../services/activity/activity'
import type { BlockBody } from '../../services/pages/blocks'

/** A link whose clicks are noted. It leads on only for whom its block opens, and only where the block says. */
export default defineEventHandler(async event => {
  const { decider, signedIn } = await callerOf(event)
  setResponseHeaders(event, { 'cache-control': 'private, no-store', vary: 'Cookie' })
  const id = getRouterParam(event, 'block') ?? ''
  const [row] = decider.decide({ kind: 'block', id }).open
    ? await db().select().from(block).where(eq(block.id, id))
    : []
  const body = row?.kind === 'call' ? (row.body as BlockBody<'call'>) : undefined
  if (!body?.counted) throw new Problem('not-found')
  record({
    kind: 'click',
    personId: signedIn?.personId ?? null,
    tier: tierOf(decider.asker, decider.rules.rulebook),
    subjectKind: 'block',
    subjectId: id,
  })
  return sendRedirect(event, body.href, 303)
})
