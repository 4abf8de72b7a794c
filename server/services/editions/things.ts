/** Things in the draft: made, changed, moved, copied with their gates, removed. */
import { and, eq } from 'drizzle-orm'
import { deepest, depthOf, heightOf, liesIn, namersOf } from '../../../core/check/site-check'
import { localTime } from '../../../core/calendar'
import { keptOfText } from '../../../core/pages/text-of'
import { readTextIn } from '../../reading/read-ahead'
import { lexiconOf } from '../../../core/sentences/lexicon'
import { clockMs } from '../../clock'
import { moduleOf } from '../../../core/kinds/kinds'
import { parseWith } from '../../parse-with'
import { z } from 'zod'
import { readSettings } from '../settings/settings'
import type { AnyDb, Tx } from '../../db/database'
import { thing as thingTable } from '../../db/schema'
import { id as idShape } from '../../kinds/server-kind'
import { serverKinds, split, staffKindOf } from '../../kinds/kinds'
import type { VersionedThing } from '../../kinds/kinds'
import { Problem } from '../../problem'
import { keptFiles } from '../files/files'
import { keptPictures } from '../files/pictures'
import { authorise } from '../staff/authorise'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { changeDraft, checkExpected, contentIn, positionBefore } from './draft'
import type { Changed, Expects, Put, Turn, Work } from './draft'
import { authoriseAddition, authoriseChange, authoriseOwned, ownersOfThing } from './thing-rights'
import type { StoredContents, StoredVersion } from '../versions/versions'
import type { Worker } from '../live/worker'

/** Nobody, whatever their rights, writes what the site is without. */
export async function refuseSwitchedOff(tx: AnyDb, kind: VersionedThing, whole: ThingInput): Promise<void> {
  const sort = serverKinds[kind].sort?.(whole)
  if (sort === undefined) return
  const { off } = (await readSettings(tx)).parts
  if ((off as readonly string[]).includes(sort)) throw new Problem('sort-switched-off', { sort })
}

export type ThingInput = Record<string, unknown>

/** What it names must be kept here, and stays from then on: told at the part that names it. */
export async function refuseUnkept(tx: Tx, kind: VersionedThing, whole: ThingInput, before?: ThingInput) {
  for (const [of, kept, reason] of [
    ['pictures', keptPictures, 'unknown-picture'],
    ['files', keptFiles, 'unknown-file'],
  ] as const) {
    const named = (thing?: ThingInput) => (thing && serverKinds[kind][of]?.(thing)) ?? []
    const known = new Set(named(before).map(one => one.name))
    const fresh = named(whole).filter(one => !known.has(one.name))
    const found = await kept(
      tx,
      fresh.map(one => one.name),
    )
    const missing = fresh.find(one => !found.has(one.name))
    if (missing) throw new Problem(reason, {}, { at: `/${missing.at.join('/')}` })
  }
}

export interface Named {
  kind: VersionedThing
  key: string
}

const titleOf = ({ key, body }: StoredVersion) => (body as { title?: string }).title ?? key

/** Everything staff give of a thing: what rules see and the rest, without its id. */
export async function wholeThing(turn: Pick<Turn, 'tx' | 'put'>, stored: StoredVersion): Promise<ThingInput> {
  const { id: _, ...body } = stored.body as { id: string }
  return { ...body, ...(await contentIn(turn, stored)) }
}

/** The input as the kind takes it; throws `bad-input` with the place. */
export async function parsed(kind: VersionedThing, input: unknown, draft: StoredContents): Promise<ThingInput> {
  const { passages: _passages, broken: _broken, ...given } = input as ThingInput
  const fits = parseWith(serverKinds[kind].input, given) as ThingInput
  const problem = serverKinds[kind].problem?.(fits)
  if (problem)
    throw new Problem(
      'thing-does-not-fit',
      { why: problem.message },
      { at: `/${problem.at.map(part => String(part)).join('/')}` },
    )
  const { book, index } = draft
  const reading = await readTextIn(fits)
  const today = localTime(clockMs(), index.site.timezone).date
  return { ...fits, ...keptOfText(fits, lexiconOf(book, index), today, reading) }
}

