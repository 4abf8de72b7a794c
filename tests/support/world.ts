/** What services ask to know of the site, made for a test: rules, settings, a moment. */
import { CompiledRules } from '../../core/gates/compiled'
import type { StaffRule } from '../../core/staff/staff-rule'
import type { Connection, Database, Tx } from '../../server/db/database'
import type { SaleWorld } from '../../server/services/memberships/memberships'
import { Contents, isEntryKind } from '../../core/editions/contents'
import type { Rulebook } from '../../core/rulebook/rulebook'
import { contentsAt, draftContents, readState } from '../../server/services/versions/versions'
import type { StoredContents, StoredVersion } from '../../server/services/versions/versions'
import type { Turn } from '../../server/services/editions/draft'
import { openTurn } from '../../server/services/editions/draft'
import { settingGroupIds, settingGroups } from '../../server/services/settings/settings'
import type { SiteSettings } from '../../server/services/settings/settings'
import type { Worker } from '../../server/services/live/worker'
import { Problem } from '../../server/problem'
import type { Snapshot } from '../../server/services/live/snapshot'

/** Of a new site, as settings are kept: by group. */
export const defaultGroups = Object.fromEntries(
  settingGroupIds.map(group => [group, settingGroups[group].parse({})]),
) as Omit<SiteSettings, 'mailWorks'>
export const defaultSettings: SiteSettings = { ...defaultGroups, mailWorks: false }

export const snapshotOf = (
  rules: CompiledRules,
  staffRules: StaffRule[] = [],
  contents?: StoredContents,
): Snapshot => ({
  edition: 1,
  settingsVersion: 0,
  contents: contents ?? new Contents<StoredVersion>([], { timezone: 'UTC', currency: 'EUR' }),
  rules,
  settings: defaultSettings,
  staffRules,
  firms: [],
  forms: [],
})

/** What an edition holds; the draft where none is named. */
export async function contentsOf({ db }: Pick<Connection, 'db'>, edition?: number): Promise<StoredContents> {
  const state = await readState(db)
  return edition === undefined || edition > state.live ? draftContents(db, state) : contentsAt(db, state, edition)
}

/** The live rules of a test site, compiled. */
export async function liveRules(site: Pick<Connection, 'db'>, edition = 1): Promise<CompiledRules> {
  const { book, index } = await contentsOf(site, edition)
  return new CompiledRules(book, index)
}

/** The entries of the rules an edition, or the draft, holds. */
export const entriesAt = async (db: Connection['db'], edition?: number): Promise<StoredVersion[]> =>
  (await contentsOf({ db }, edition)).versions.filter(one => isEntryKind(one.kind))

export const bookAt = async (db: Connection['db'], edition?: number): Promise<Rulebook> =>
  (await contentsOf({ db }, edition)).book

/** A turn at the draft, for asking what may be done in one; nothing is changed. */
export const inTurn = <T>(db: Connection['db'], ask: (turn: Turn) => T | Promise<T>): Promise<T> =>
  db.transaction(async tx => ask(await openTurn(tx, ines)))

/** The master key, over these rules: for what a service asks of whoever works. */
export const keeperOf = (rules: CompiledRules, staffRules: StaffRule[] = []): Worker => ({
  rights: { personId: 'p-ines', masterKey: true, rules: [] },
  snapshot: snapshotOf(rules, staffRules),
})

/** What selling asks for, with a week of grace. */
export const saleWorldOf = (rules: CompiledRules): SaleWorld => ({
  book: rules.rulebook,
  timezone: 'Europe/Dublin',
  graceDays: 7,
})

export const ines = { id: 'p-ines', name: 'Ines Varga' }

class Undone extends Error {}
/** What trying something would be answered: the code of the problem, or `none`. Nothing of it stays. */
export const tried = (db: Database, work: (tx: Tx) => Promise<unknown>): Promise<string> =>
  db
    .transaction(async tx => {
      await work(tx)
      throw new Undone()
    })
    .catch((error: unknown) =>
      error instanceof Undone ? 'none' : error instanceof Problem ? error.code : String(error),
    )
