import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { authorise } from '../../../../services/staff/authorise'
import { changePerson, fieldsOf, personChange } from '../../../../services/people/people'
import { authoriseOverPerson, powerOf } from '../../../../services/staff/staff-grants'

export default defineEventHandler(async event => {
  const { actor, rights, snapshot } = await staffCaller(event)
  const id = getRouterParam(event, 'id') ?? ''
  const change = await readJson(event, personChange)
  await changePerson(db(), id, change, actor, async tx => {
    authorise(rights, { kind: 'people', action: 'change', fields: fieldsOf(change) })
    if (change.email !== undefined || change.suspended !== undefined)
      await authoriseOverPerson(tx, rights, powerOf(snapshot), id)
  })
  return sendNoContent(event)
})