export function putOf(kind: VersionedThing, key: string, whole: ThingInput, position?: number): Put {
  const { body, content } = split(kind, whole)
  return { kind, key, body: { id: key, ...body }, content, ...(position === undefined ? {} : { position }) }
}

/** Whether it lies in that already: then nothing gets deeper. */
const liesThere = (now: StoredVersion | undefined, kind: string, id: string) =>
  now !== undefined &&
  (moduleOf(now.kind).names?.(now.body as never) ?? []).some(one => one.within && one.kind === kind && one.id === id)

/** Nothing stands yet in what is new. */
const heightIn = (draft: StoredContents, kind: VersionedThing, key: string) =>
  draft.get(kind, key) ? heightOf(draft, `${kind} ${key}`) : 1

/** Names that lead nowhere and addresses that are taken, told at the field that says so. */
export function refuseBadNames(draft: StoredContents, kind: VersionedThing, key: string, whole: ThingInput): void {
  const { body } = split(kind, whole)
  const thing = { id: key, ...body }
  for (const { at, kind: other, id, within } of moduleOf(kind).names?.(thing as never) ?? []) {
    const there = draft.get(other as VersionedThing, id)
    const pointer = `/${at.join('/')}`
    if (within && liesIn(draft, other, id, { kind, key }))
      throw new Problem('lies-in-itself', { kind }, { at: pointer })
    if (!there) throw new Problem('unknown-thing', { kind: other, id }, { at: pointer })
    const height = within && !liesThere(draft.get(kind, key), other, id) ? heightIn(draft, kind, key) : 0
    if (height && depthOf(draft, other, id) + height > deepest)
      throw new Problem('too-deep', { most: deepest }, { at: pointer })
    if (within && serverKinds[other as VersionedThing].holds?.(there.body as ThingInput) === false)
      throw new Problem('holds-nothing', {}, { at: pointer })
  }
  const path = moduleOf(kind).path?.(thing as never)
  const holder = path === undefined ? undefined : draft.index.at(path)
  if (path !== undefined && holder && (holder.kind !== kind || holder.id !== key)) {
    const title = titleOf(draft.get(holder.kind, holder.id)!)
    throw new Problem('address-taken', { title, path }, { at: '/path', holder: holder.id })
  }
}

const addition = z.looseObject({ id: idShape, position: z.number().optional(), assignedTo: z.unknown().optional() })

const assignee = z.string().max(100).nullable().optional()

/** Makes a thing in the draft: it is on no site and in no list before it is published. */
export const addThing = (
  db: AnyDb,
  worker: Worker,
  kind: VersionedThing,
  input: unknown,
  actor: Actor,
): Promise<Changed> => changeDraft(db, actor, turn => addWork(turn, worker, kind, input))

export async function addWork(turn: Turn, worker: Worker, kind: VersionedThing, input: unknown): Promise<Work> {
  const { id: key, position, assignedTo, ...rest } = parseWith(addition, input)
  const whole = await parsed(kind, rest, turn.draft)
  authoriseAddition(worker, kind, whole)
  await refuseSwitchedOff(turn.tx, kind, whole)
  await refuseUnkept(turn.tx, kind, whole)
  if (assignedTo !== undefined && assignedTo !== null)
    authorise(worker.rights, { kind: staffKindOf(kind, whole), action: 'add', fields: ['assignment'] })
  if (turn.draft.get(kind, key) || turn.live.get(kind, key))
    throw new Problem('thing-id-taken', { kind, id: key }, { at: '/id' })
  refuseBadNames(turn.draft, kind, key, whole)
  await turn.tx
    .insert(thingTable)
    .values({ kind, key, madeBy: turn.actor.id, assignedTo: parseWith(assignee, assignedTo) ?? null })
    .onConflictDoUpdate({
      target: [thingTable.kind, thingTable.key],
      set: { madeBy: turn.actor.id, assignedTo: parseWith(assignee, assignedTo) ?? null },
    })
  return {
    puts: [putOf(kind, key, whole, position)],
    action: `${kind}.add`,
    subject: `${kind} ${key}`,
    detail: input as object as Record<string, unknown>,
  }
}

