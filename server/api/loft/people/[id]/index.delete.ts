import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../../db/database'
import { staffCaller } from '../../../../request'
import { removePerson } from '../../../../services/people/people'
import { authoriseOverPerson, powerOf } from '../../../../services/staff/staff-grants'

export default defineEventHandler(async event => {
  const { actor, rights, snapshot } = await staffCaller(event)
  const id = getRouterParam(event, 'id') ?? ''
  await removePerson(db(), id, actor, tx => authoriseOverPerson(tx, rights, powerOf(snapshot), id))
  return sendNoContent(event)
})
