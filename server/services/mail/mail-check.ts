/** Does mail work? A code is sent for real; whoever types it back has seen a mail arrive. */
import { inTransaction } from '../../db/turn'
import { randomInt } from 'node:crypto'
import { clockMs } from '../../clock'
import type { AnyDb } from '../../db/database'
import { Problem } from '../../problem'
import { settingsMoved } from '../versions/notify'
import { mailWritten, writeMail } from './mail'
import { isMailChecked, mailCheckGroup, mailServerNow } from '../../mail-server'
import type { MailCheck } from '../../mail-server'
import { readOwn, writeSetting } from '../settings/settings'
import { countTry } from '../secrets/throttle'
import { hashOf } from '../secrets/tokens'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

export const mailWorks = async (db: AnyDb): Promise<boolean> => isMailChecked(await readOwn(db, mailCheckGroup))

export async function askMailCheck(db: AnyDb, to: string, actor: Actor): Promise<void> {
  const code = String(randomInt(100_000, 1_000_000))
  const id = await inTransaction(db, async tx => {
    await writeSetting(tx, mailCheckGroup, { code: hashOf(code), askedAt: clockMs() } satisfies MailCheck, actor.name)
    await leaveTrace(tx, actor, 'mail.check', 'mail')
    return writeMail(tx, { text: 'check', to, values: { code } })
  })
  await mailWritten(id)
}

export async function takeMailCode(db: AnyDb, code: string, actor: Actor): Promise<void> {
  await countTry(db, [{ what: 'mailCode', of: 'site', most: 20, windowMs: 3_600_000 }], 'codes')
  const check = await readOwn<MailCheck>(db, mailCheckGroup)
  if (!check?.code || clockMs() - (check.askedAt ?? 0) > 3_600_000 || check.code !== hashOf(code.trim()))
    throw new Problem('wrong-code', {}, { at: '/code' })
  await inTransaction(db, async tx => {
    await writeSetting(
      tx,
      mailCheckGroup,
      { server: mailServerNow(), worksSince: clockMs() } satisfies MailCheck,
      actor.name,
    )
    // Whether addresses are confirmed may follow from it.
    await settingsMoved(tx)
    await leaveTrace(tx, actor, 'mail.works', 'mail')
  })
}
