/** What staff may do to one thing: by whose it is and by the fields a change touches. */
import { and, eq, inArray } from 'drizzle-orm'
import { canonical } from '../../../core/canonical'
import type { StaffAction, StaffKindId } from '../../../core/staff/staff-kinds'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { OwnedThing, StaffAsk } from '../../../core/staff/staff-rule'
import { isEntryKind, nameOf } from '../../../core/editions/contents'
import type { VersionedKind } from '../../../core/editions/contents'
import { staffKindOfEntry } from '../../../core/staff/entry-kind'
import type { Tx } from '../../db/database'
import { Problem } from '../../problem'
import { thing } from '../../db/schema'
import { serverKinds, staffKindOf } from '../../kinds/kinds'
import type { VersionedThing } from '../../kinds/kinds'
import { authorise } from '../staff/authorise'
import { amongNames } from '../versions/versions'
import type { VersionName } from '../versions/versions'
import { wholeVersion } from './changes'
import type { Turn } from './draft'
import { makerIn } from './worker'
import type { Worker } from './worker'

type Thing = Record<string, unknown>
export const nobodys: OwnedThing = { madeBy: null, assignedTo: null }

/** Who made a thing, and who looks after it. In a turn at the draft nobody changes that meanwhile. */
export async function ownersOfThing(tx: Tx, kind: VersionedThing, key: string): Promise<OwnedThing> {
  const [row] = await tx
    .select({ madeBy: thing.madeBy, assignedTo: thing.assignedTo })
    .from(thing)
    .where(and(eq(thing.kind, kind), eq(thing.key, key)))
  return row ?? nobodys
}

/** The same of all things of these kinds, by `kind key`. */
export async function ownersOfThings(tx: Tx, kinds: readonly VersionedThing[]): Promise<Map<string, OwnedThing>> {
  if (!kinds.length) return new Map()
  const rows = await tx
    .select()
    .from(thing)
    .where(inArray(thing.kind, [...kinds]))
  return new Map(rows.map(row => [`${row.kind} ${row.key}`, row]))
}

/** The same of these, by `kind key`. */
export async function ownersOfNamed(tx: Tx, names: readonly VersionName[]): Promise<Map<string, OwnedThing>> {
  if (!names.length) return new Map()
  const rows = await tx.select().from(thing).where(amongNames(names, thing))
  return new Map(rows.map(row => [nameOf(row), row]))
}

/** Throws `not-allowed` unless that may be done to a thing of theirs. */
export async function authoriseOwned(
  tx: Tx,
  worker: Worker,
  ask: { kind: StaffKindId; action: StaffAction; fields?: string[] },
  owned: OwnedThing,
): Promise<void> {
  authorise(worker.rights, {
    kind: ask.kind,
    action: ask.action,
    thing: owned,
    ...(ask.fields?.length ? { fields: ask.fields } : {}),
    makerIn: await makerIn(tx, worker, ask.kind, owned.madeBy),
  })
}

/** The rights a change of these parts takes: fields of the kind itself, or a kind of their own. */
export function rightsForParts(
  kind: VersionedThing,
  staff: StaffKindId,
  parts: readonly string[],
): { kind: StaffKindId; fields?: string[] }[] {
  const rights = parts.map(part => (part === 'position' ? 'place' : serverKinds[kind].fields[part]))
  const fields = [...new Set(rights.filter(right => typeof right === 'string'))]
  const others = [...new Set(rights.flatMap(right => (typeof right === 'object' ? [right.kind] : [])))]
  // A part without a line of its own takes the right to change any field.
  const any = rights.some(right => right === undefined)
  return [
    ...(fields.length || any ? [{ kind: staff, ...(any ? {} : { fields }) }] : []),
    ...others.map(other => ({ kind: other })),
  ]
}

/** Parts of a thing that differ. */
export const changedParts = (before: Thing, after: Thing): string[] =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])].filter(
    part => canonical(before[part]) !== canonical(after[part]),
  )

