/** What staff roles may do, as kept: read with the snapshot, changed by the console. */
import { inTransaction } from '../../db/turn'
import { asc, eq } from 'drizzle-orm'
import { staffRule as shape, coversRule } from '../../../core/staff/staff-rule'
import type { StaffRights, StaffRule } from '../../../core/staff/staff-rule'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import type { AnyDb, Tx } from '../../db/database'
import { staffRule } from '../../db/schema'
import { Problem } from '../../problem'
import { staffRolesOf } from './authorise'
import { settingsMoved } from '../versions/notify'
import { bookAt, lockRules } from '../versions/versions'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

export async function readStaffRules(tx: AnyDb): Promise<StaffRule[]> {
  // A rule an older version wrote and this one does not know gives nothing.
  return (await tx.select().from(staffRule).orderBy(asc(staffRule.id))).flatMap(row => {
    const parsed = shape.safeParse(row.body)
    return parsed.success ? [parsed.data] : []
  })
}

/** Puts what one role may do in place of what it might before; all rules together are the role. */
export async function writeStaffRules(
  db: AnyDb,
  { role, rules, rights, actor }: { role: string; rules: StaffRule[]; rights: StaffRights; actor: Actor },
): Promise<void> {
  await inTransaction(db, async tx => {
    // Two who write at once must not each put back what the other took away.
    const { live } = await lockRules(tx)
    const book = await bookAt(tx, live)
    // What a staff role of the draft may do is said before anybody holds it.
    checkRules(book, new Set([...staffRolesOf(book), ...staffRolesOf(await bookAt(tx, live + 1))]), role, rules)
    const before = await putStaffRules(tx, role, rules, rights)
    await leaveTrace(tx, actor, 'staff.change', `role ${role}`, { before, after: rules })
    await settingsMoved(tx)
  })
}

/** Puts a role's rules in place of those before, which it returns: nobody gives or takes more than they may do. */
export async function putStaffRules(
  tx: Tx,
  role: string,
  rules: readonly StaffRule[],
  rights: StaffRights,
): Promise<StaffRule[]> {
  const before = (await readStaffRules(tx)).filter(rule => rule.role === role)
  const same = (a: StaffRule, b: StaffRule) => JSON.stringify(a) === JSON.stringify(b)
  const changed = [
    ...rules.filter(rule => !before.some(one => same(one, rule))),
    ...before.filter(rule => !rules.some(one => same(one, rule))),
  ]
  if (changed.some(rule => !coversRule(rights, rule))) throw new Problem('rights-above-yours')
  await tx.delete(staffRule).where(eq(staffRule.role, role))
  if (rules.length) await tx.insert(staffRule).values(rules.map(body => ({ role, body })))
  return before
}

function checkRules(book: Rulebook, staff: ReadonlySet<string>, role: string, rules: readonly StaffRule[]): void {
  if (!staff.has(role)) throw new Problem('no-staff-role', { role }, { at: '/role' })
  if (book.settings?.masterKeys?.includes(role)) throw new Problem('master-key-fixed')
  const audiences = new Set((book.audiences ?? []).map(one => one.id))
  rules.forEach((rule, i) => {
    if (rule.role !== role) throw new Problem('rule-of-another-role', {}, { at: `/rules/${i}/role` })
    if (rule.audience && !audiences.has(rule.audience))
      throw new Problem(
        'unknown-audience',
        { audience: rule.audience },
        {
          at: `/rules/${i}/audience`,
        },
      )
  })
}
