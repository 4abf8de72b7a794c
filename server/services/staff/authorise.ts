/** Who may do what in the console. Everything no rule grants is refused. */
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { StaffAsk, StaffRights, StaffRule } from '../../../core/staff/staff-rule'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { Problem } from '../../problem'

/** Asked several times in each request: read once for a rulebook, which never changes. */
const staffRoles = new WeakMap<Rulebook, ReadonlySet<string>>()
export function staffRolesOf(book: Rulebook): ReadonlySet<string> {
  let known = staffRoles.get(book)
  if (!known)
    staffRoles.set(book, (known = new Set((book.roles ?? []).filter(role => role.staff).map(role => role.id))))
  return known
}

export function isStaff(decider: CompiledDecider): boolean {
  const staff = staffRolesOf(decider.rules.rulebook)
  return [...decider.asker.roles].some(role => staff.has(role))
}

/** What the person behind a request may do: the sum of their staff roles. A role that is no staff role counts for nothing here. */
export function rightsOf(decider: CompiledDecider, rules: readonly StaffRule[]): StaffRights {
  const staff = staffRolesOf(decider.rules.rulebook)
  const held = new Set([...decider.asker.roles].filter(role => staff.has(role)))
  return {
    personId: decider.asker.personId ?? '',
    masterKey: decider.asker.masterKey && held.size > 0,
    rules: rules.filter(rule => held.has(rule.role)),
  }
}

/** Throws `not-allowed`, saying what is missing, unless this may be done. */
export function authorise(rights: StaffRights, ask: StaffAsk): void {
  const answer = mayStaff(rights, ask)
  if (answer.allowed) return
  const { kind, action, fields: asked } = ask
  const { by, missing, fields } = answer
  throw new Problem('right-missing', {
    kind,
    action,
    by,
    ...(asked ? { asked } : {}),
    ...(missing ? { missing } : {}),
    ...(fields ? { fields } : {}),
  })
}
