import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../../../db/database'
import { staffCaller } from '../../../../../request'
import { Problem } from '../../../../../problem'
import { authorise } from '../../../../../services/staff/authorise'
import { findBulk, undoBulk } from '../../../../../services/people/bulk'
import { authoriseStaffRole, powerOf } from '../../../../../services/staff/staff-grants'

export default defineEventHandler(async (event) => {
  const { actor, rights, snapshot } = await staffCaller(event)
  const id = Number(getRouterParam(event, 'id'))
  if (!Number.isInteger(id)) throw new Problem('not-found')
  const what = await findBulk(db(), id)
  authorise(rights, { kind: 'people', action: 'change', fields: ['role' in what ? 'roles' : 'levels'] })
  // Undoing a gift takes, and undoing a taking gives.
  if ('role' in what) authoriseStaffRole(rights, powerOf(snapshot), what.role, what.do === 'giveRole' ? 'withdraw' : 'add')
  await undoBulk(db(), snapshot.rules.rulebook, id, actor)
  return sendNoContent(event)
})
