/** Many people changed at once: previewed, applied in one transaction, undone as one. */
import { inTransaction } from '../../db/turn'
import { createHash } from 'node:crypto'
import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import { z } from 'zod'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { lockFor } from '../../db/locks'
import { idsOf, rowsOf } from '../../db/rows-of'
import { bulkChange, membership, person, roleGrant } from '../../db/schema'
import { Problem } from '../../problem'
import type { StaffRights } from '../../../core/staff/staff-rule'
import type { Worker } from '../live/worker'
import { lockedBook } from '../versions/versions'
import { authorise } from '../staff/authorise'
import { authoriseStaffRole, powerOf } from '../staff/staff-grants'
import type { Power } from '../staff/staff-grants'
import { knownLevel, knownRole } from '../standing/holdings'
import { refuseLastKeeper } from '../standing/keepers'
import { giveLevel } from './holdings'
import { peopleQuery, peopleWhere } from './people'
import type { FilterWorld } from './filter/people-filter'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

const bulkWho = z.union([
  z.strictObject({ ids: z.array(z.string()).min(1, 'Nobody is chosen.').max(10_000) }),
  z.strictObject({ query: peopleQuery.omit({ after: true }) }),
])
const bulkWhat = z.discriminatedUnion('do', [
  z.strictObject({
    do: z.literal('giveLevel'),
    level: z.string(),
    until: z.iso.datetime({ offset: true }).nullable().optional(),
  }),
  z.strictObject({ do: z.literal('takeLevel'), level: z.string() }),
  z.strictObject({ do: z.literal('giveRole'), role: z.string() }),
  z.strictObject({ do: z.literal('takeRole'), role: z.string() }),
  /** From one role to another, without a moment of neither: those who hold the first. */
  z.strictObject({ do: z.literal('moveRole'), role: z.string(), to: z.string() }),
])
export const bulkInput = z.strictObject({ who: bulkWho, what: bulkWhat })
export const bulkApply = bulkInput.extend({
  /** What the preview said: nothing is done when other people would be affected by now. */
  stamp: z.string(),
  /** For a staff role: its id and the number of people, named again. */
  confirm: z.strictObject({ role: z.string(), count: z.int() }).optional(),
})
export type BulkInput = z.infer<typeof bulkInput>
export type BulkWhat = z.infer<typeof bulkWhat>

export interface BulkPreview {
  chosen: number
  affected: number
  unchanged: number
  names: string[]
  stamp: string
  staff: boolean
}

/** Whom a change would move: those chosen who do not have, or do have, what is given or taken. */
async function affectedBy(
  tx: AnyDb,
  world: FilterWorld,
  { who, what }: BulkInput,
): Promise<{ chosen: number; rows: { id: string; name: string }[] }> {
  const rows = await tx
    .select({ id: person.id, name: person.name, has: hasIt(what, world.nowMs) })
    .from(person)
    .where(chosenBy(who, world))
    .orderBy(person.id)
  const gives = what.do === 'giveLevel' || what.do === 'giveRole'
  return { chosen: rows.length, rows: rows.filter(row => row.has !== gives) }
}

const chosenBy = (who: BulkInput['who'], world: FilterWorld) =>
  'ids' in who ? sql`person.id in ${idsOf(who.ids)}` : peopleWhere(who.query, world)

/** Bulk changes go one after the other, and may take longer than a request does. */
async function lockBulk(tx: Tx): Promise<void> {
  await tx.execute(sql`select set_config('statement_timeout', '120s', true), set_config('lock_timeout', '20s', true)`)
  await lockFor(tx, 'bulk')
}

/** Nobody chosen is changed otherwise meanwhile: only then is looked at who has what. */
async function lockChosen(tx: Tx, world: FilterWorld, who: BulkInput['who']): Promise<void> {
  await lockBulk(tx)
  const where = chosenBy(who, world)
  await tx.execute(
    sql`select count(*) from (select 1 from person ${where ? sql`where ${where}` : sql``} order by person.id for update) locked`,
  )
}

function hasIt(what: BulkWhat, nowMs: number) {
  const now = new Date(nowMs).toISOString()
  return 'role' in what
    ? sql<boolean>`exists (select 1 from role_grant g where g.person_id = person.id and g.role = ${what.role})`
    : sql<boolean>`exists (select 1 from membership m where m.person_id = person.id and m.level = ${what.level} and m.since <= ${now}::timestamptz and (m.until is null or m.until > ${now}::timestamptz))`
}

