import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { Problem } from '../../../problem'
import { decideApplication, decisionInput, findApplication, targetOf } from '../../../services/people/applications'
import { authorise } from '../../../services/staff/authorise'
import { authoriseStaffRole, powerOf } from '../../../services/staff/staff-grants'

export default defineEventHandler(async (event) => {
  const { actor, rights, snapshot } = await staffCaller(event)
  const id = Number(getRouterParam(event, 'id'))
  if (!Number.isInteger(id)) throw new Problem('not-found')
  const decision = await readJson(event, decisionInput)
  const book = snapshot.rules.rulebook
  const about = targetOf(book, (await findApplication(db(), id)).target)
  authorise(rights, { kind: 'people', action: 'change', fields: [about.kind === 'role' ? 'roles' : 'levels'] })
  if (about.kind === 'role' && decision.accept) authoriseStaffRole(rights, powerOf(snapshot), about.id, 'add')
  await decideApplication(db(), book, id, decision, actor)
  return sendNoContent(event)
})
