import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { z } from 'zod'
import { staffRule } from '../../../../core/staff/staff-rule'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { reload } from '../../../services/rules/snapshot'
import { writeStaffRules } from '../../../services/staff/staff-rules'

const input = z.strictObject({ rules: z.array(staffRule).max(200) })

export default defineEventHandler(async event => {
  const { actor, rights } = await staffCaller(event)
  const { rules } = await readJson(event, input)
  await writeStaffRules(db(), { role: getRouterParam(event, 'role') ?? '', rules, rights, actor })
  await reload()
  return sendNoContent(event)
})
