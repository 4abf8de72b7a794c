/** Guards around people who are staff: nobody gives, takes or steps around more power than they hold. */
import { and, eq, inArray } from 'drizzle-orm'
import { coversRule } from '../../../core/staff/staff-rule'
import type { StaffRights, StaffRule } from '../../../core/staff/staff-rule'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import type { AnyDb } from '../../db/database'
import { roleGrant } from '../../db/schema'
import { Problem } from '../../problem'
import { authorise, staffRolesOf } from './authorise'

export interface Power {
  book: Rulebook
  staffRules: readonly StaffRule[]
}
/** By what is live: its rules, and what its staff roles may do. */
export const powerOf = (live: { rules: { rulebook: Rulebook }; staffRules: readonly StaffRule[] }): Power => ({
  book: live.rules.rulebook,
  staffRules: live.staffRules,
})

/** Whether a role may do something these rights do not cover. */
export const isBeyond = (rights: StaffRights, { book, staffRules }: Power, role: string) =>
  !rights.masterKey &&
  ((book.settings?.masterKeys ?? []).includes(role) ||
    staffRules.some(rule => rule.role === role && !coversRule(rights, rule)))

/** Handing out or taking back a staff role. Other roles pass. */
export function authoriseStaffRole(rights: StaffRights, power: Power, role: string, action: 'add' | 'withdraw'): void {
  if (!staffRolesOf(power.book).has(role)) return
  authorise(rights, { kind: 'staff', action })
  if (isBeyond(rights, power, role)) throw new Problem('role-hands-more')
}

/** Looking at the console as somebody who holds nothing but this staff role. */
export function authoriseLookAsRole(rights: StaffRights, power: Power, role: string): void {
  authorise(rights, { kind: 'staff', action: 'look' })
  if (!staffRolesOf(power.book).has(role)) throw new Problem('no-staff-role', { role })
  if (isBeyond(rights, power, role)) throw new Problem('role-sees-more')
}

/** Changing how somebody signs in, or shutting them out: never of somebody who may do more. */
export async function authoriseOverPerson(
  tx: AnyDb,
  rights: StaffRights,
  power: Power,
  personId: string,
): Promise<void> {
  const staff = [...staffRolesOf(power.book)]
  if (!staff.length || rights.masterKey) return
  const held = await tx
    .select({ role: roleGrant.role })
    .from(roleGrant)
    .where(and(eq(roleGrant.personId, personId), inArray(roleGrant.role, staff)))
  if (held.some(({ role }) => isBeyond(rights, power, role))) throw new Problem('person-above-you')
}
