/** The live rules and site of this process, compiled; swapped as one when anything is published or changed. */
import { CompiledRules } from '../../../core/gates/compiled'
import { connection } from '../../db/database'
import { firm } from '../../db/schema'
import type { Connection } from '../../db/database'
import { bookOf, changeChannel, entriesAt } from './rulebook-store'
import { readInventory } from './inventory'
import { readSettings } from '../site/settings'
import type { SiteSettings } from '../site/settings'
import { readStaffRules } from '../staff/staff-rules'
import type { StaffRule } from '../../../core/staff/staff-rule'

export interface Snapshot {
  edition: number
  contentVersion: number
  rules: CompiledRules
  settings: SiteSettings
  /** What staff roles may do; holds at once, so live and draft share it. */
  staffRules: StaffRule[]
  /** Firms by name, for rules and sentences. */
  firms: { id: string, name: string }[]
}

let live: Snapshot | undefined
let reading: Promise<Snapshot> | undefined
let again = false

/** The snapshot every request of this moment is answered from. Take it once per request. */
export async function snapshot(): Promise<Snapshot> {
  return live ?? reload()
}

/** Reads edition and content anew, in one consistent view; calls while one is under way are followed by one more. */
export async function reload(): Promise<Snapshot> {
  if (reading) {
    again = true
    return reading
  }
  reading = readUntilQuiet().finally(() => {
    reading = undefined
  })
  return reading
}

async function readUntilQuiet(): Promise<Snapshot> {
  do {
    again = false
    live = await readSnapshot('live', live)
  } while (again)
  return live!
}

async function readSnapshot(which: 'live' | 'draft', known?: Snapshot): Promise<Snapshot> {
  return connection().db.transaction(async (tx) => {
    const { site, liveEdition, contentVersion } = await readInventory(tx)
    const edition = which === 'live' ? liveEdition : liveEdition + 1
    if (which === 'live' && known?.edition === edition && known.contentVersion === contentVersion) return known
    return { edition, contentVersion, rules: new CompiledRules(bookOf(await entriesAt(tx, edition)), site), settings: await readSettings(tx), staffRules: await readStaffRules(tx), firms: await tx.select({ id: firm.id, name: firm.name }).from(firm) }
  }, { isolationLevel: 'repeatable read', accessMode: 'read only' })
}

/** The draft as it is now, compiled. Read anew each time: a draft moves with every keystroke of a keeper. */
export const draftSnapshot = () => readSnapshot('draft')

/** Listens for changes. The listener reconnects by itself, and each new connection catches up on what it missed. */
export async function follow(one: Connection = connection()): Promise<void> {
  const catchUp = () => {
    reload().catch(error => console.error('could not read the changed rules', (error as Error).name))
  }
  await one.sql.listen(changeChannel, catchUp, catchUp)
}
