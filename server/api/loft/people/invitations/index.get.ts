import { defineEventHandler, setResponseHeader } from 'h3'
import { db } from '../../../../db/database'
import { staffCaller } from '../../../../request'
import { listInvitations } from '../../../../services/people/invitations'

/** Invitations that can still be taken up. */
export default defineEventHandler(async event => {
  const { snapshot } = await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return listInvitations(db(), snapshot.rules.rulebook)
})
