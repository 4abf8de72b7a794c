import { eq } from 'drizzle-orm'
import type { Tx } from './database'
import { person } from './schema'

/** One at a time of everything that changes what a person holds, owes or has in their basket. Held to the end of the transaction. */
export const lockPerson = (tx: Tx, id: string) =>
  tx.select({ id: person.id }).from(person).where(eq(person.id, id)).for('update')