const stampOf = (what: BulkWhat, rows: readonly { id: string }[]) =>
  createHash('sha256')
    .update(JSON.stringify([what, rows.map(row => row.id)]))
    .digest('base64url')

function checkWhat(book: Rulebook, what: BulkWhat): boolean {
  if ('to' in what) {
    if (what.to === what.role) throw new Problem('bad-input', undefined, { at: '/what/to' })
    knownRole(book, what.role)
    return knownRole(book, what.to).staff === true
  }
  if ('role' in what) return knownRole(book, what.role).staff === true
  knownLevel(book, what.level, '/what/level')
  return false
}

export async function previewBulk(db: AnyDb, world: FilterWorld, input: BulkInput): Promise<BulkPreview> {
  const staff = checkWhat(world.rules.rulebook, input.what)
  const { chosen, rows } = await affectedBy(db, world, input)
  return {
    chosen,
    affected: rows.length,
    unchanged: chosen - rows.length,
    names: rows.slice(0, 12).map(row => row.name),
    stamp: stampOf(input.what, rows),
    staff,
  }
}

interface Undo {
  memberships?: number[]
  ended?: { id: number; until: string | null }[]
  granted?: string[]
  taken?: { personId: string; grantedBy: string }[]
}

/** Applies what was previewed, for exactly the people it named, or for nobody. */
export async function applyBulk(
  db: AnyDb,
  { rights, snapshot }: Worker,
  input: z.infer<typeof bulkApply>,
  actor: Actor,
): Promise<{ id: number; affected: number }> {
  return inTransaction(db, async tx => {
    const book = await lockedBook(tx)
    authoriseBulk(rights, { ...powerOf(snapshot), book }, input.what, 'do')
    const staff = checkWhat(book, input.what)
    await lockChosen(tx, { rules: snapshot.rules, nowMs: clockMs() }, input.who)
    // Who has what is asked as of now: whoever held the lock before may just have given it.
    const { rows } = await affectedBy(tx, { rules: snapshot.rules, nowMs: clockMs() }, input)
    if (stampOf(input.what, rows) !== input.stamp) throw new Problem('people-changed')
    if (!rows.length) throw new Problem('nobody-changed')
    const { what } = input
    const handedOut = what.do === 'giveRole' ? what.role : what.do === 'moveRole' ? what.to : null
    if (staff && handedOut && (input.confirm?.role !== handedOut || input.confirm.count !== rows.length))
      throw new Problem('confirm-staff-role', { people: rows.length }, { at: '/confirm' })
    const at = clockDate()
    const undo = await change(
      tx,
      book,
      what,
      rows.map(row => row.id),
      { actor, at },
    )
    const [made] = await tx
      .insert(bulkChange)
      .values({ at, byId: actor.id, by: actor.name, what, undo, people: rows.length })
      .returning({ id: bulkChange.id })
    await leaveTrace(tx, actor, 'people.bulk', `bulk ${made!.id}`, { what, people: rows.length })
    return { id: made!.id, affected: rows.length }
  })
}

/** Undoing a gift takes, and undoing a taking gives. */
function authoriseBulk(rights: StaffRights, power: Power, what: BulkWhat, way: 'do' | 'undo'): void {
  authorise(rights, { kind: 'people', action: 'change', fields: ['role' in what ? 'roles' : 'levels'] })
  if (!('role' in what)) return
  authoriseStaffRole(rights, power, what.role, (what.do === 'giveRole') === (way === 'do') ? 'add' : 'withdraw')
  if ('to' in what) authoriseStaffRole(rights, power, what.to, way === 'do' ? 'add' : 'withdraw')
}

