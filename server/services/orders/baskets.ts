/** Baskets of people who are signed in, in the database. */
import { lockPerson } from '../../db/lock-person'
import { inTransaction } from '../../db/turn'
import { asc, eq, lt } from 'drizzle-orm'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { basketLine } from '../../db/schema'
import { merged } from './lines'
import type { KeptLine } from './lines'

export async function basketOf(tx: AnyDb, personId: string): Promise<KeptLine[]> {
  const rows = await tx
    .select()
    .from(basketLine)
    .where(eq(basketLine.personId, personId))
    .orderBy(asc(basketLine.addedAt), asc(basketLine.product))
  return rows.map(({ product, quantity, seen }) => ({ product, quantity, seen }))
}

/** Changes it by what it is now: two changes at once are made one after the other. Nothing is written where nothing changes. */
export async function changeBasket(
  db: AnyDb,
  personId: string,
  change: (lines: KeptLine[]) => KeptLine[],
): Promise<KeptLine[]> {
  return inTransaction(db, async tx => {
    await lockPerson(tx, personId)
    return changeBasketIn(tx, personId, change)
  })
}

/** The same where the person is locked already. */
export async function changeBasketIn(
  tx: Tx,
  personId: string,
  change: (lines: KeptLine[]) => KeptLine[],
): Promise<KeptLine[]> {
  const before = await basketOf(tx, personId)
  const after = change(before)
  if (JSON.stringify(before) === JSON.stringify(after)) return after
  await tx.delete(basketLine).where(eq(basketLine.personId, personId))
  // A later moment for each, so that they come back in their order.
  const start = clockMs()
  if (after.length)
    await tx.insert(basketLine).values(after.map((line, i) => ({ personId, ...line, addedAt: new Date(start + i) })))
  return after
}

/** What a guest put in goes along when they sign in. */
export const bringBasket = (db: AnyDb, personId: string, guest: readonly KeptLine[]) =>
  changeBasket(db, personId, own => merged(own, guest))

const keptDays = 90
/** What nobody came back for. */
export async function dropOldBaskets(db: AnyDb | Tx): Promise<void> {
  await db.delete(basketLine).where(lt(basketLine.addedAt, new Date(clockDate().getTime() - keptDays * 86_400_000)))
}
