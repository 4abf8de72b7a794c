/** What of rules and things somebody may look at in the console, with the parts that may. */
import { isEntryKind } from '../../../core/editions/contents'
import type { Version } from '../../../core/editions/contents'
import type { EntryKind } from '../../../core/rulebook/rulebook'
import { staffKindOfEntry } from '../../../core/staff/entry-kind'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { AnyDb } from '../../db/database'
import type { VersionedThing } from '../../kinds/kinds'
import type { Worker } from '../live/worker'
import { lookable, withParts } from './thing-rights'
import type { Seen } from './thing-rights'

/** Names that sentences and lists are made of; whoever looks at anything may know them. */
const names: ReadonlySet<EntryKind> = new Set(['level', 'role', 'permission', 'fact', 'audience', 'tier'])

/**
 * Of rules and things those that may be looked at, with the parts that may. Whoever looks at gates sees all that
 * gates stand before.
 */
export async function visible<T extends Version>(tx: AnyDb, worker: Worker, versions: readonly T[]): Promise<T[]> {
  const { rights } = worker
  const looks = (kind: Parameters<typeof mayStaff>[1]['kind']) => mayStaff(rights, { kind, action: 'look' }).allowed
  const anything = rights.masterKey || rights.rules.length > 0
  const seen = (kind: EntryKind) => (names.has(kind) && anything) || looks(staffKindOfEntry[kind])
  const entries = versions.filter(one => isEntryKind(one.kind) && seen(one.kind))
  const things = versions.filter(one => !isEntryKind(one.kind)) as (T & { kind: VersionedThing })[]
  if (looks('gates')) return [...entries, ...things]
  const shown = await lookable(tx, worker, things)
  return [...entries, ...shown.map(({ one, seen }) => (rights.masterKey ? one : partly(one, seen)))]
}

/** Without the parts that may not be looked at, wherever they stand in it. */
function partly<T extends Version & { before?: unknown; after?: unknown }>(one: T, seen: Seen): T {
  const strip = (key: 'body' | 'before' | 'after') =>
    one[key] ? { [key]: withParts(one[key] as Record<string, unknown>, seen) } : {}
  return { ...one, ...strip('body'), ...strip('before'), ...strip('after') }
}
