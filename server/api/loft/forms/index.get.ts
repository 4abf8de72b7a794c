import { defineEventHandler, setResponseHeader } from 'h3'
import { db } from '../../../db/database'
import { staffCaller } from '../../../request'
import { listForms } from '../../../services/people/applications'

export default defineEventHandler(async event => {
  await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return listForms(db())
})
