/** What the console starts from, in one consistent view; of everything only what the person may look at. */
import { inTransaction } from '../../db/turn'
import type { BlockKind } from '../../../core/blocks/blocks'
import { readSettings } from '../settings/settings'
import type { SiteSettings } from '../settings/settings'
import { and, eq, or, sql } from 'drizzle-orm'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { FileDamage } from '../../../core/files/stored-file'
import type { SiteFrame, Version } from '../../../core/editions/contents'
import { namedInRules } from '../staff/names'
import { firstStepsOf } from './first-steps'
import type { Names } from '../staff/names'
import { damagedFiles } from '../files/read-through'
import { signUpForm } from '../entrance/sign-up-form'
import { formsTold, listForms } from '../forms/forms'
import type { SignUpForm } from '../../../core/view/view'
import { seesPeople } from '../staff/people-seen'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { StaffRights, StaffRule } from '../../../core/staff/staff-rule'
import type { AnyDb } from '../../db/database'
import { idsOf } from '../../db/rows-of'
import { version } from '../../db/schema'
import { Problem } from '../../problem'
import { staffRolesOf } from '../staff/authorise'
import type { Actor } from '../../trace'
import { draftChanges } from '../editions/changes'
import type { DraftChange } from '../editions/changes'
import { lookable } from '../editions/thing-rights'
import { visible } from '../editions/visible'
import { contentsAt, heldAt, readState } from '../versions/versions'
import type { SiteState, StoredVersion } from '../versions/versions'
import type { Worker } from '../live/worker'

/** A live version as the console keeps it: what rules see of it, and what it is for saying later what was changed. */
export interface SentVersion extends Version {
  id: number
  revision: number
}

export interface DamagedDownload {
  id: string
  /** The file's name, as it is kept. */
  file: string
  damage: FileDamage
}

export interface StartData {
  me: { id: string | null; name: string; masterKey: boolean; rules: StaffRule[]; roles: string[] }
  edition: number
  /** Moves with every change of the draft. */
  draftVersion: number
  frame: SiteFrame
  /** What is live. With `changes` put over it, it is the draft. */
  versions: SentVersion[]
  changes: DraftChange[]
  /** Persons and firms rules name, so that sentences can be said. */
  named: Names
  /** Of a new site whose first steps are not done without: whether the operator opened the door. */
  firstSteps: { mail: boolean; door: boolean } | null
  /** Kinds of part the site is without. */
  partsOff: readonly BlockKind[]
  /** What the public pages say of themselves, and how they look. */
  words: SiteSettings['words']
  look: SiteSettings['look']
  /** What signing up asks, and what can be applied for: pages tell of both. */
  signUp: SignUpForm
  forms: { path: string; about: { kind: 'level' | 'role'; id: string; called: string } }[]
  /** Downloads whose files are not what they were, for whoever may look at those. */
  damaged: DamagedDownload[]
  /** Sign-ups and applications that wait, for who looks after people. */
  waiting: number
}

const sentVersion = ({ kind, key, position, body, id, revision }: StoredVersion): SentVersion => ({
  kind,
  key,
  position,
  body,
  id,
  revision,
})

export async function readStart(db: AnyDb, decider: CompiledDecider, worker: Worker, actor: Actor): Promise<StartData> {
  const { rights } = worker
  return inTransaction(
    db,
    async tx => {
      const state = await readState(tx)
      const live = await contentsAt(tx, state, state.live)
      const staff = staffRolesOf(decider.rules.rulebook)
      const settings = await readSettings(tx)
      const { parts, words, look } = settings
      const book = decider.rules.rulebook
      const changes = await draftChanges(tx, state)
      const seen = await visible(
        tx,
        worker,
        changes.map(change => ({ ...change, body: change.after ?? change.before })),
      )
      const told = new Map(seen.map(({ body: _body, ...change }) => [change.id, change]))
      return {
        me: {
          ...actor,
          masterKey: rights.masterKey,
          rules: [...rights.rules],
          roles: [...decider.asker.roles].filter(role => staff.has(role)),
        },
        edition: state.live,
        draftVersion: state.draftVersion,
        frame: state.frame,
        versions: (await visible(tx, worker, live.versions)).map(sentVersion),
        changes: changes.flatMap(({ id }) => told.get(id) ?? []),
        named: await namedInRules(tx, rights, [
          ...live.versions,
          ...changes.map(({ kind, after }) => ({ kind, body: after })),
        ]),
        firstSteps: await firstStepsOf(tx),
        partsOff: parts.off,
        words,
        look,
        signUp: seenForm(rights, signUpForm({ book, settings })),
        forms: formsTold(await listForms(tx), book),
        damaged: await damagedDownloads(tx, state, worker),
        waiting: seesPeople(rights, 'standing') ? await waitingCount(tx) : 0,
      }
    },
    { isolationLevel: 'repeatable read', accessMode: 'read only' },
  )
}

/** Of whom something is asked is told to who may look at how people sign up. */
function seenForm(rights: StaffRights, form: SignUpForm): SignUpForm {
  if (mayStaff(rights, { kind: 'settings-sign-up', action: 'look' }).allowed) return form
  return { ...form, facts: form.facts.map(({ of: _, ...one }) => one) }
}

/** An edition as it was. */
export async function readEdition(
  db: AnyDb,
  worker: Worker,
  number: number,
): Promise<{ number: number; versions: SentVersion[] }> {
  const state = await readState(db)
  if (number < 1 || number > state.live) throw new Problem('no-such-edition', { edition: number })
  const { versions } = await contentsAt(db, state, number)
  return { number, versions: (await visible(db, worker, versions)).map(sentVersion) }
}

/** Of the live edition and of the draft. */
async function damagedDownloads(tx: AnyDb, state: SiteState, worker: Worker): Promise<DamagedDownload[]> {
  const damaged = await damagedFiles(tx)
  if (!damaged.size) return []
  const named = sql<string>`${version.content} ->> 'file'`
  const rows = await tx
    .select({ key: version.key, body: version.body, file: named })
    .from(version)
    .where(
      and(
        eq(version.kind, 'download'),
        or(heldAt(state.live), heldAt(state.live + 1)),
        sql`${named} in ${idsOf([...damaged.keys()])}`,
      ),
    )
  const shown = await lookable(
    tx,
    worker,
    rows.map(row => ({ ...row, kind: 'download' as const })),
  )
  const told = shown
    .filter(({ seen }) => seen('file'))
    .map(({ one: { key, file } }) => ({ id: key, file, damage: damaged.get(file)! }))
  // What is the same in both is one.
  return [...new Map(told.map(one => [`${one.id} ${one.file}`, one])).values()]
}

async function waitingCount(tx: AnyDb): Promise<number> {
  const [row] = await tx.execute<{ count: number }>(
    sql`select (select count(*) from person where confirmed_at is not null and approved_at is null and declined_at is null)::int + (select count(*) from application where state = 'waiting')::int count`,
  )
  return row!.count
}
