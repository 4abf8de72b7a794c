import { defineEventHandler, sendNoContent } from 'h3'
import { db } from '../../../../../db/database'
import { numberParam, staffCaller } from '../../../../../request'
import { sendAgain } from '../../../../../services/mail/mail'

/** Sends a mail that waits or was given up, at once. */
export default defineEventHandler(async event => {
  const { actor } = await staffCaller(event)
  await sendAgain(db(), numberParam(event, 'id'), actor)
  return sendNoContent(event)
})
