import { defineEventHandler, getRouterParam, sendRedirect, setResponseHeaders } from 'h3'
import { db } from '../../db/database'
import { Problem } from '../../problem'
import { callerOf } from '../../request/caller'
import { settled } from '../../services/facts/settled'
import { record, tierOf } from '../../services/activity/activity'
import type { BlockBody, BlockKind } from '../../../core/blocks/blocks'
import { mayLead } from '../../../core/blocks/call'
import { opensWhereItStands } from '../../../core/pages/made-from/standing-open'
import { contentOf } from '../../services/versions/versions'

/** A link whose clicks are noted. It leads on only for whom its block opens, and only where the block says. */
export default defineEventHandler(async event => {
  const { decider: first, signedIn, snapshot } = await callerOf(event)
  setResponseHeaders(event, { 'cache-control': 'private, no-store', vary: 'Cookie' })
  const id = getRouterParam(event, 'block') ?? ''
  const { result, decider } = await settled(first, async decider => {
    const row = opensWhereItStands({ kind: 'block', id }, snapshot.rules, thing => decider.decide(thing).open)
      ? snapshot.contents.get('block', id)
      : undefined
    const content = row && (await contentOf(db(), [row.id])).get(row.id)
    const isCall = row && snapshot.rules.index.get('block', id)?.kind === ('call' satisfies BlockKind)
    const body = isCall ? (content?.body as BlockBody<'call'> | undefined) : undefined
    const leads =
      body &&
      (body.whenRefused === 'show' || mayLead(body.href, snapshot.rules.index, thing => decider.decide(thing).open))
    return { body, leads }
  })
  const { body, leads } = result
  if (!body?.counted || !leads) throw new Problem('not-found')
  // Whoever only asks where it leads has not followed it.
  if (event.context.headOnly) return sendRedirect(event, body.href, 303)
  record({
    kind: 'click',
    personId: signedIn?.personId ?? null,
    tier: tierOf(decider.asker, decider.rules.rulebook),
    subjectKind: 'block',
    subjectId: id,
  })
  return sendRedirect(event, body.href, 303)
})
