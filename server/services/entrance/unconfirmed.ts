/** Those who signed up and have not confirmed their address. */
import { and, isNull, lt, sql } from 'drizzle-orm'
import { clockMs } from '../../clock'
import type { AnyDb } from '../../db/database'
import { person } from '../../db/schema'
import { inTransaction } from '../../db/turn'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { mailWritten, siteAddress, writeMail } from '../mail/mail'
import { linkPurposes, makeLink } from '../secrets/one-time-links'

/** Of those who have not confirmed their address at most so many are written to at once. */
const mostAgain = 200

/** Mails their link again to whoever has not confirmed their address and was sent none within the hour; the link before works no more. */
export async function confirmAgain(db: AnyDb, actor: Actor): Promise<{ sent: number }> {
  const mails: number[] = []
  await inTransaction(db, async tx => {
    const since = new Date(clockMs() + (linkPurposes.confirm - 1) * 3_600_000)
    const waiting = await tx
      .select({ id: person.id, name: person.name, email: person.email })
      .from(person)
      .where(
        and(
          isNull(person.confirmedAt),
          isNull(person.approvedAt),
          isNull(person.declinedAt),
          sql`not exists (select 1 from one_time_link l where l.person_id = person.id and l.purpose = 'confirm' and l.expires_at > ${since.toISOString()}::timestamptz)`,
        ),
      )
      .orderBy(person.createdAt)
      .limit(mostAgain)
      .for('update')
    for (const { id, name, email } of waiting) {
      const link = `${siteAddress()}/confirm?token=${await makeLink(tx, { purpose: 'confirm', personId: id, data: {} })}`
      mails.push(await writeMail(tx, { text: 'confirm', to: email, values: { name, link } }))
    }
    await leaveTrace(tx, actor, 'door.confirm-again', 'door', { sent: mails.length })
  })
  await mailWritten(...mails)
  return { sent: mails.length }
}

/** People who signed up and never confirmed are forgotten after a month. */
export async function forgetUnconfirmed(db: AnyDb): Promise<void> {
  await db
    .delete(person)
    .where(and(isNull(person.confirmedAt), lt(person.createdAt, new Date(clockMs() - 30 * 86_400_000))))
}
