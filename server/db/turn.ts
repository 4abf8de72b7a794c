/** One turn: everything a person of the staff changes at once, in one transaction, with its trace. */
import { AsyncLocalStorage } from 'node:async_hooks'
import { logFault } from '../log'
import type { Database, Tx } from './database'

interface Turn {
  traced: boolean
  afterwards: (() => Promise<unknown>)[]
}
const turns = new AsyncLocalStorage<Turn>()

/**
 * Does the work in a transaction; what it leaves for afterwards is done once that is committed, and is logged where it
 * fails: what is committed is answered as done. Within a turn it is a part of that one.
 */
export async function inOneTurn<T>(database: Database, work: (tx: Tx) => Promise<T>): Promise<T> {
  if (turns.getStore()) return database.transaction(work)
  const turn: Turn = { traced: false, afterwards: [] }
  const answer = await turns.run(turn, () => database.transaction(work))
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
