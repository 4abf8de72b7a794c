/** What staff may do to one thing: by whose it is and by the fields a change touches. */
import { and, eq, inArray } from 'drizzle-orm'
import { canonical } from '../../../core/canonical'
import { rightsForParts } from '../../../core/staff/part-rights'
import type { StaffAction, StaffKindId } from '../../../core/staff/staff-kinds'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { OwnedThing, StaffAsk, StaffRights } from '../../../core/staff/staff-rule'
import { isEntryKind, nameOf } from '../../../core/editions/contents'
import type { VersionedKind } from '../../../core/editions/contents'
import { staffKindOfEntry } from '../../../core/staff/entry-kind'
import type { AnyDb } from '../../db/database'
import { Problem } from '../../problem'
import { thing } from '../../db/schema'
import { staffKindOf } from '../../kinds/kinds'
import type { VersionedThing } from '../../kinds/kinds'
import { authorise } from '../staff/authorise'
import { amongNames } from '../versions/versions'
import type { VersionName } from '../versions/versions'
import { wholeVersion } from './changes'
import type { Turn } from './draft'
import { makerOf } from '../live/worker'
import type { Worker } from '../live/worker'

type Thing = Record<string, unknown>
export const nobodys: OwnedThing = { madeBy: null, assignedTo: null }

/** Who made a thing, and who looks after it. In a turn at the draft nobody changes that meanwhile. */
export async function ownersOfThing(tx: AnyDb, kind: VersionedThing, key: string): Promise<OwnedThing> {
  const [row] = await tx
    .select({ madeBy: thing.madeBy, assignedTo: thing.assignedTo })
    .from(thing)
    .where(and(eq(thing.kind, kind), eq(thing.key, key)))
  return row ?? nobodys
}

/** The same of all things of these kinds, by `kind key`. */
export async function ownersOfThings(tx: AnyDb, kinds: readonly VersionedThing[]): Promise<Map<string, OwnedThing>> {
  if (!kinds.length) return new Map()
  const rows = await tx
    .select()
    .from(thing)
    .where(inArray(thing.kind, [...kinds]))
  return new Map(rows.map(row => [`${row.kind} ${row.key}`, row]))
}

/** The same of these, by `kind key`. */
export async function ownersOfNamed(tx: AnyDb, names: readonly VersionName[]): Promise<Map<string, OwnedThing>> {
  if (!names.length) return new Map()
  const rows = await tx.select().from(thing).where(amongNames(names, thing))
  return new Map(rows.map(row => [nameOf(row), row]))
}

/** Throws `not-allowed` unless that may be done to a thing of theirs. */
export async function authoriseOwned(
  tx: AnyDb,
  worker: Worker,
  ask: { kind: StaffKindId; action: StaffAction; fields?: string[] },
  owned: OwnedThing,
): Promise<void> {
  authorise(worker.rights, {
    kind: ask.kind,
    action: ask.action,
    thing: owned,
    ...(ask.fields?.length ? { fields: ask.fields } : {}),
    ...(await makerOf(tx, worker, ask.kind, owned.madeBy)),
  })
}

/** Parts of a thing that differ. */
export const changedParts = (before: Thing, after: Thing): string[] =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])].filter(
    part => canonical(before[part]) !== canonical(after[part]),
  )

/** For changing a thing: every part that differs is asked for, and a thing turned into another kind is withdrawn as what it was. */
export async function authoriseChange(
  tx: AnyDb,
  worker: Worker,
  kind: VersionedThing,
  { key, before, after, owned: known }: { key: string; before: Thing; after: Thing; owned?: OwnedThing },
): Promise<void> {
  const owned = known ?? (await ownersOfThing(tx, kind, key))
  const staff = staffKindOf(kind, before)
  const parts = changedParts(before, after)
  const asks = rightsForParts(kind, staff, parts)
  for (const ask of asks.length ? asks : [{ kind: staff }])
    await authoriseOwned(tx, worker, { ...ask, action: 'change' }, owned)
  const becomes = staffKindOf(kind, after)
  if (becomes === staff) return
  await authoriseOwned(tx, worker, { kind: staff, action: 'withdraw' }, owned)
  authoriseAddition(worker, kind, after)
}

/** Which parts of one thing may be looked at. */
export type Seen = (part: string) => boolean
const everyPart: Seen = () => true
/** What tells which thing it is and where it stands shows with it. */
const plain: ReadonlySet<string> = new Set(['id', 'kind', 'position'])

/** A thing without the parts that may not be looked at. */
export const withParts = (thing: Thing, seen: Seen): Thing =>
  Object.fromEntries(Object.entries(thing).filter(([part]) => seen(part)))

