import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../../db/database'
import { staffCaller } from '../../../../request'
import { revokeInvitation } from '../../../../services/people/invitations'

/** Takes an invitation back. */
export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  await revokeInvitation(db(), worker, getRouterParam(event, 'id') ?? '', worker.actor)
  return sendNoContent(event)
})
