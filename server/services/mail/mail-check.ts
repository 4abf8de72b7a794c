/** Does mail work? A code is sent for real; whoever types it back has seen a mail arrive. */
import { randomInt } from 'node:crypto'
import { clockMs } from '../../clock'
import type { Database, Tx } from '../../db/database'
import { Problem } from '../../problem'
import { mailWritten, smtpUrl, usesStandIn, writeMail } from './mail'
import { readOwn, writeSetting } from '../settings/settings'
import { countTry } from '../secrets/throttle'
import { hashOf } from '../secrets/tokens'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

interface MailCheck {
  code?: string
  askedAt?: number
  /** The server that was checked, hashed. */ server?: string
  worksSince?: number
}
const group = 'mail-check'

/** The stand-in has another port at every start; it counts as one server. */
const serverNow = () => (usesStandIn() ? 'stand-in' : hashOf(smtpUrl() ?? ''))

export async function mailWorks(db: Tx): Promise<boolean> {
  const check = await readOwn<MailCheck>(db, group)
  return check?.worksSince !== undefined && check.server === serverNow()
}

export async function askMailCheck(db: Database, to: string, actor: Actor): Promise<void> {
  const code = String(randomInt(100_000, 1_000_000))
  const id = await db.transaction(async tx => {
    await writeSetting(tx, group, { code: hashOf(code), askedAt: clockMs() } satisfies MailCheck, actor.name)
    await leaveTrace(tx, actor, 'mail.check', 'mail')
    return writeMail(tx, { text: 'check', to, values: { code } })
  })
  await mailWritten(id)
}

export async function takeMailCode(db: Database, code: string, actor: Actor): Promise<void> {
  await countTry(db, [{ what: 'mailCode', of: 'site', most: 20, windowMs: 3_600_000 }], 'codes')
  const check = await readOwn<MailCheck>(db, group)
  if (!check?.code || clockMs() - (check.askedAt ?? 0) > 3_600_000 || check.code !== hashOf(code.trim()))
    throw new Problem('wrong-code', {}, { at: '/code' })
  await db.transaction(async tx => {
    await writeSetting(tx, group, { server: serverNow(), worksSince: clockMs() } satisfies MailCheck, actor.name)
    await leaveTrace(tx, actor, 'mail.works', 'mail')
  })
}
