/** Publishing: all of the draft or chosen changes of it, checked as the edition that would result. */
import { inTransaction } from '../../db/turn'
import { sql } from 'drizzle-orm'
import { belongings } from '../../../core/editions/belongings'
import { nameOf } from '../../../core/editions/contents'
import { liftedBy } from '../../../core/editions/lifted'
import { rightsForParts } from '../../../core/staff/part-rights'
import type { StaffKindId } from '../../../core/staff/staff-kinds'
import { staffKindOfEntry } from '../../../core/staff/entry-kind'
import type { EntryKind } from '../../../core/rulebook/rulebook'
import type { AnyDb, Tx } from '../../db/database'
import { idsOf } from '../../db/rows-of'
import { edition, version } from '../../db/schema'
import { clockMs } from '../../clock'
import { Problem } from '../../problem'
import { isServerKind, staffKindOf } from '../../kinds/kinds'
import { authorise } from '../staff/authorise'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { refuseBroken, refuseBrokenTexts, refuseHeld, refuseRisen } from './checks'
import { openTurn } from './draft'
import type { Turn } from './draft'
import { editionMoved } from '../versions/notify'
import { authoriseOwned, changedParts, nobodys, ownersOfNamed } from './thing-rights'
import { contentOf } from '../versions/versions'
import type { StoredContents, StoredVersion } from '../versions/versions'
import type { Worker } from '../live/worker'

export interface Publish {
  note: string
  /** The live edition the keeper saw. */
  expects: number
  actor: Actor
  /** Names of the changes, `kind key`. Default: all of the draft. */
  chosen?: readonly string[] | null | undefined
  /** Asked once nobody can change the draft any more: throws where the keeper may not publish what it holds. */
  authorise(turn: Turn, publication: Publication): void | Promise<void>
}

/** What would be published: the changes, and the edition that would result. */
export interface Publication {
  changes: readonly StoredVersion[]
  next: StoredContents
}

/** Makes the draft, or chosen changes of it, the next edition, in one transaction; every server hears of it. Returns its number. */
export async function publish(db: AnyDb, { note, expects, actor, chosen, authorise: ask }: Publish): Promise<number> {
  return inTransaction(db, async tx => {
    const turn = await openTurn(tx, actor)
    const { live } = turn.state
    if (live !== expects) throw new Problem('published-meanwhile', { live }, { live })
    const publication = publicationOf(turn, chosen)
    await ask(turn, publication)
    await refuseUnfit(turn, publication)
    return goLive(turn, publication, note)
  })
}

/** The changes that were chosen, and what the site would be with them. */
export function publicationOf(turn: Turn, chosen?: readonly string[] | null): Publication {
  const all = [...turn.changed.values()]
  const wanted = chosen && new Set(chosen)
  const changes = wanted ? all.filter(one => wanted.has(nameOf(one))) : all
  if (wanted && changes.length < wanted.size)
    throw new Problem(
      'chosen-gone',
      {},
      {
        live: turn.state.live,
      },
    )
  if (!changes.length) throw new Problem('nothing-to-publish')
  return { changes, next: changes.length === all.length ? turn.draft : turn.live.with(changes) }
}

/** Whatever was looked at when the draft was written may have moved since: it is looked at again, whole. */
export async function refuseUnfit(turn: Turn, { changes, next }: Publication): Promise<void> {
  const names = new Set(changes.map(nameOf))
  const left = belongings([...turn.changed.values()], turn.live).missing(names)
  if (left.length)
    throw new Problem(
      'belongs-together',
      { with: left.map(({ kind, key }) => ({ kind, key })) },
      {
        together: left.map(nameOf),
      },
    )
  refuseBroken(next)
  refuseBrokenTexts(next)
  await refuseRisen(turn.tx, turn.live.book, next.book)
  // Somebody may have got, or begun to buy, what goes.
  for (const gone of changes) if (gone.body === null) await refuseHeld(turn.tx, gone.kind, gone.key)
}

/** Makes the changes the next edition; `publicationOf` and `refuseUnfit` come first. */
export async function goLive(turn: Turn, { changes }: Publication, note: string): Promise<number> {
  const { tx, state, actor, changed } = turn
  const next = state.live + 1
  await tx.insert(edition).values({ number: next, publishedBy: actor.name, note })
  if (changes.length < changed.size) await moveOn(tx, next, changes)
  await editionMoved(tx, next)
  await leaveTrace(tx, actor, 'rules.publish', `edition ${next}`, { note, changes: changes.length })
  // Told here rather than at the end: an address held twice is a sentence, not a broken commit.
  await tx.execute(sql`set constraints all immediate`)
  return next
}

/** What stays behind is in the draft of the edition after. */
async function moveOn(tx: Tx, next: number, published: readonly StoredVersion[]): Promise<void> {
  const rows = idsOf(
    published.map(one => one.id),
    'bigint',
  )
  await tx.execute(sql`
    with moved as (
      update ${version} set edition_from = ${next + 1} where edition_from = ${next} and id not in ${rows} returning kind, key
    ) update ${version} old set edition_to = ${next + 1} from moved where old.edition_to = ${next} and old.kind = moved.kind and old.key = moved.key`)
}

/** Publishing takes the right to publish each kind it changes, and to gates where moving a thing lets a tier in. */
export async function authorisePublication(
  worker: Worker,
  { tx, live }: Turn,
  { changes }: Publication,
): Promise<void> {
  if (worker.rights.masterKey) return
  const kinds = new Set<StaffKindId>()
  const things = changes.filter(one => isServerKind(one.kind))
  const owners = await ownersOfNamed(tx, things)
  // Publishing may be narrowed to some fields; parts under a right of their own, as prices are, are published
  // under that.
  const isNarrowed = (staff: StaffKindId) => worker.rights.rules.some(rule => rule.kind === staff && rule.fields)
  const bodyOf = (change: StoredVersion) =>
    (change.body ?? live.get(change.kind, change.key)?.body ?? {}) as Record<string, unknown>
  const contents = await contentOf(
    tx,
    things
      .filter(one => isServerKind(one.kind) && isNarrowed(staffKindOf(one.kind, bodyOf(one))))
      .flatMap(one => [one.id, ...(live.get(one.kind, one.key) ? [live.get(one.kind, one.key)!.id] : [])]),
  )
  for (const change of changes) {
    if (!isServerKind(change.kind)) kinds.add(staffKindOfEntry[change.kind as EntryKind])
    else {
      const before = live.get(change.kind, change.key)
      const staff = staffKindOf(change.kind, bodyOf(change))
      const owned = owners.get(nameOf(change)) ?? nobodys
      const whole = (one: StoredVersion | undefined) =>
        one?.body ? { ...(one.body as object), ...contents.get(one.id) } : {}
      const parts = changedParts(whole(before), whole(change))
      const asks = rightsForParts(change.kind, staff, parts)
      for (const { kind } of asks) if (kind !== staff) kinds.add(kind)
      const fields = asks.find(({ kind }) => kind === staff)?.fields ?? []
      // One that goes, goes whole.
      await authoriseOwned(tx, worker, { kind: staff, action: 'publish', fields: change.body ? fields : [] }, owned)
    }
  }
  for (const kind of kinds) authorise(worker.rights, { kind, action: 'publish' })
  if (!things.length) return
  const lifted = liftedBy(live, changes, clockMs())
  if (lifted) authorise(worker.rights, { kind: 'gates', action: 'publish' })
}

/** Editions, newest first. */
export const listEditions = (tx: AnyDb) =>
  tx
    .select()
    .from(edition)
    .orderBy(sql`${edition.number} desc`)
