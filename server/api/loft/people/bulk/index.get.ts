import { defineEventHandler, setResponseHeader } from 'h3'
import { db } from '../../../../db/database'
import { staffCaller } from '../../../../request'
import { recentBulk } from '../../../../services/people/bulk'

export default defineEventHandler(async event => {
  await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return recentBulk(db())
})
