import { defineEventHandler, getQuery, setResponseHeader } from 'h3'
import { mayStaff } from '../../../../core/staff/staff-rule'
import { db } from '../../../db/database'
import { parseWith } from '../../../parse-with'
import { staffCaller } from '../../../request'
import { activityQuery, settleActivity, listActivity } from '../../../services/activity/activity'
import { authorise } from '../../../services/staff/authorise'

export default defineEventHandler(async event => {
  const { rights, snapshot } = await staffCaller(event)
  const query = parseWith(activityQuery, getQuery(event))
  if (query.person !== undefined) authorise(rights, { kind: 'people', action: 'look' })
  setResponseHeader(event, 'cache-control', 'private, no-store')
  await settleActivity()
  return listActivity(
    db(),
    query,
    snapshot.rules.index.site.timezone,
    mayStaff(rights, { kind: 'people', action: 'look' }).allowed,
  )
})
