/** Levels as they are paid for: what the provider says of them, and what is asked of it. */
import { besideDb, db } from '../../db/database'
import { Problem } from '../../problem'
import { record } from '../activity/activity'
import { sendDueNotices, tell } from '../payments/stand-in'
import type { PaymentNotice } from '../payments/stand-in'
import { snapshot } from '../editions/snapshot'
import type { Snapshot } from '../editions/snapshot'
import { closeExpired, purchaseOf, renewDue, takeNotice, tellDeclined } from './memberships'
import type { SaleWorld } from './memberships'

export const saleWorld = ({ rules, settings }: Snapshot): SaleWorld => ({
  book: rules.rulebook,
  timezone: rules.index.site.timezone,
  graceDays: settings.payment.graceDays,
})

export async function refund(reference: string): Promise<void> {
  const row = await purchaseOf(db(), reference)
  if (!row) throw new Problem('not-found')
  if (row.state !== 'paid') throw new Problem('not-paid')
  await tell({ reference, kind: 'refunded' })
}

/** Takes a notice about a level; throws `no-such-purchase` where it is about none. */
export async function takeLevelNotice(live: Snapshot, { id, reference, kind }: PaymentNotice): Promise<void> {
  const world = saleWorld(live)
  const taken = await takeNotice(db(), world, { id, reference, kind })
  if (!taken.first) return
  if (taken.effect === 'grant') {
    record({
      kind: 'purchase',
      personId: taken.personId,
      tier: taken.level,
      subjectKind: 'level',
      subjectId: taken.level,
      detail: { reference },
    })
    record({
      kind: 'member',
      personId: taken.personId,
      tier: taken.level,
      subjectKind: 'level',
      subjectId: taken.level,
    })
  }
  if (kind === 'declined') await tellDeclined(db(), world, reference)
}

/** The job that renews what is due, and takes up again what an earlier run could not send. */
export async function renewMemberships(): Promise<void> {
  await closeExpired(besideDb())
  await renewDue(besideDb(), saleWorld(await snapshot()))
  await sendDueNotices()
}
