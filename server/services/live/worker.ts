/** Whoever works in the console: their rights, over the rules they were granted by. */
import { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { StaffKindId } from '../../../core/staff/staff-kinds'
import type { Maker, StaffRights } from '../../../core/staff/staff-rule'
import { clockMs } from '../../clock'
import { eq } from 'drizzle-orm'
import type { AnyDb } from '../../db/database'
import { person } from '../../db/schema'
import { visitorOf } from '../standing/visitor-of'
import { rightsOf } from '../staff/authorise'
import { snapshot } from './snapshot'
import type { Snapshot } from './snapshot'

export interface Worker {
  rights: StaffRights
  snapshot: Snapshot
}

/** What rules ask about whoever made a thing; looked up only where some rule of theirs asks. */
export async function makerOf(
  tx: AnyDb,
  { rights, snapshot }: Worker,
  kind: StaffKindId,
  madeBy: string | null,
): Promise<{ maker?: Maker }> {
  const asks = rights.rules.some(rule => rule.kind === kind && (rule.whose === 'audience' || rule.whose === 'role'))
  if (madeBy === null || !asks) return {}
  // A change of thousands of things asks about the same few people: each is looked up once for these rights.
  const known = makers.get(rights) ?? makers.set(rights, new Map()).get(rights)!
  return known.get(madeBy) ?? known.set(madeBy, readMaker(tx, snapshot, madeBy)).get(madeBy)!
}
/** Rights are made anew for each request, and again inside its transaction: none of this outlives them. */
const makers = new WeakMap<StaffRights, Map<string, Promise<{ maker?: Maker }>>>()

async function readMaker(tx: AnyDb, snapshot: Snapshot, madeBy: string): Promise<{ maker?: Maker }> {
  const visitor = await visitorOf(tx, madeBy)
  if (!visitor) return {}
  const decider = new CompiledDecider(
    snapshot.rules,
    { ...visitor, request: { at: new Date(clockMs()).toISOString() } },
    clockMs(),
  )
  return {
    maker: { isIn: audience => decider.admits({ audience }), holds: role => decider.asker.roles.has(role) },
  }
}

/** Whoever that is, as they may work now: null for nobody, and for somebody who may not sign in. */
export async function workerOf(tx: AnyDb, personId: string | null): Promise<Worker | null> {
  const [row] =
    personId === null
      ? []
      : await tx.select({ suspendedAt: person.suspendedAt }).from(person).where(eq(person.id, personId))
  const visitor = row && !row.suspendedAt ? await visitorOf(tx, personId!) : null
  if (!visitor) return null
  const current = await snapshot()
  const decider = new CompiledDecider(current.rules, visitor, clockMs())
  return { rights: rightsOf(decider, current.staffRules), snapshot: current }
}
