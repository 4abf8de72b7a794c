import { defineEventHandler, setResponseHeader } from 'h3'
import { mayStaff } from '../../../../core/staff/staff-rule'
import { db } from '../../../db/database'
import { staffCaller } from '../../../request'
import { listFirms } from '../../../services/people/firms'

export default defineEventHandler(async event => {
  const { rights } = await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  const firms = await listFirms(db())
  // Who belongs to it is told to who may look at people.
  return mayStaff(rights, { kind: 'people', action: 'look' }).allowed
    ? firms
    : firms.map(({ people, ...firm }) => ({ ...firm, people: [], count: people.length }))
})
