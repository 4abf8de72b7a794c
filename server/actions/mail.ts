/** Actions on mail: its words, what was sent, whether it works. */
import { z } from 'zod'
import { afterCommit } from '../db/turn'
import { Problem } from '../problem'
import { numberParam } from '../request/body'
import { reload } from '../services/live/snapshot'
import { outbox, sendAgain } from '../services/mail/mail'
import { askMailCheck, takeMailCode } from '../services/mail/mail-check'
import { carriesToken, listTexts, mailTextInput, mailTexts, saveText } from '../services/mail/mail-texts'
import type { MailTextKey } from '../services/mail/mail-texts'
import { parseWith } from '../parse-with'
import { change, look, on, steps } from './action'

export const mailActions = {
  'GET mail/outbox': look({
    right: on('settings-mail', 'look'),
    input: z.object({ search: z.string().optional() }),
    run: ({ db, input, rights }) => outbox(db, (input.search ?? '').slice(0, 200), rights.masterKey),
  }),
  /** Sends a mail that waits or was given up, at once. */
  'POST mail/outbox/:id/again': change({
    right: on('settings-mail', 'change'),
    run: async ask => void (await sendAgain(ask.db, numberParam(ask.event, 'id'), ask.actor)),
  }),
  'POST mail/check': steps({
    right: on('settings-mail', 'change'),
    // The code of the mail; left out, a mail is asked for.
    input: z.strictObject({ code: z.string().max(20).optional() }),
    run: async ({ db, input: { code }, actor, signedIn }) => {
      if (code === undefined) await askMailCheck(db, signedIn.visitor.person?.email ?? '', actor)
      else {
        await takeMailCode(db, code, actor)
        await afterCommit(reload)
      }
    },
  }),
  'GET mail/texts': look({ right: on('mail-texts', 'look'), run: ask => listTexts(ask.db) }),
  'PUT mail/texts/:key': change({
    right: on('mail-texts', 'change'),
    input: z.unknown(),
    run: async ({ db, input, params, rights, actor }) => {
      const key = params.key as MailTextKey
      if (!Object.hasOwn(mailTexts, key)) throw new Problem('no-such-mail-text')
      if (carriesToken(key) && !rights.masterKey) throw new Problem('only-key-words-mail')
      await saveText(db, key, parseWith(mailTextInput(key), input), actor)
    },
  }),
}
