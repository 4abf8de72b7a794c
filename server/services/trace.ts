/** The record of who did what when. */
import type { Tx } from '../db/database'
import { trace } from '../db/schema'

export interface Actor {
  id: string | null
  name: string
}

/** Writes one line, in the transaction of what it tells about. */
export async function leaveTrace(
  tx: Tx,
  actor: Actor,
  action: string,
  subject: string,
  detail: Record<string, unknown> = {},
): Promise<void> {
  await tx.insert(trace).values({ personId: actor.id, who: actor.name, action, subject, detail })
}
