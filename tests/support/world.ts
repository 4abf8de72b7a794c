/** What services ask to know of the site, made for a test: rules, settings, a moment. */
import { CompiledRules } from '../../core/gates/compiled'
import type { StaffRule } from '../../core/staff/staff-rule'
import type { Connection } from '../../server/db/database'
import type { SaleWorld } from '../../server/services/memberships/memberships'
import { readInventory } from '../../server/services/rules/inventory'
import { bookOf, entriesAt } from '../../server/services/rules/rulebook-store'
import { settingGroupIds, settingGroups } from '../../server/services/site/settings'
import type { SiteSettings } from '../../server/services/site/settings'
import type { Worker } from '../../server/services/pages/content-rights'
import type { Snapshot } from '../../server/services/rules/snapshot'

export const defaultSettings = Object.fromEntries(
  settingGroupIds.map(group => [group, settingGroups[group].parse({})]),
) as SiteSettings

export const snapshotOf = (rules: CompiledRules, staffRules: StaffRule[] = []): Snapshot => ({
  edition: 1,
  contentVersion: 0,
  rules,
  settings: defaultSettings,
  staffRules,
  firms: [],
})

/** The live rules of a test site, compiled. */
export async function liveRules({ db }: Pick<Connection, 'db'>): Promise<CompiledRules> {
  return new CompiledRules(bookOf(await entriesAt(db, 1)), (await readInventory(db)).site)
}

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