/** For making a thing with these parts: each that says something is asked for. What is made anew is one's own. */
export function authoriseAddition(
  { rights }: Worker,
  kind: VersionedThing,
  whole: Thing,
  of: Pick<StaffAsk, 'thing' | 'maker'> = {},
): void {
  const staff = staffKindOf(kind, whole)
  const given = Object.keys(whole).filter(part => !plain.has(part) && !saysNothing(whole[part]))
  authorise(rights, { kind: staff, action: 'add', ...of })
  for (const ask of rightsForParts(kind, staff, given))
    // A price is given by who may change prices.
    authorise(rights, { ...ask, ...of, action: ask.kind === staff ? 'add' : 'change' })
}
const saysNothing = (value: unknown) =>
  value === undefined || value === '' || value === false || (Array.isArray(value) && value.length === 0)

/** Of things those that may be looked at: all of a kind, or those whose they are; with what may be seen of each. */
export async function lookable<T extends { kind: VersionedThing; key: string; body: unknown }>(
  tx: AnyDb,
  worker: Worker,
  things: readonly T[],
): Promise<{ one: T; seen: Seen }[]> {
  const { rights } = worker
  if (rights.masterKey) return things.map(one => ({ one, seen: everyPart }))
  const looks = (kind: StaffKindId) => rights.rules.filter(rule => rule.kind === kind && rule.actions.includes('look'))
  const whole = (kind: StaffKindId) => looks(kind).some(rule => rule.whose === 'anyone' && !rule.fields)
  const staffOf = ({ kind, body }: T) => staffKindOf(kind, (body ?? {}) as Thing)
  const narrowed = things.filter(one => looks(staffOf(one)).length > 0 && !whole(staffOf(one)))
  const owners = await ownersOfThings(tx, [...new Set(narrowed.map(one => one.kind))])
  const ofAll = new Map<string, Seen>()
  const seenOfAll = (kind: VersionedThing, staff: StaffKindId): Seen => {
    const name = `${kind} ${staff}`
    return ofAll.get(name) ?? ofAll.set(name, seenBy(rights, kind, staff)).get(name)!
  }
  const found: { one: T; seen: Seen }[] = []
  for (const one of things) {
    const kind = staffOf(one)
    const seen = whole(kind)
      ? seenOfAll(one.kind, kind)
      : looks(kind).length
        ? await seenOf(tx, worker, one.kind, kind, owners.get(`${one.kind} ${one.key}`) ?? nobodys)
        : null
    if (seen) found.push({ one, seen })
  }
  return found
}

/** What may be seen of a thing of theirs; null where nothing of it may be. */
async function seenOf(
  tx: AnyDb,
  worker: Worker,
  kind: VersionedThing,
  staff: StaffKindId,
  owned: OwnedThing,
): Promise<Seen | null> {
  const of = { thing: owned, ...(await makerOf(tx, worker, staff, owned.madeBy)) }
  return mayStaff(worker.rights, { kind: staff, action: 'look', ...of }).allowed
    ? seenBy(worker.rights, kind, staff, of)
    : null
}

function seenBy(
  rights: StaffRights,
  kind: VersionedThing,
  staff: StaffKindId,
  of: Pick<StaffAsk, 'thing' | 'maker'> = {},
): Seen {
  const known = new Map<string, boolean>()
  const looks = (ask: { kind: StaffKindId; fields?: string[] }) =>
    mayStaff(rights, { ...ask, action: 'look', ...(ask.kind === staff ? of : {}) }).allowed
  return part => {
    let seen = known.get(part)
    if (seen === undefined) {
      const [ask] = rightsForParts(kind, staff, [part])
      seen = plain.has(part) || ask!.fields?.join() === 'place' || looks(ask!)
      known.set(part, seen)
    }
    return seen
  }
}

/** For looking at one version of an entry or a thing: which of its parts may be looked at. */
export async function permitLook(
  tx: AnyDb,
  worker: Worker,
  { kind, key, body }: { kind: VersionedKind; key: string; body: unknown },
): Promise<Seen> {
  if (isEntryKind(kind)) {
    authorise(worker.rights, { kind: staffKindOfEntry[kind], action: 'look' })
    return everyPart
  }
  const thing = kind as VersionedThing
  const staff = staffKindOf(thing, (body ?? {}) as Thing)
  const owned = await ownersOfThing(tx, thing, key)
  await authoriseOwned(tx, worker, { kind: staff, action: 'look' }, owned)
  if (worker.rights.masterKey) return everyPart
  const seen = await seenOf(tx, worker, thing, staff, owned)
  if (!seen) throw new Problem('not-allowed')
  return seen
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
