import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { authorise } from '../../../../services/staff/authorise'
import { authoriseStaffRole, powerOf } from '../../../../services/staff/staff-grants'
import { takeHolding } from '../../../../services/people/people'

const input = z.union([z.strictObject({ membership: z.int() }), z.strictObject({ role: z.string() })])

export default defineEventHandler(async (event) => {
  const { actor, snapshot, rights } = await staffCaller(event)
  const holding = await readJson(event, input)
  const book = snapshot.rules.rulebook
  authorise(rights, { kind: 'people', action: 'change', fields: ['role' in holding ? 'roles' : 'levels'] })
  if ('role' in holding) authoriseStaffRole(rights, powerOf(snapshot), holding.role, 'withdraw')
  await takeHolding(db(), book, getRouterParam(event, 'id') ?? '', holding, actor)
  return sendNoContent(event)
})
