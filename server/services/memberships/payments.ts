/** Levels as they are paid for: what the provider says of them, and what is asked of it. */
import { besideDb, db } from '../../db/database'
import { record } from '../activity/activity'
import type { TakenNotice } from '../payments/ledger'
import { sendDueNotices } from '../payments/stand-in'
import { snapshot } from '../live/snapshot'
import type { Snapshot } from '../live/snapshot'
import { closeExpired, renewDue } from './memberships'
import { takeNotice } from './purchases'
import type { SaleWorld } from './memberships'

export const saleWorld = ({ rules, settings }: Snapshot): SaleWorld => ({
  book: rules.rulebook,
  timezone: rules.index.site.timezone,
  graceDays: settings.payment.graceDays,
})

/** Takes a notice about a level; throws `no-such-purchase` where it is about none. */
export async function takeLevelNotice(live: Snapshot, notice: TakenNotice): Promise<void> {
  const world = saleWorld(live)
  const taken = await takeNotice(db(), world, notice)
  if (!taken.first) return
  if (taken.effect === 'grant') {
    record({
      kind: 'purchase',
      personId: taken.personId,
      tier: taken.level,
      subjectKind: 'level',
      subjectId: taken.level,
      detail: {},
    })
    record({
      kind: 'member',
      personId: taken.personId,
      tier: taken.level,
      subjectKind: 'level',
      subjectId: taken.level,
    })
  }
}

/** The job that renews what is due, and takes up again what an earlier run could not send. */
export async function renewMemberships(): Promise<void> {
  await closeExpired(besideDb())
  await renewDue(besideDb(), saleWorld(await snapshot()))
  await sendDueNotices()
}
