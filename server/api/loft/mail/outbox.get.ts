import { defineEventHandler, getQuery, setResponseHeader } from 'h3'
import { db } from '../../../db/database'
import { staffCaller } from '../../../request'
import { outbox } from '../../../services/mail/mail'

export default defineEventHandler(async event => {
  const { rights } = await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return outbox(db(), String(getQuery(event).search ?? '').slice(0, 200), rights.masterKey)
})
