import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { Problem } from '../../../../problem'
import { carriesToken, mailTextInput, mailTexts, saveText } from '../../../../services/mail/mail-texts'
import type { MailTextKey } from '../../../../services/mail/mail-texts'

export default defineEventHandler(async event => {
  const { actor, rights } = await staffCaller(event)
  const key = getRouterParam(event, 'key') as MailTextKey
  if (!Object.hasOwn(mailTexts, key)) throw new Problem('not-found', 'There is no such mail text.')
  if (carriesToken(key) && !rights.masterKey)
    throw new Problem(
      'not-allowed',
      'This mail carries a link or code that lets its reader in: only the master key changes its words.',
    )
  await saveText(db(), key, await readJson(event, mailTextInput(key)), actor)
  return sendNoContent(event)
})
