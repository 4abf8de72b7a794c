import { defineEventHandler, setResponseHeader } from 'h3'
import { db } from '../../../db/database'
import { staffCaller } from '../../../request'
import { listFirms } from '../../../services/people/firms'

export default defineEventHandler(async (event) => {
  await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return listFirms(db())
})
