import { defineEventHandler, getQuery, setResponseHeader } from 'h3'
import { db } from '../../../db/database'
import { parseWith, staffCaller } from '../../../request'
import { activityQuery, flushActivity, summarise } from '../../../services/activity/activity'

export default defineEventHandler(async (event) => {
  const { snapshot } = await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  await flushActivity()
  return summarise(db(), parseWith(activityQuery, getQuery(event)), snapshot.rules.index.site.timezone)
})
