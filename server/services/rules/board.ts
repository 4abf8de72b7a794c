/** What the console starts from, in one consistent view; of everything only what the person may look at. */
import type { CompiledDecider } from '../../../core/gates/compiled-decider'

import type { EntryKind, Rulebook } from '../../../core/rulebook/rulebook'
import type { Site } from '../../../core/site/site'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { StaffRule } from '../../../core/staff/staff-rule'
import { sql } from 'drizzle-orm'
import type { Database, Tx } from '../../db/database'
import { firm } from '../../db/schema'
import { staffRolesOf } from '../staff/authorise'
import { lookablePages } from '../pages/content-rights'
import type { Worker } from '../pages/content-rights'
import { staffKindOfEntry } from '../../../core/staff/entry-kind'
import { readInventory } from './inventory'
import { bookOf, draftChanges, entriesAt } from './rulebook-store'
import type { DraftChange, Expects, StoredEntry } from './rulebook-store'
import type { Actor } from '../trace'

export interface BoardData {
  me: { id: string | null; name: string; masterKey: boolean; rules: StaffRule[]; roles: string[] }
  edition: number
  site: Site
  live: Rulebook
  draft: Rulebook
  /** What each entry of the draft is, for saying later what was changed. By `kind key`. */
  versions: Record<string, Exclude<Expects, null>>
  changes: DraftChange[]
  firms: { id: string; name: string }[]
  /** Sign-ups and applications that wait, for who looks after people. */
  waiting: number
}

/** Names that sentences and lists are made of; whoever looks at anything may know them. */
const names: ReadonlySet<EntryKind> = new Set(['level', 'role', 'permission', 'fact', 'audience', 'tier'])

export async function readBoard(
  db: Database,
  decider: CompiledDecider,
  worker: Worker,
  actor: Actor,
): Promise<BoardData> {
  const { rights } = worker
  const looks = (kind: Parameters<typeof mayStaff>[1]['kind']) => mayStaff(rights, { kind, action: 'look' }).allowed
  const anything = rights.masterKey || rights.rules.length > 0
  const seen = ({ kind }: { kind: EntryKind }) => (names.has(kind) && anything) || looks(staffKindOfEntry[kind])
  return db.transaction(
    async tx => {
      const { site, liveEdition } = await readInventory(tx)
      const draft = (await entriesAt(tx, liveEdition + 1)).filter(seen)
      const book = (entries: StoredEntry[]) => bookOf(entries.filter(seen))
      const staff = staffRolesOf(decider.rules.rulebook)
      return {
        me: {
          ...actor,
          masterKey: rights.masterKey,
          rules: [...rights.rules],
          roles: [...decider.asker.roles].filter(role => staff.has(role)),
        },
        edition: liveEdition,
        site: looks('gates')
          ? site
          : looks('pages')
            ? { ...site, ...(await ownPart(tx, worker, site)) }
            : { timezone: site.timezone, currency: site.currency, name: site.name, locale: site.locale },
        live: book(await entriesAt(tx, liveEdition)),
        draft: book(draft),
        versions: Object.fromEntries(
          draft.map(entry => [`${entry.kind} ${entry.key}`, { id: entry.id, revision: entry.revision }]),
        ),
        changes: (await draftChanges(tx)).filter(seen),
        firms: anything ? await tx.select({ id: firm.id, name: firm.name }).from(firm) : [],
        waiting: looks('people') ? await waitingCount(tx) : 0,
      }
    },
    { isolationLevel: 'repeatable read', accessMode: 'read only' },
  )
}

/** Of pages and what stands in them, those that may be looked at. */
async function ownPart(tx: Tx, worker: Worker, site: Site): Promise<Pick<Site, 'pages' | 'blocks' | 'menus'>> {
  const allowed = await lookablePages(tx, worker)
  return {
    pages: (site.pages ?? []).filter(one => allowed.has(one.id)),
    blocks: (site.blocks ?? []).filter(one => 'page' in one.in && allowed.has(one.in.page)),
    menus: [],
  }
}

async function waitingCount(tx: Tx): Promise<number> {
  const [row] = await tx.execute<{ count: number }>(
    sql`select (select count(*) from person where confirmed_at is not null and approved_at is null and declined_at is null)::int + (select count(*) from application where state = 'waiting')::int count`,
  )
  return row!.count
}