const change = z.looseObject({
  id: z.never().optional(),
  position: z.number().optional(),
  assignedTo: assignee,
})

/**
 * Changes what is given and leaves the rest; null takes a part away. Whom it is
 * assigned to holds at once, everything else from the next edition.
 */
export const changeThing = (
  db: AnyDb,
  worker: Worker,
  place: Named & { expects?: Expects | undefined },
  input: unknown,
  actor: Actor,
): Promise<Changed> => changeDraft(db, actor, turn => changeWork(turn, worker, place, input))

export async function changeWork(
  turn: Turn,
  worker: Worker,
  { kind, key, expects }: Named & { expects?: Expects | undefined },
  input: unknown,
): Promise<Work> {
  const { position, assignedTo, ...given } = parseWith(change, input)
  const current = thingIn(turn, { kind, key })
  const before = await wholeThing(turn, current)
  const wanted = Object.fromEntries(Object.entries({ ...before, ...given }).filter(([, value]) => value !== null))
  const told = position === undefined ? {} : { position }
  if (!Object.keys(given).length && position === undefined && assignedTo === undefined)
    throw new Problem('nothing-to-change')
  // What is asked for is looked at before what is wrong with it: of what may not be changed nobody is told more.
  await authoriseChange(turn.tx, worker, kind, {
    key,
    before: { ...before, position: current.position },
    after: { position: current.position, ...wanted, ...told },
  })
  if (assignedTo !== undefined) await assign(turn, worker, current, assignedTo)
  if (Object.keys(given).length) await refuseSwitchedOff(turn.tx, kind, before)
  const whole = await parsed(kind, wanted, turn.draft)
  if (expects !== undefined) checkExpected(turn, { kind, key }, expects)
  refuseBadNames(turn.draft, kind, key, whole)
  refuseFilled(turn.draft, kind, key, whole)
  await refuseUnkept(turn.tx, kind, whole, before)
  return {
    puts: [putOf(kind, key, whole, position)],
    action: `${kind}.change`,
    subject: `${kind} ${key}`,
    detail: given,
  }
}

export function thingIn({ draft }: Turn, { kind, key }: Named): StoredVersion {
  const found = draft.get(kind, key)
  if (!found) throw new Problem('not-found')
  return found
}

async function assign(turn: Turn, worker: Worker, current: StoredVersion, assignedTo: string | null): Promise<void> {
  const kind = current.kind as VersionedThing
  const owned = await ownersOfThing(turn.tx, kind, current.key)
  if (owned.assignedTo === assignedTo) return
  const staff = staffKindOf(kind, current.body as ThingInput)
  await authoriseOwned(turn.tx, worker, { kind: staff, action: 'change', fields: ['assignment'] }, owned)
  await turn.tx
    .update(thingTable)
    .set({ assignedTo })
    .where(and(eq(thingTable.kind, kind), eq(thingTable.key, current.key)))
  await leaveTrace(turn.tx, turn.actor, `${kind}.assign`, `${kind} ${current.key}`, { assignedTo })
}

/** What holds others cannot become what holds none while they stand in it. */
function refuseFilled(draft: StoredContents, kind: VersionedThing, key: string, whole: ThingInput): void {
  if (serverKinds[kind].holds?.(whole) !== false) return
  const name = `${kind} ${key}`
  if (namersOf(draft, new Set([name])).some(one => one.kind === kind && standsIn(one as StoredVersion, name)))
    throw new Problem('blocks-in-it', {}, { at: '/kind' })
}

/** Puts a thing before another of those beside it, or last of them. */
export const moveThing = (
  db: AnyDb,
  worker: Worker,
  place: Named & { before: string | null },
  actor: Actor,
): Promise<Changed> => changeDraft(db, actor, turn => moveWork(turn, worker, place))

