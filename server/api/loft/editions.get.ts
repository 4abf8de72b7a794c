import { desc } from 'drizzle-orm'
import { defineEventHandler, setResponseHeader } from 'h3'
import { db } from '../../db/database'
import { edition } from '../../db/schema'
import { staffCaller } from '../../request'

export default defineEventHandler(async event => {
  await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return db().select().from(edition).orderBy(desc(edition.number)).limit(200)
})
