import { defineEventHandler, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { askMailCheck, takeMailCode } from '../../../services/mail/mail-check'

const input = z.strictObject({
  /** The code of the mail; left out, a mail is asked for. */ code: z.string().max(20).optional(),
})

export default defineEventHandler(async event => {
  const { actor, signedIn } = await staffCaller(event)
  const { code } = await readJson(event, input)
  if (code === undefined) await askMailCheck(db(), signedIn.visitor.person?.email ?? '', actor)
  else await takeMailCode(db(), code, actor)
  return sendNoContent(event)
})