export async function moveWork(
  turn: Turn,
  worker: Worker,
  { kind, key, before }: Named & { before: string | null },
): Promise<Work> {
  const moved = thingIn(turn, { kind, key })
  const owned = await ownersOfThing(turn.tx, kind, key)
  const staff = staffKindOf(kind, moved.body as ThingInput)
  await authoriseOwned(turn.tx, worker, { kind: staff, action: 'change', fields: ['place'] }, owned)
  const beside = turn.draft.of(kind).filter(one => one.key !== key && placeOf(one) === placeOf(moved))
  const position = positionBefore(beside, before)
  if (position === null) throw new Problem('not-beside', { before }, { at: '/before' })
  return {
    puts: [{ kind, key, body: moved.body as object, position }],
    action: `${kind}.move`,
    subject: `${kind} ${key}`,
    detail: { before },
  }
}

/** What something lies or stands in, for telling what is beside it. */
export const placeOf = ({ kind, body }: Pick<StoredVersion, 'kind' | 'body'>): string => {
  const names = moduleOf(kind).names?.(body as never) ?? []
  const within = names.filter(one => one.within ?? one.kind !== kind).map(one => `${one.kind} ${one.id}`)
  return JSON.stringify([within, (body as { in?: unknown }).in ?? null])
}

/** A thing with everything that stands in it and goes along with it, outermost first. */
export function withInside(draft: StoredContents, { kind, key }: Named): StoredVersion[] {
  const found = new Map<string, StoredVersion>()
  const take = (one: StoredVersion) => {
    const name = `${one.kind} ${one.key}`
    if (found.has(name)) return
    found.set(name, one)
    const along = serverKinds[one.kind as VersionedThing].takesAlong ?? []
    for (const inner of namersOf(draft, new Set([name])))
      if (along.includes(inner.kind) && standsIn(inner, name)) take(inner)
  }
  const root = draft.get(kind, key)
  if (root) take(root)
  return [...found.values()]
}

const standsIn = ({ kind, body }: StoredVersion, name: string) =>
  (moduleOf(kind).names?.(body as never) ?? []).some(
    one => `${one.kind} ${one.id}` === name && (one.within || one.at[0] === one.kind),
  )

/** Takes a thing out in the draft, with what stands in it. */
export const removeThing = (
  db: AnyDb,
  worker: Worker,
  place: Named & { expects?: Expects | undefined },
  actor: Actor,
): Promise<Changed> => changeDraft(db, actor, turn => removeWork(turn, worker, place))

export async function removeWork(
  turn: Turn,
  worker: Worker,
  { kind, key, expects }: Named & { expects?: Expects | undefined },
): Promise<Work> {
  thingIn(turn, { kind, key })
  const going = withInside(turn.draft, { kind, key })
  for (const one of going) {
    const owned = await ownersOfThing(turn.tx, one.kind as VersionedThing, one.key)
    const staff = staffKindOf(one.kind as VersionedThing, one.body as ThingInput)
    await authoriseOwned(turn.tx, worker, { kind: staff, action: 'withdraw' }, owned)
  }
  if (expects !== undefined) checkExpected(turn, { kind, key }, expects)
  refuseBelow(turn.draft, { kind, key })
  return {
    puts: going.map(one => ({ kind: one.kind, key: one.key, body: null })),
    action: `${kind}.remove`,
    subject: `${kind} ${key}`,
    removes: true,
  }
}

/** What lies under a thing of its own kind does not go along with it silently. */
function refuseBelow(draft: StoredContents, { kind, key }: Named): void {
  if (serverKinds[kind].takesAlong?.includes(kind)) return
  const below = namersOf(draft, new Set([`${kind} ${key}`])).filter(one => one.kind === kind) as StoredVersion[]
  if (!below.length) return
  const many = below.length === 1 ? `${kind} lies` : `${kind}s lie`
  throw new Problem('things-under-it', { many, below: below.map(titleOf) })
}
