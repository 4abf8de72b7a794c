/** What the payment provider tells, taken by whoever it is about: a level that is bought, or an order. */
import { inTransaction } from '../../db/turn'
import { z } from 'zod'
import { noticeKinds } from '../../../core/payments/money-table'
import { db } from '../../db/database'
import { Problem } from '../../problem'
import { record } from '../activity/activity'
import { snapshot } from '../live/snapshot'
import { takeLevelNotice } from '../memberships/payments'
import { isSignature } from '../secrets/tokens'
import { takeOrderNotice } from './settle'
import { noteNotice, noticeBecame } from '../payments/ledger'
import type { TakenNotice } from '../payments/ledger'
import { orderWorld } from './world'

const noticeInput = z.strictObject({
  id: z.string().min(1).max(100),
  reference: z.string().min(1).max(100),
  kind: z.enum(noticeKinds),
  amount: z.int().min(0).optional(),
  refund: z.int32().optional(),
})

/** Takes what the provider says, after checking that it is the provider who says it. */
export async function receiveNotice(body: string, given: string | undefined): Promise<void> {
  if (!given || !isSignature('payment', body, given)) throw new Problem('notice-unsigned')
  const notice = noticeIn(body)
  if (!notice) throw new Problem('no-notice')
  const live = await snapshot()
  const settled = await takeOrderNotice(db(), orderWorld(live), notice)
  if (!settled) return takeLevelNotice(live, notice).catch(error => keepStray(error, notice))
  const { order, effect } = settled
  if (effect !== 'paid') return
  record({
    kind: 'purchase',
    personId: order.personId,
    tier: order.frozen.buyer.levels[0] ?? (order.personId ? 'signed-in' : 'guest'),
    subjectKind: 'order',
    subjectId: String(order.number),
    detail: {},
  })
}

/** What is about nothing that is known here is refused, and told to staff all the same: money may have come in with it. */
async function keepStray(error: unknown, notice: TakenNotice): Promise<never> {
  if (error instanceof Problem && error.reason === 'no-such-purchase' && notice.kind !== 'declined')
    await inTransaction(db(), async tx => {
      if (await noteNotice(tx, notice, null))
        await noticeBecame(tx, notice.id, notice.kind === 'paid' ? 'besides' : 'unasked')
    })
  throw error
}

function noticeIn(body: string): TakenNotice | undefined {
  try {
    return noticeInput.safeParse(JSON.parse(body)).data
  } catch {
    return undefined
  }
}