async function change(
  tx: Tx,
  book: Rulebook,
  what: BulkWhat,
  ids: string[],
  { actor, at }: { actor: Actor; at: Date },
): Promise<Undo> {
  const them = idsOf(ids)
  if (what.do === 'giveLevel') return { memberships: await giveLevel(tx, book, ids, what, actor) }
  if (what.do === 'takeLevel') {
    const running = await tx.execute<{ id: string; until: string | null }>(
      sql`select id, until from membership where person_id in ${them} and level = ${what.level} and (until is null or until > ${at.toISOString()}::timestamptz)`,
    )
    const ended = running.map(({ id, until }) => ({ id: Number(id), until: until && new Date(until).toISOString() }))
    await tx
      .update(membership)
      .set({ until: endingAt(at), endedBy: actor.name })
      .where(
        sql`id in ${idsOf(
          ended.map(one => one.id),
          'bigint',
        )}`,
      )
    return { ended }
  }
  if (what.do === 'giveRole') return { granted: await grantRole(tx, ids, what.role, actor) }
  // Given before it is taken; who has both already keeps the one.
  const granted = what.do === 'moveRole' ? await grantRole(tx, ids, what.to, actor) : undefined
  if (book.settings?.masterKeys?.includes(what.role)) await refuseLastKeeper(tx, book, ids, what.role)
  const taken = await tx
    .delete(roleGrant)
    .where(and(sql`person_id in ${them}`, eq(roleGrant.role, what.role)))
    .returning({ personId: roleGrant.personId, grantedBy: roleGrant.grantedBy })
  return { taken, ...(granted ? { granted } : {}) }
}

/** Answers who has it by this: whoever had it before is left as they were. */
async function grantRole(tx: Tx, ids: string[], role: string, actor: Actor): Promise<string[]> {
  const given = await tx.execute<{ id: string }>(
    sql`insert into role_grant (person_id, role, granted_by) select id, ${role}, ${actor.name} from ${rowsOf(
      ids.map(id => ({ id })),
      'id text',
    )} on conflict do nothing returning person_id as id`,
  )
  return given.map(row => row.id)
}

/** A membership ends now; one that had not begun, when it would have. */
const endingAt = (at: Date) => sql`greatest(${at.toISOString()}::timestamptz, since)`

export const recentBulk = (db: AnyDb) =>
  db
    .select({
      id: bulkChange.id,
      at: bulkChange.at,
      by: bulkChange.by,
      what: sql<BulkWhat>`${bulkChange.what}`,
      people: bulkChange.people,
      undoneAt: bulkChange.undoneAt,
    })
    .from(bulkChange)
    .orderBy(desc(bulkChange.id))
    .limit(20)

/** Puts back what a change moved. What was changed again since, by hand, is left as it is now. */
export async function undoBulk(db: AnyDb, { rights, snapshot }: Worker, id: number, actor: Actor): Promise<void> {
  await inTransaction(db, async tx => {
    const book = await lockedBook(tx)
    await lockBulk(tx)
    const [row] = await tx
      .update(bulkChange)
      .set({ undoneAt: clockDate(), undoneBy: actor.name })
      .where(and(eq(bulkChange.id, id), isNull(bulkChange.undoneAt)))
      .returning()
    if (!row) throw new Problem('no-such-bulk-change')
    authoriseBulk(rights, { ...powerOf(snapshot), book }, row.what as BulkWhat, 'undo')
    await putBack(tx, book, row, actor)
    await leaveTrace(tx, actor, 'people.bulk-undo', `bulk ${id}`)
  })
}

async function putBack(tx: Tx, book: Rulebook, row: typeof bulkChange.$inferSelect, actor: Actor): Promise<void> {
  const what = row.what as BulkWhat
  const { memberships = [], ended = [], granted = [], taken = [] } = row.undo as Undo
  const now = clockDate()
  if (memberships.length)
    await tx
      .update(membership)
      .set({ until: endingAt(now), endedBy: `undo by ${actor.name}` })
      .where(
        sql`id in ${idsOf(memberships, 'bigint')} and (until is null or until > ${now.toISOString()}::timestamptz)`,
      )
  if (ended.length)
    await tx.execute(
      sql`update membership set until = given.until, ended_by = null from ${rowsOf(ended, 'id bigint, until timestamptz')} where membership.id = given.id and membership.until = ${endingAt(row.at)}`,
    )
  if (!('role' in what)) return
  const given = 'to' in what ? what.to : what.role
  if (granted.length && book.settings?.masterKeys?.includes(given)) await refuseLastKeeper(tx, book, granted, given)
  if (granted.length)
    await tx.delete(roleGrant).where(and(sql`person_id in ${idsOf(granted)}`, eq(roleGrant.role, given)))
  // Who has left since gets nothing back.
  if (taken.length)
    await tx.execute(
      sql`insert into role_grant (person_id, role, granted_by) select person.id, ${what.role}, given."grantedBy" from ${rowsOf(taken, '"personId" text, "grantedBy" text')} join person on person.id = given."personId" on conflict do nothing`,
    )
}
