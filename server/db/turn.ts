/** One turn: everything a person of the staff changes at once, in one transaction, with its trace. */
import { AsyncLocalStorage } from 'node:async_hooks'
import { logFault } from '../log'
import type { PgTransactionConfig } from 'drizzle-orm/pg-core'
import { PgTransaction } from 'drizzle-orm/pg-core'
import type { AnyDb, Tx } from './database'

interface Turn {
  traced: boolean
  afterwards: (() => Promise<unknown>)[]
}
const turns = new AsyncLocalStorage<Turn>()

const isTransaction = (db: AnyDb): db is Tx => db instanceof PgTransaction

/**
 * Does the work in one transaction: a new one on a database, this one where it is one already. Nothing else opens any.
 * Whoever catches what the work throws and goes on in the same transaction does it in a `savepoint`.
 */
export function inTransaction<T>(db: AnyDb, work: (tx: Tx) => Promise<T>, how?: PgTransactionConfig): Promise<T> {
  return isTransaction(db) ? work(db) : db.transaction(work, how)
}

/** Work that can fail by itself: what it did is undone, the transaction goes on. */
export const savepoint = <T>(tx: Tx, work: (tx: Tx) => Promise<T>): Promise<T> => tx.transaction(work)

/**
 * Does the work in a transaction; what it leaves for afterwards is done once that is committed, and is logged where it
 * fails: what is committed is answered as done. Given a transaction it is a part of that one.
 */
export async function inOneTurn<T>(db: AnyDb, work: (tx: Tx) => Promise<T>): Promise<T> {
  if (isTransaction(db)) return work(db)
  const turn: Turn = { traced: false, afterwards: [] }
  const answer = await turns.run(turn, () => db.transaction(work))
  for (const one of turn.afterwards) await one().catch(error => logFault('after a change', error))
  return answer
}

/** Once the turn is committed, if there is one; otherwise now: what others must not hear of before they can read it. Where it fails nothing is undone. */
export async function afterCommit(work: () => Promise<unknown>): Promise<void> {
  const turn = turns.getStore()
  if (turn) turn.afterwards.push(work)
  else await work().catch(error => logFault('after a change', error))
}

export function noteTraced(): void {
  const turn = turns.getStore()
  if (turn) turn.traced = true
}

/** Whether this turn has left a line in the trace; true outside of any. */
export const isTraced = (): boolean => turns.getStore()?.traced ?? true
