import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../../db/database'
import { staffCaller } from '../../../../request'
import { lockedPerson } from '../../../../services/people/people'
import { endSessions } from '../../../../services/entrance/sessions'
import { authoriseOverPerson, powerOf } from '../../../../services/staff/staff-grants'
import { leaveTrace } from '../../../../services/trace'

/** Signs a person out everywhere. */
export default defineEventHandler(async event => {
  const { actor, rights, snapshot } = await staffCaller(event)
  const id = getRouterParam(event, 'id') ?? ''
  await db().transaction(async tx => {
    await lockedPerson(tx, id)
    await authoriseOverPerson(tx, rights, powerOf(snapshot), id)
    const ended = await endSessions(tx, id, { allBut: null })
    await leaveTrace(tx, actor, 'person.end-sessions', `person ${id}`, { ended })
  })
  return sendNoContent(event)
})