/** For changing a thing: every part that differs is asked for, and a thing turned into another kind is withdrawn as what it was. */
export async function authoriseChange(
  tx: Tx,
  worker: Worker,
  kind: VersionedThing,
  { key, before, after }: { key: string; before: Thing; after: Thing },
): Promise<void> {
  const owned = await ownersOfThing(tx, kind, key)
  const staff = staffKindOf(kind, before)
  const parts = changedParts(before, after)
  const asks = rightsForParts(kind, staff, parts)
  for (const ask of asks.length ? asks : [{ kind: staff }])
    await authoriseOwned(tx, worker, { ...ask, action: 'change' }, owned)
  const becomes = staffKindOf(kind, after)
  if (becomes === staff) return
  await authoriseOwned(tx, worker, { kind: staff, action: 'withdraw' }, owned)
  authorise(worker.rights, { kind: becomes, action: 'add' })
}

/** Of things those that may be looked at: all of a kind, or those whose they are. */
export async function lookable<T extends { kind: VersionedThing; key: string; body: unknown }>(
  tx: Tx,
  worker: Worker,
  things: readonly T[],
): Promise<T[]> {
  const { rights } = worker
  if (rights.masterKey) return [...things]
  const asks = (kind: StaffKindId, owned?: OwnedThing): StaffAsk => ({
    kind,
    action: 'look',
    ...(owned ? { thing: owned } : {}),
  })
  const whole = (kind: StaffKindId) =>
    rights.rules.some(rule => rule.kind === kind && rule.actions.includes('look') && rule.whose === 'anyone')
  const staffOf = ({ kind, body }: T) => staffKindOf(kind, (body ?? {}) as Thing)
  const narrowed = [...new Set(things.filter(one => !whole(staffOf(one))).map(one => one.kind))]
  const owners = await ownersOfThings(tx, narrowed)
  const found: T[] = []
  for (const one of things) {
    const kind = staffOf(one)
    if (whole(kind)) found.push(one)
    else if (mayStaff(rights, asks(kind)).allowed) {
      const owned = owners.get(`${one.kind} ${one.key}`) ?? nobodys
      const answer = mayStaff(rights, { ...asks(kind, owned), makerIn: await makerIn(tx, worker, kind, owned.madeBy) })
      if (answer.allowed) found.push(one)
    }
  }
  return found
}

/** For looking at one version of an entry or a thing. */
export async function permitLook(
  tx: Tx,
  worker: Worker,
  { kind, key, body }: { kind: VersionedKind; key: string; body: unknown },
): Promise<void> {
  if (isEntryKind(kind)) return authorise(worker.rights, { kind: staffKindOfEntry[kind], action: 'look' })
  const staff = staffKindOf(kind as VersionedThing, (body ?? {}) as Thing)
  await authoriseOwned(
    tx,
    worker,
    { kind: staff, action: 'look' },
    await ownersOfThing(tx, kind as VersionedThing, key),
  )
}

/** For making a thing of the draft again what it is live: whoever may change it may undo it, part by part. */
export const permitThingUndo =
  (worker: Worker, { kind, key }: { kind: VersionedKind; key: string }) =>
  async ({ tx, live, changed }: Turn): Promise<void> => {
    const thing = kind as VersionedThing
    const now = changed.get(`${kind} ${key}`)
    if (!now) throw new Problem('no-such-change')
    const before = live.get(kind, key)
    const owned = await ownersOfThing(tx, thing, key)
    const staff = staffKindOf(thing, ((before ?? now)?.body ?? {}) as Thing)
    if (before && now?.body) {
      const parts = changedParts((await wholeVersion(tx, now))!, (await wholeVersion(tx, before))!)
      for (const ask of rightsForParts(thing, staff, parts))
        await authoriseOwned(tx, worker, { ...ask, action: 'change' }, owned)
    } else await authoriseOwned(tx, worker, { kind: staff, action: before ? 'change' : 'withdraw' }, owned)
  }
