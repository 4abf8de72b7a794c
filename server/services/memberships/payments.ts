/** The payment provider, stood in for: it takes an answer from the person at the till and sends a signed notice over HTTP. */
import { z } from 'zod'
import { noticeKinds } from '../../../core/memberships/payment-state'
import { db } from '../../db/database'
import { Problem } from '../../problem'
import { record } from '../activity/activity'
import { ask } from '../jobs'
import { siteAddress } from '../mail/mail'
import { purchaseOf, renewDue, takeNotice, tellDeclined } from './memberships'
import type { Notice, SaleWorld } from './memberships'
import { snapshot } from '../rules/snapshot'
import type { Snapshot } from '../rules/snapshot'
import { isSignature, newId, signature } from '../entrance/tokens'

export const noticeInput = z.strictObject({ id: z.string().min(1).max(100), reference: z.string().min(1).max(100), kind: z.enum(noticeKinds) })
export const signatureHeader = 'x-payment-signature'

export const saleWorld = ({ rules, settings }: Snapshot): SaleWorld => ({ book: rules.rulebook, timezone: rules.index.site.timezone, graceDays: settings.payment.graceDays })

/** The provider's side: sends a notice as a provider would, signed, over HTTP. Throws when nobody takes it, so that a job tries again. */
export async function sendNotice(notice: Notice): Promise<void> {
  const body = JSON.stringify(notice)
  const answer = await fetch(`${siteAddress()}/api/payments/notice`, { method: 'POST', headers: { 'content-type': 'application/json', [signatureHeader]: signature('payment', body) }, body })
  if (!answer.ok) throw new Error(`The notice was not taken: ${answer.status}.`)
}

export const tillAnswers = ['approve', 'decline', 'later'] as const
export type TillAnswer = (typeof tillAnswers)[number]
/** Seconds until the provider tells what it approved with “later”. */
const laterSeconds = 5

/** What the person at the till chose. `later`: approved, but the notice takes its time. */
export async function answerTill(reference: string, answer: TillAnswer): Promise<void> {
  const notice: Notice = { id: newId('notice', 16), reference, kind: answer === 'decline' ? 'declined' : 'paid' }
  if (answer === 'later') await ask('payment-notice', { ...notice }, laterSeconds)
  else await sendNotice(notice)
}

export async function refund(reference: string): Promise<void> {
  const row = await purchaseOf(db(), reference)
  if (!row) throw new Problem('not-found')
  if (row.state !== 'paid') throw new Problem('changed-meanwhile', 'Only what was paid can be given back.')
  await sendNotice({ id: newId('notice', 16), reference, kind: 'refunded' })
}

/** Our side: takes what the provider says, after checking that it is the provider who says it. */
export async function receiveNotice(body: string, given: string | undefined): Promise<void> {
  if (!given || !isSignature('payment', body, given)) throw new Problem('bad-token', 'The notice is not signed by the payment provider.')
  const parsed = noticeInput.safeParse(JSON.parse(body))
  if (!parsed.success) throw new Problem('bad-input', 'This is no notice.')
  const world = saleWorld(await snapshot())
  const taken = await takeNotice(db(), world, parsed.data)
  if (!taken.first) return
  if (taken.effect === 'grant') {
    record({ kind: 'purchase', personId: taken.personId, tier: taken.level, subjectKind: 'level', subjectId: taken.level, detail: { reference: parsed.data.reference } })
    record({ kind: 'member', personId: taken.personId, tier: taken.level, subjectKind: 'level', subjectId: taken.level })
  }
  if (parsed.data.kind === 'declined') await tellDeclined(db(), world, parsed.data.reference)
}

/** The job that renews what is due. */
export async function renewMemberships(): Promise<void> {
  for (const notice of await renewDue(db(), saleWorld(await snapshot()))) await sendNotice(notice)
}
