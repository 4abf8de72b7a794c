/** Whoever keeps the site: somebody who can sign in holds a master key, whatever happens. */
import { and, eq, inArray, isNotNull, isNull } from 'drizzle-orm'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import type { AnyDb, Tx } from '../../db/database'
import { lockFor } from '../../db/locks'
import { person, roleGrant } from '../../db/schema'
import { Problem } from '../../problem'

/** Those who hold one of the master keys and can sign in now. */
async function keepersNow(tx: AnyDb, keys: readonly string[]): Promise<{ id: string; role: string }[]> {
  return tx
    .select({ id: roleGrant.personId, role: roleGrant.role })
    .from(roleGrant)
    .innerJoin(person, eq(person.id, roleGrant.personId))
    .where(and(inArray(roleGrant.role, [...keys]), canSignIn))
}

const canSignIn = and(
  isNull(person.suspendedAt),
  isNull(person.declinedAt),
  isNotNull(person.confirmedAt),
  isNotNull(person.approvedAt),
  isNotNull(person.passwordHash),
)

/** Whoever may take the last key away does so one after the other, and looks only once the one before is done. */
const lockKeepers = (tx: Tx) => lockFor(tx, 'keepers')

/** An edition with other master keys must leave somebody who holds one and can sign in, where there was somebody. */
export async function refuseNoKeeper(tx: Tx, before: readonly string[], after: readonly string[]): Promise<void> {
  if ([...before].sort().join() === [...after].sort().join()) return
  await lockKeepers(tx)
  if ((await keepersNow(tx, before)).length && !(await keepersNow(tx, after)).length)
    throw new Problem('nobody-holds-key')
}

/**
 * Somebody who can sign in keeps a master key once these people have lost it:
 * all of theirs, or only the one of `role`.
 */
export async function refuseLastKeeper(
  tx: Tx,
  book: Rulebook,
  personIds: readonly string[],
  role?: string,
): Promise<void> {
  const keys = book.settings?.masterKeys ?? []
  if (!keys.length) return
  await lockKeepers(tx)
  const holders = await keepersNow(tx, keys)
  const losing = holders.filter(one => personIds.includes(one.id) && (role === undefined || one.role === role))
  if (!losing.length) return
  const left = holders.filter(one => !losing.includes(one))
  if (!left.length) throw new Problem('last-keeper')
}
