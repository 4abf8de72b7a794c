import { defineEventHandler, setResponseHeader } from 'h3'
import { db } from '../../../../db/database'
import { staffCaller } from '../../../../request'
import { listTexts } from '../../../../services/mail/mail-texts'

export default defineEventHandler(async event => {
  await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return listTexts(db())
})
