/** People as the console finds, makes and changes them. */
import type { Fact } from '../../../core/rulebook/people-rules'
import { factValue } from '../../../core/visitor/fact-source'
import type { FactValue } from '../../../core/visitor/fact-source'
import { inTransaction } from '../../db/turn'
import { and, asc, eq, inArray, sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import { z } from 'zod'
import { condition as conditionShape } from '../../../core/conditions/condition'
import type { Condition } from '../../../core/conditions/condition'
import { clockDate } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { person, personNote } from '../../db/schema'
import { idsOf } from '../../db/rows-of'
import { Problem } from '../../problem'
import { hashPassword } from '../secrets/passwords'
import { admittedSql, idsSql } from './filter/people-filter'
import type { FilterWorld } from './filter/people-filter'
import { endSessions } from '../entrance/sessions'
import { emailAddress, password, personName } from '../entrance/sign-up-form'
import { credentialLinks, dropLinks } from '../secrets/one-time-links'
import { newId } from '../secrets/tokens'
import { lockedBook } from '../versions/versions'
import { lockedFirmOf } from '../standing/firm-members'
import { refuseLastKeeper } from '../standing/keepers'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

const standings = ['active', 'waiting', 'unconfirmed', 'suspended', 'declined'] as const

export type Standing = (typeof standings)[number]

export interface ListedPerson {
  id: string
  name: string
  email: string
  createdAt: string
  /** Left out for who may not look at it. */
  standing?: Standing
  firm: { id: string; name: string } | null
  memberships: { id: number; level: string; since: string; until: string | null }[]
  roles: string[]
}

const standing = sql<Standing>`case when person.declined_at is not null then 'declined' when person.suspended_at is not null then 'suspended' when person.confirmed_at is null then 'unconfirmed' when person.approved_at is null then 'waiting' else 'active' end`

const stages = ['signedUp', 'confirmed', 'approved', 'bought'] as const

const reached: Record<(typeof stages)[number], SQL | undefined> = {
  signedUp: undefined,
  confirmed: sql`person.confirmed_at is not null`,
  approved: sql`person.approved_at is not null`,
  bought: sql`exists (select 1 from membership m where m.person_id = person.id and m.source = 'bought')`,
}

export const peopleQuery = z.strictObject({
  search: z.string().max(200).optional(),
  standing: z.enum(standings).optional(),
  condition: conditionShape.optional(),
  /** How far on the way from sign-up to member, of those who signed up within so many days. */
  stage: z.strictObject({ reached: z.enum(stages), days: z.int().min(1).max(800) }).optional(),
  /** The last row of the page before: what is asked for comes after it. */
  after: z.strictObject({ name: z.string(), id: z.string() }).optional(),
})

export type PeopleQuery = z.infer<typeof peopleQuery>

const pageSize = 100

const searched = {
  both: sql`person.find_text`,
  name: sql`lower(person.name)`,
  address: sql`lower(person.email)`,
} as const

/** Which people are meant: found by words, standing and a condition that is true for them. */
export function peopleWhere(
  { search, standing: wanted, condition, stage }: Omit<PeopleQuery, 'after'>,
  world: FilterWorld,
): SQL | undefined {
  const like = search
    ? `%${search
        .trim()
        .toLowerCase()
        .replaceAll(/[\\%_]/g, char => `\\${char}`)}%`
    : ''
  return and(
    search?.trim() ? sql`${searched[world.search ?? 'both']} like ${like}` : undefined,
    wanted ? sql`${standing} = ${wanted}` : undefined,
    stage
      ? and(
          sql`person.created_at > ${new Date(world.nowMs - stage.days * 86_400_000).toISOString()}::timestamptz`,
          reached[stage.reached],
        )
      : undefined,
    condition ? admittedSql(condition as Condition, world) : undefined,
  )
}

const listed = {
  id: person.id,
  name: person.name,
  email: person.email,
  createdAt: person.createdAt,
  standing,
  firm: sql<
    ListedPerson['firm']
  >`(select json_build_object('id', f.id, 'name', f.name) from firm_member fm join firm f on f.id = fm.firm_id where fm.person_id = person.id)`,
  memberships: sql<
    ListedPerson['memberships']
  >`coalesce((select json_agg(json_build_object('id', m.id, 'level', m.level, 'since', to_json(m.since), 'until', to_json(m.until)) order by m.since) from membership m where m.person_id = person.id), '[]'::json)`,
  roles: sql<
    string[]
  >`coalesce((select json_agg(g.role order by g.role) from role_grant g where g.person_id = person.id), '[]'::json)`,
}

/** One page of people by name, and how many there are in all. */
export async function listPeople(
  db: AnyDb,
  query: PeopleQuery,
  world: FilterWorld,
): Promise<{ people: ListedPerson[]; count: number; more: boolean }> {
  const where = peopleWhere(query, world)
  const { after } = query
  return inTransaction(
    db,
    async tx => {
      // Room to hash a role's holders once instead of looking each person up; compiling such a query takes longer than running it.
      await tx.execute(
        sql`select set_config('work_mem', '32MB', true), set_config('jit', 'off', true), set_config('plan_cache_mode', 'force_custom_plan', true), set_config('max_parallel_workers_per_gather', '0', true), set_config('enable_nestloop', ${query.condition ? 'off' : 'on'}, true)`,
      )
      if (!query.condition) {
        const [total] = await tx
          .select({ count: sql<number>`count(*)::int` })
          .from(person)
          .where(where)
        const rows = await tx
          .select(listed)
          .from(person)
          .where(
            and(where, after ? sql`(lower(person.name), person.id) > (lower(${after.name}), ${after.id})` : undefined),
          )
          .orderBy(asc(sql`lower(${person.name})`), asc(person.id))
          .limit(pageSize + 1)
        return pageOf(rows, total!.count)
      }
      const ids = query.search || query.standing || query.stage ? null : idsSql(query.condition as Condition, world)
      if (ids) return pageAmong(tx, ids, after)
      // A condition is tried once, on everybody; the page is then read by id. The planner takes any union for 200
      // people and would look each of thousands up by itself, so for this one query it may not.
      const found = await tx.execute<{ id: string; count: number }>(sql`
      with matched as materialized (select person.id, lower(person.name) as by_name from person ${where ? sql`where ${where}` : sql``})
      select id, (select count(*)::int from matched) count from matched person ${after ? sql`where (by_name, id) > (lower(${after.name}), ${after.id})` : sql``} order by by_name, id limit ${pageSize + 1}`)
      await tx.execute(sql`set local enable_nestloop = on`)
      const total = found[0] ?? { count: 0 }
      const rows = found.length
        ? await tx
            .select(listed)
            .from(person)
            .where(
              inArray(
                person.id,
                found.map(row => row.id),
              ),
            )
            .orderBy(asc(sql`lower(${person.name})`), asc(person.id))
        : []
      return pageOf(rows, total.count)
    },
    { accessMode: 'read only' },
  )
}

/** The most conditions counted in one question. */
const mostCounted = 60
export const countsQuery = z.array(conditionShape).max(mostCounted)

/** How many people each is true for; null for one that cannot be asked of a list of people. */
export const countEach = (
  db: AnyDb,
  conditions: readonly Condition[],
  world: FilterWorld,
): Promise<(number | null)[]> =>
  inTransaction(
    db,
    async tx => {
      await tx.execute(
        sql`select set_config('work_mem', '32MB', true), set_config('jit', 'off', true), set_config('max_parallel_workers_per_gather', '0', true), set_config('enable_nestloop', 'off', true)`,
      )
      const counts: (number | null)[] = []
      for (const one of conditions) {
        const among = askedOf(one, world)
        const [found] = among ? await tx.execute<{ count: number }>(among) : []
        counts.push(found?.count ?? null)
      }
      return counts
    },
    { accessMode: 'read only' },
  )

function askedOf(asked: Condition, world: FilterWorld): SQL | null {
  try {
    const ids = idsSql(asked, world)
    if (ids) return sql`select count(*)::int count from (select distinct id from (${ids}) given (id)) one`
    return sql`select count(*)::int count from person where ${admittedSql(asked, world)}`
  } catch (error) {
    if (error instanceof Problem && error.reason === 'not-asked-of-people') return null
    throw error
  }
}

const pageOf = (rows: (Omit<ListedPerson, 'createdAt'> & { createdAt: Date })[], count: number) => ({
  people: rows.slice(0, pageSize).map(row => ({ ...row, createdAt: row.createdAt.toISOString() })),
  count,
  more: rows.length > pageSize,
})

/** More people than this are met soon enough in the order of their names; fewer are quicker fetched and sorted. */
const manyPeople = 3000

/** A page of the people with these ids: counted as a set, so that nobody is looked at but who is shown. */
async function pageAmong(
  tx: Tx,
  ids: SQL,
  after: PeopleQuery['after'],
): Promise<{ people: ListedPerson[]; count: number; more: boolean }> {
  await tx.execute(sql`select set_config('enable_nestloop', 'on', true)`)
  const [found] = await tx.execute<{ count: number; few: string[] | null }>(
    sql`select count(*)::int count, case when count(*) <= ${manyPeople} then json_agg(id) end few from (select distinct id from (${ids}) given (id)) one`,
  )
  const { count, few } = found!
  const chosen = few || !count ? sql`person.id in ${idsOf(few ?? [])}` : sql`(person.id in (${ids})) is true`
  const rows = await tx
    .select(listed)
    .from(person)
    .where(and(chosen, after ? sql`(lower(person.name), person.id) > (lower(${after.name}), ${after.id})` : undefined))
    .orderBy(asc(sql`lower(${person.name})`), asc(person.id))
    .limit(pageSize + 1)
  return pageOf(rows, count)
}

export async function listedPerson(db: AnyDb, id: string): Promise<ListedPerson> {
  const [row] = await db.select(listed).from(person).where(eq(person.id, id))
  if (!row) throw new Problem('no-such-person')
  return { ...row, createdAt: row.createdAt.toISOString() }
}

export const personInput = z.strictObject({ name: personName, email: emailAddress, password })

export async function addPerson(db: AnyDb, input: z.infer<typeof personInput>, actor: Actor): Promise<string> {
  const passwordHash = await hashPassword(input.password)
  return inTransaction(db, async tx => {
    await refuseTaken(tx, input.email)
    const id = newId('p')
    await tx.insert(person).values({
      id,
      name: input.name,
      email: input.email,
      passwordHash,
      createdAt: clockDate(),
      confirmedAt: clockDate(),
      approvedAt: clockDate(),
    })
    await leaveTrace(tx, actor, 'person.add', `person ${id}`)
    return id
  })
}

export async function refuseTaken(tx: AnyDb, email: string, but?: string): Promise<void> {
  const taken = await tx
    .select({ id: person.id })
    .from(person)
    .where(eq(sql`lower(${person.email})`, email.toLowerCase()))
  if (taken.some(one => one.id !== but)) throw new Problem('address-in-use', {}, { at: '/email' })
}

export const personChange = z.strictObject({
  name: personName.optional(),
  email: emailAddress.optional(),
  /** By fact; null takes one away, and those not named stay as they are. */
  facts: z.record(z.string().max(200), z.union([z.string().max(5000), z.number(), z.boolean(), z.null()])).optional(),
  suspended: z.boolean().optional(),
  cardAnswer: z.enum(['approve', 'decline']).optional(),
})

export type PersonChange = z.infer<typeof personChange>

/** The fields, by the words of staff rules, that a change touches. */
export const fieldsOf = (change: PersonChange): string[] =>
  Object.entries({ name: 'name', email: 'address', facts: 'facts', suspended: 'standing', cardAnswer: 'standing' })
    .filter(([key]) => change[key as keyof PersonChange] !== undefined)
    .map(([, field]) => field)

/** Asked once the person's row is locked: throws where this may not be done to them. */
export type Permit = (tx: Tx) => void | Promise<void>

export async function changePerson(
  db: AnyDb,
  personId: string,
  change: PersonChange,
  actor: Actor,
  permit?: Permit,
): Promise<void> {
  if (Object.values(change).every(value => value === undefined)) throw new Problem('nothing-to-change')
  await inTransaction(db, async tx => {
    const book = await lockedBook(tx)
    const before = await lockedPerson(tx, personId)
    await permit?.(tx)
    const moves = change.email !== undefined && change.email !== before.email
    if (change.email) await refuseTaken(tx, change.email, personId)
    if (change.suspended) await refuseLastKeeper(tx, book, [personId])
    await tx
      .update(person)
      .set({
        ...(change.name === undefined ? {} : { name: change.name }),
        ...(change.email === undefined ? {} : { email: change.email }),
        // Staff say it is theirs: no link mailed to it was followed.
        ...(moves ? { provenAt: null } : {}),
        ...(change.facts === undefined ? {} : { facts: mergedFacts(before.facts, change.facts, book.facts ?? []) }),
        ...(change.suspended === undefined ? {} : { suspendedAt: change.suspended ? clockDate() : null }),
        ...(change.cardAnswer === undefined ? {} : { cardAnswer: change.cardAnswer }),
      })
      .where(eq(person.id, personId))
    // Who signs in with another address signs in anew, and no link mailed to the old one is good any more.
    if (change.suspended || moves) await endSessions(tx, personId, { allBut: null })
    if (moves) await dropLinks(tx, personId, credentialLinks)
    await leaveTrace(tx, actor, 'person.change', `person ${personId}`, {
      fields: Object.keys(change),
      ...(change.suspended === undefined ? {} : { suspended: change.suspended }),
    })
  })
}

/** What is given is read as the fact's type has it. Throws `fact-does-not-fit`. */
function mergedFacts(
  before: Record<string, FactValue>,
  given: NonNullable<PersonChange['facts']>,
  facts: readonly Fact[],
): Record<string, FactValue> {
  const read = Object.entries(given).map(([id, value]) => {
    const fact = facts.find(one => one.id === id)
    if (value === null || !fact) return [id, value] as const
    const fits = factValue(fact, value)
    if (fits === undefined)
      throw new Problem('fact-does-not-fit', { name: fact.name ?? id, type: fact.type }, { at: `/facts/${id}` })
    return [id, fits] as const
  })
  const all = Object.entries({ ...before, ...Object.fromEntries(read) })
  return Object.fromEntries(all.filter((pair): pair is [string, FactValue] => pair[1] !== null))
}

export async function removePerson(db: AnyDb, personId: string, actor: Actor, permit?: Permit): Promise<void> {
  await inTransaction(db, async tx => {
    const book = await lockedBook(tx)
    await lockedFirmOf(tx, personId)
    await lockedPerson(tx, personId)
    await permit?.(tx)
    await refuseLastKeeper(tx, book, [personId])
    await refuseLoneOwner(tx, personId)
    await tx.delete(person).where(eq(person.id, personId))
    // What somebody did stays countable; who it was does not.
    await tx.execute(sql`update activity set person_id = null where person_id = ${personId}`)
    await leaveTrace(tx, actor, 'person.remove', `person ${personId}`)
  })
}

async function refuseLoneOwner(tx: AnyDb, personId: string): Promise<void> {
  const [row] = await tx.execute<{ name: string }>(sql`
    select f.name from firm_member mine join firm f on f.id = mine.firm_id where mine.person_id = ${personId} and mine.owner
    and exists (select 1 from firm_member fm where fm.firm_id = f.id and fm.person_id <> ${personId}) and not exists (select 1 from firm_member fm where fm.firm_id = f.id and fm.owner and fm.person_id <> ${personId})`)
  if (row) throw new Problem('firm-left-without-owner', { firm: row.name })
}

export async function lockedPerson(tx: Tx, personId: string): Promise<typeof person.$inferSelect> {
  const [row] = await tx.select().from(person).where(eq(person.id, personId)).for('update')
  if (!row) throw new Problem('no-such-person')
  return row
}

export const notesOf = (db: AnyDb, personId: string) =>
  db.select().from(personNote).where(eq(personNote.personId, personId)).orderBy(asc(personNote.at))

export async function addNote(db: AnyDb, personId: string, text: string, actor: Actor): Promise<void> {
  await inTransaction(db, async tx => {
    await lockedPerson(tx, personId)
    await tx.insert(personNote).values({ personId, text, by: actor.name, at: clockDate() })
    await leaveTrace(tx, actor, 'person.note', `person ${personId}`)
  })
}
