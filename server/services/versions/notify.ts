/** Tells every server process what moved, once the transaction is through. */
import { sql } from 'drizzle-orm'
import type { AnyDb, Tx } from '../../db/database'
import { siteState } from '../../db/schema'

export const changeChannel = 'bravik_changed'
/** `live`: an edition was published. `settings`: what holds at once. `draft`: nothing a visitor could meet. */
export type Moved = 'live' | 'draft' | 'settings'

async function notify(tx: AnyDb, moved: Moved): Promise<void> {
  await tx.execute(sql`select pg_notify(${changeChannel}, ${moved})`)
}

export async function draftMoved(tx: Tx): Promise<void> {
  await tx.update(siteState).set({ draftVersion: sql`${siteState.draftVersion} + 1` })
  await notify(tx, 'draft')
}

/** After a change of what holds at once, such as settings. */
export async function settingsMoved(tx: Tx): Promise<void> {
  await tx.update(siteState).set({ settingsVersion: sql`${siteState.settingsVersion} + 1` })
  await notify(tx, 'settings')
}

/** Edition `number` is live from the end of the transaction on. */
export async function editionMoved(tx: Tx, number: number): Promise<void> {
  await tx.update(siteState).set({ liveEdition: number, draftVersion: sql`${siteState.draftVersion} + 1` })
  await notify(tx, 'live')
}
