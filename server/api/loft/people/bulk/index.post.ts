import { defineEventHandler } from 'h3'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { authorise } from '../../../../services/staff/authorise'
import { applyBulk, bulkApply } from '../../../../services/people/bulk'
import { authoriseStaffRole, powerOf } from '../../../../services/staff/staff-grants'

export default defineEventHandler(async (event) => {
  const { actor, rights, snapshot, nowMs } = await staffCaller(event)
  const input = await readJson(event, bulkApply)
  authorise(rights, { kind: 'people', action: 'change', fields: ['role' in input.what ? 'roles' : 'levels'] })
  if ('role' in input.what) authoriseStaffRole(rights, powerOf(snapshot), input.what.role, input.what.do === 'giveRole' ? 'add' : 'withdraw')
  return applyBulk(db(), { rules: snapshot.rules, nowMs }, input, actor)
})
