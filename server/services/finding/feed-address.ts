/** The private address of a member's feed: a feed reader has no session, so the address itself says whose it is. */
import { inTransaction } from '../../db/turn'
import { and, eq } from 'drizzle-orm'
import type { Visitor } from '../../../core/visitor/visitor'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { clockDate } from '../../clock'
import type { AnyDb } from '../../db/database'
import { feedAddress, person } from '../../db/schema'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { hashOf, newToken, signature } from '../secrets/tokens'
import { mayComeIn, visitorColumns, visitorFrom } from '../standing/visitor-of'

const tokenOf = (nonce: string) => signature('feed', nonce)

/** Of a person, where they have one: it can be shown to them again and again, and is kept nowhere. */
export async function feedTokenOf(tx: AnyDb, personId: string): Promise<string | undefined> {
  const [row] = await tx.select().from(feedAddress).where(eq(feedAddress.personId, personId))
  return row && tokenOf(row.nonce)
}

/** Makes one, or another in place of the one before, which is good for nothing from then on. */
export async function renewFeedAddress(db: AnyDb, who: Actor & { id: string }): Promise<void> {
  const nonce = newToken()
  const values = { nonce, tokenHash: hashOf(tokenOf(nonce)), madeAt: clockDate() }
  await inTransaction(db, async tx => {
    await tx
      .insert(feedAddress)
      .values({ personId: who.id, ...values })
      .onConflictDoUpdate({ target: feedAddress.personId, set: values })
    await leaveTrace(tx, who, 'feed.renew', `person ${who.id}`)
  })
}

export async function endFeedAddress(db: AnyDb, who: Actor & { id: string }): Promise<void> {
  await inTransaction(db, async tx => {
    await tx.delete(feedAddress).where(eq(feedAddress.personId, who.id))
    await leaveTrace(tx, who, 'feed.end', `person ${who.id}`)
  })
}

/**
 * Whose a private address is, as who they are as a visitor: whoever could not sign in has none, and staff roles stay
 * behind, since an address is passed on more easily than a password.
 */
export async function feedReader(tx: AnyDb, token: string, book: Rulebook): Promise<Visitor | undefined> {
  const [row] = await tx
    .select(visitorColumns)
    .from(feedAddress)
    .innerJoin(person, eq(feedAddress.personId, person.id))
    .where(and(eq(feedAddress.tokenHash, hashOf(token)), mayComeIn))
  if (!row) return undefined
  const visitor = visitorFrom(row)
  const staff = new Set((book.roles ?? []).filter(role => role.staff).map(role => role.id))
  return { ...visitor, roles: (visitor.roles ?? []).filter(role => !staff.has(role)) }
}
