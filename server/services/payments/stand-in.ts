/**
 * The payment provider, stood in for: it takes an answer from whoever is at its till and sends signed notices over HTTP.
 * What sells knows it by what this file exports, and nothing else.
 */
import { inTransaction } from '../../db/turn'
import { asc, eq, lte, sql } from 'drizzle-orm'
import type { NoticeKind } from '../../../core/payments/money-table'
import { besideDb, db } from '../../db/database'
import type { AnyDb } from '../../db/database'
import { noticeDue } from '../../db/schema'
import { backoffSeconds } from '../../jobs/backoff'
import { ask } from '../../jobs/jobs'
import { logFault } from '../../log'
import { siteAddress } from '../mail/mail'
import { newId, signature } from '../secrets/tokens'

/** What the provider tells of a payment. */
export interface PaymentNotice {
  /** The provider's own id of this notice. */ id: string
  reference: string
  kind: NoticeKind
  /** Minor units, where it says so. */ amount?: number
  /** Of money given back: which of ours asked for it. */ refund?: number
}
/** What of it is about what was paid. */
export type PaymentTold = Omit<PaymentNotice, 'id'>

export const signatureHeader = 'x-payment-signature'

/** Where somebody pays. */
export const payAddress = (reference: string) => `/pay/${reference}`

/** Milliseconds. */
const noticeTimeoutMs = 10_000

/** The provider's side: sends a notice as a provider would, signed, over HTTP. Throws when nobody takes it. */
async function sendNotice(notice: PaymentNotice): Promise<void> {
  const body = JSON.stringify(notice)
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

const noticeOf = ({ id, reference, kind, amount, refund }: typeof noticeDue.$inferSelect): PaymentNotice => ({
  id,
  reference,
  kind,
  ...(amount === null ? {} : { amount }),
  ...(refund === null ? {} : { refund }),
})

/**
 * Sends the notices that are due until none is left; any number of servers may
 * do it. Each is claimed by itself, so that one that fails holds up no other.
 * Answers how many were taken.
 */
export async function sendDueNotices(
  database: AnyDb = besideDb(),
  send: (notice: PaymentNotice) => Promise<void> = sendNotice,
): Promise<number> {
  let taken = 0
  for (;;) {
    const claimed = await inTransaction(database, async tx => {
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
        await send(noticeOf(row))
        await database.delete(noticeDue).where(eq(noticeDue.id, row.id))
        taken++
      } catch (error) {
        logFault('payment notice', error)
      }
    }
  }
}

async function queueNotice(
  tx: AnyDb,
  told: PaymentTold,
  afterSeconds = 0,
  id = newId('notice', 16),
): Promise<PaymentNotice> {
  const notice = { id, ...told }
  await tx
    .insert(noticeDue)
    .values({ ...notice, nextTryAt: sql`now() + ${`${afterSeconds} seconds`}::interval` })
    .onConflictDoNothing()
  return notice
}

/** Written down first, then sent: what cannot be sent now is taken up by the job. Answers whether it was taken already. */
async function tell(told: PaymentTold, id?: string): Promise<boolean> {
  const notice = await queueNotice(db(), told, leaseSeconds, id)
  try {
    await sendNotice(notice)
    await db().delete(noticeDue).where(eq(noticeDue.id, notice.id))
    return true
  } catch (error) {
    logFault('payment notice', error)
    return false
  }
}

/** Asks the provider to give money back, in the transaction that writes down that it is asked: it tells once it has. */
export async function askRefund(tx: AnyDb, told: Required<Omit<PaymentTold, 'kind'>>): Promise<void> {
  await queueNotice(tx, { ...told, kind: 'refunded' })
}
/** Once that is through, so that nobody waits for the next minute. */
export const hurryNotices = () => ask('payment-notices')

export const tillAnswers = ['approve', 'decline', 'later', 'twice', 'double'] as const
export type TillAnswer = (typeof tillAnswers)[number]
/** Seconds until the provider tells what it approved with “later”, and again with “twice” and “double”. */
const laterSeconds = 5

/**
 * What whoever is at the till chose. `later`: approved, but the notice takes its time; `twice`: told at once, and the same
 * notice once more; `double`: paid twice, and each is told. Answers whether it is settled by now.
 */
export async function answerTill(
  { reference, amount }: Omit<PaymentTold, 'kind'>,
  answer: TillAnswer,
): Promise<boolean> {
  const told = { reference, ...(amount === undefined ? {} : { amount }) }
  if (answer === 'decline') return tell({ ...told, kind: 'declined' })
  const paid = { ...told, kind: 'paid' as const }
  const id = newId('notice', 16)
  const isSettled = answer === 'later' ? false : await tell(paid, id)
  if (answer === 'approve') return isSettled
  await queueNotice(db(), paid, laterSeconds, answer === 'double' ? undefined : id)
  await ask('payment-notices', {}, laterSeconds)
  return isSettled
}
