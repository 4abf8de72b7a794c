/** The payment provider, stood in for: it takes an answer from the person at the till and sends a signed notice over HTTP. */
import { asc, eq, lte, sql } from 'drizzle-orm'
import { z } from 'zod'
import { noticeKinds } from '../../../core/memberships/payment-state'
import type { NoticeKind } from '../../../core/memberships/payment-state'
import { besideDb, db } from '../../db/database'
import type { Database } from '../../db/database'
import { noticeDue } from '../../db/schema'
import { logFault } from '../../log'
import { Problem } from '../../problem'
import { record } from '../activity/activity'
import { backoffSeconds } from '../../jobs/backoff'
import { ask } from '../../jobs/jobs'
import { siteAddress } from '../mail/mail'
import { closeExpired, purchaseOf, renewDue, staleness, takeNotice, tellDeclined } from './memberships'
import type { Notice, PurchaseRow, SaleWorld } from './memberships'
import { snapshot } from '../editions/snapshot'
import type { Snapshot } from '../editions/snapshot'
import { isSignature, newId, signature } from '../secrets/tokens'

export const noticeInput = z.strictObject({
  id: z.string().min(1).max(100),
  reference: z.string().min(1).max(100),
  kind: z.enum(noticeKinds),
})
export const signatureHeader = 'x-payment-signature'

export const saleWorld = ({ rules, settings }: Snapshot): SaleWorld => ({
  book: rules.rulebook,
  timezone: rules.index.site.timezone,
  graceDays: settings.payment.graceDays,
})

/** Milliseconds. */
const noticeTimeoutMs = 10_000

/** The provider's side: sends a notice as a provider would, signed, over HTTP. Throws when nobody takes it. */
async function sendNotice({ id, reference, kind }: Notice): Promise<void> {
  const body = JSON.stringify({ id, reference, kind })
  const headers = { 'content-type': 'application/json', [signatureHeader]: signature('payment', body) }
  const answer = await fetch(`${siteAddress()}/api/payments/notice`, {
    method: 'POST',
    headers,
    body,
    signal: AbortSignal.timeout(noticeTimeoutMs),
  })
  if (!answer.ok) throw Object.assign(new Error('The notice was not taken.'), { code: `HTTP_${answer.status}` })
}

const noticesAtOnce = 20
/** A notice claimed by a server that died is claimed again after this. */
const leaseSeconds = 60

/**
 * Sends the notices that are due until none is left; any number of servers may
 * do it. Each is claimed by itself, so that one that fails holds up no other.
 * Answers how many were taken.
 */
export async function sendDueNotices(
  database: Database = besideDb(),
  send: (notice: Notice) => Promise<void> = sendNotice,
): Promise<number> {
  let taken = 0
  for (;;) {
    const claimed = await database.transaction(async tx => {
      const rows = await tx
        .select()
        .from(noticeDue)
        .where(lte(noticeDue.nextTryAt, sql`now()`))
        .orderBy(asc(noticeDue.nextTryAt))
        .limit(noticesAtOnce)
        .for('update', { skipLocked: true })
      for (const row of rows)
        await tx
          .update(noticeDue)
          .set({
            tries: row.tries + 1,
            nextTryAt: sql`now() + ${`${Math.max(leaseSeconds, backoffSeconds(row.tries + 1))} seconds`}::interval`,
          })
          .where(eq(noticeDue.id, row.id))
      return rows
    })
    if (!claimed.length) return taken
    for (const row of claimed) {
      try {
        await send(row)
        await database.delete(noticeDue).where(eq(noticeDue.id, row.id))
        taken++
      } catch (error) {
        logFault('payment notice', error)
      }
    }
  }
}

async function queueNotice(reference: string, kind: NoticeKind, afterSeconds = 0): Promise<Notice> {
  const notice = { id: newId('notice', 16), reference, kind }
  await db()
    .insert(noticeDue)
    .values({ ...notice, nextTryAt: sql`now() + ${`${afterSeconds} seconds`}::interval` })
  return notice
}

/** Written down first, then sent: what cannot be sent now is taken up by the job. Answers whether it was taken already. */
async function tell(reference: string, kind: NoticeKind): Promise<boolean> {
  const notice = await queueNotice(reference, kind, leaseSeconds)
  try {
    await sendNotice(notice)
    await db().delete(noticeDue).where(eq(noticeDue.id, notice.id))
    return true
  } catch (error) {
    logFault('payment notice', error)
    return false
  }
}

export const tillAnswers = ['approve', 'decline', 'later'] as const
export type TillAnswer = (typeof tillAnswers)[number]
/** Seconds until the provider tells what it approved with “later”. */
const laterSeconds = 5

/** What the person at the till chose. `later`: approved, but the notice takes its time. Answers whether it is settled by now; throws when the purchase cannot be paid as it is any more. */
export async function answerTill(world: SaleWorld, row: PurchaseRow, answer: TillAnswer): Promise<boolean> {
  const stale = await staleness(db(), world, row)
  if (stale) throw new Problem('purchase-stale', { why: stale })
  if (answer !== 'later') return tell(row.reference, answer === 'decline' ? 'declined' : 'paid')
  await queueNotice(row.reference, 'paid', laterSeconds)
  await ask('payment-notices', {}, laterSeconds)
  return false
}

export async function refund(reference: string): Promise<void> {
  const row = await purchaseOf(db(), reference)
  if (!row) throw new Problem('not-found')
  if (row.state !== 'paid') throw new Problem('not-paid')
  await tell(reference, 'refunded')
}

/** Our side: takes what the provider says, after checking that it is the provider who says it. */
export async function receiveNotice(body: string, given: string | undefined): Promise<void> {
  if (!given || !isSignature('payment', body, given)) throw new Problem('notice-unsigned')
  const notice = noticeIn(body)
  if (!notice) throw new Problem('no-notice')
  const world = saleWorld(await snapshot())
  const taken = await takeNotice(db(), world, notice)
  if (!taken.first) return
  if (taken.effect === 'grant') {
    record({
      kind: 'purchase',
      personId: taken.personId,
      tier: taken.level,
      subjectKind: 'level',
      subjectId: taken.level,
      detail: { reference: notice.reference },
    })
    record({
      kind: 'member',
      personId: taken.personId,
      tier: taken.level,
      subjectKind: 'level',
      subjectId: taken.level,
    })
  }
  if (notice.kind === 'declined') await tellDeclined(db(), world, notice.reference)
}

function noticeIn(body: string): Notice | undefined {
  try {
    return noticeInput.safeParse(JSON.parse(body)).data
  } catch {
    return undefined
  }
}

/** The job that renews what is due, and takes up again what an earlier run could not send. */
export async function renewMemberships(): Promise<void> {
  await closeExpired(besideDb())
  await renewDue(besideDb(), saleWorld(await snapshot()))
  await sendDueNotices()
}
