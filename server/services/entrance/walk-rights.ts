/** As whom staff may walk the site: as nobody who holds more power than they do, and as a real person only where they may look at people. */
import type { Rulebook } from '../../../core/rulebook/rulebook'
import type { Visitor } from '../../../core/visitor/visitor'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { StaffRights } from '../../../core/staff/staff-rule'
import type { AnyDb } from '../../db/database'
import { Problem } from '../../problem'
import type { PanelSort } from '../../../core/blocks/panel-sorts'
import { visitorOf } from '../standing/visitor-of'
import { authoriseSeeingWhole } from '../staff/people-seen'
import type { Snapshot } from '../live/snapshot'
import { staffRolesOf, authorise } from '../staff/authorise'
import { isBeyond, powerOf } from '../staff/staff-grants'

/**
 * Asked when a pass is made and again at every page it opens: rights move meanwhile. `book`: the rules that are walked.
 * Answers the id of the real person it is, if it is one.
 */
export async function authoriseWalk(
  tx: AnyDb,
  rights: StaffRights,
  snapshot: Snapshot,
  book: Rulebook,
  visitor: Visitor,
): Promise<string | null> {
  authorise(rights, { kind: 'gates', action: 'look' })
  const power = powerOf(snapshot)
  const staff = new Set([...staffRolesOf(power.book), ...staffRolesOf(book)])
  const more = (visitor.roles ?? []).find(role => staff.has(role) && isBeyond(rights, { ...power, book }, role))
  if (more) throw new Problem('role-sees-more')
  // A tier is nobody in particular; as a real person the walk shows what is theirs alone.
  if (!visitor.person || !(await visitorOf(tx, visitor.person.id))) return null
  authoriseSeeingWhole(rights)
  return visitor.person.id
}

/** Parts of a member's home that the walker may not look at, whoever they walk as. */
export function hiddenPanels(rights: StaffRights): ReadonlySet<PanelSort> {
  const looks = (kind: 'orders' | 'firms') => mayStaff(rights, { kind, action: 'look' }).allowed
  return new Set<PanelSort>([
    'sessions',
    ...(looks('orders') ? [] : ['payments' as const]),
    ...(looks('firms') ? [] : ['firm' as const]),
  ])
}
