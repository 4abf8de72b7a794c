/** Who belongs to which firm. Whoever calls has locked the firm's row. */
import { eq } from 'drizzle-orm'
import { clockDate } from '../../clock'
import type { Tx } from '../../db/database'
import { firm, firmMember, person } from '../../db/schema'
import { Problem } from '../../problem'

/** The firm, with nobody joining or leaving it before the transaction ends. */
export async function lockedFirm(tx: Tx, id: string): Promise<{ id: string; name: string }> {
  const [row] = await tx.select({ id: firm.id, name: firm.name }).from(firm).where(eq(firm.id, id)).for('update')
  if (!row) throw new Problem('no-such-firm')
  return row
}

/** The first of a firm is its owner. A person belongs to one firm at most. */
export async function joinFirmAs(tx: Tx, firmId: string, personId: string, owner = false): Promise<void> {
  if (!(await tx.select({ id: person.id }).from(person).where(eq(person.id, personId)).for('update')).length)
    throw new Problem('unknown-person', {}, { at: '/addPerson' })
  const [other] = await tx
    .select({ name: firm.name, id: firm.id })
    .from(firmMember)
    .innerJoin(firm, eq(firm.id, firmMember.firmId))
    .where(eq(firmMember.personId, personId))
  if (other) throw new Problem('in-a-firm', { firm: other.id === firmId ? null : other.name })
  const first = !(
    await tx.select({ id: firmMember.personId }).from(firmMember).where(eq(firmMember.firmId, firmId)).limit(1)
  ).length
  await tx.insert(firmMember).values({ firmId, personId, owner: owner || first, since: clockDate() })
}

/** A firm with people keeps an owner. */
export async function leaveFirmAs(tx: Tx, firmId: string, personId: string): Promise<void> {
  const people = await tx.select().from(firmMember).where(eq(firmMember.firmId, firmId)).for('update')
  const who = people.find(one => one.personId === personId)
  if (!who) throw new Problem('not-in-firm')
  const others = people.filter(one => one.personId !== personId)
  if (who.owner && others.length && !others.some(one => one.owner)) throw new Problem('firm-without-owner')
  await tx.delete(firmMember).where(eq(firmMember.personId, personId))
}

/** The firm somebody belongs to, locked; none where they belong to none. */
export async function lockedFirmOf(
  tx: Tx,
  personId: string,
): Promise<{ id: string; name: string; owner: boolean } | undefined> {
  const [member] = await tx
    .select({ firmId: firmMember.firmId })
    .from(firmMember)
    .where(eq(firmMember.personId, personId))
  if (!member) return undefined
  const found = await lockedFirm(tx, member.firmId)
  // Read again: they may have left while the lock was waited for.
  const [now] = await tx.select().from(firmMember).where(eq(firmMember.personId, personId))
  return now?.firmId === found.id ? { ...found, owner: now.owner } : undefined
}
