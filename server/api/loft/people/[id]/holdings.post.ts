import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { authorise } from '../../../../services/staff/authorise'
import { authoriseStaffRole, powerOf } from '../../../../services/staff/staff-grants'
import { giveHolding, holdingInput } from '../../../../services/people/people'

export default defineEventHandler(async (event) => {
  const { actor, snapshot, rights } = await staffCaller(event)
  const input = await readJson(event, holdingInput)
  const book = snapshot.rules.rulebook
  authorise(rights, { kind: 'people', action: 'change', fields: [input.what === 'role' ? 'roles' : 'levels'] })
  if (input.what === 'role') authoriseStaffRole(rights, powerOf(snapshot), input.role, 'add')
  await giveHolding(db(), book, getRouterParam(event, 'id') ?? '', input, actor)
  return sendNoContent(event)
})
