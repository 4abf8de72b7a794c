/** Firms: people who buy together. What a firm holds, all its people hold. */
import { inTransaction } from '../../db/turn'
import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm'
import { z } from 'zod'
import { idPattern } from '../../../core/shapes'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { factValue } from '../../../core/visitor/fact-source'
import { ofFirms } from '../../../core/visitor/fact-type'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { firm, firmLevel, firmMember, firmRole, person } from '../../db/schema'
import { Problem } from '../../problem'
import { mailWritten, siteAddress, writeMail } from '../mail/mail'
import { makeLink, useLink } from '../secrets/one-time-links'
import type { StaffRights } from '../../../core/staff/staff-rule'
import { brokenInvitation } from '../entrance/sign-up'
import { authorise } from '../staff/authorise'
import { authoriseOverPerson, powerOf } from '../staff/staff-grants'
import type { Worker } from '../live/worker'
import { joinFirmAs, leaveFirmAs, lockedFirm, lockedFirmOf } from '../standing/firm-members'
import { authoriseSeeing } from '../staff/people-seen'
import { knownLevel, knownRole } from '../standing/holdings'
import { settingsMoved } from '../versions/notify'
import { bookAt, lockedBook, lockRules } from '../versions/versions'
import { entriesOf } from '../../../core/rulebook/rulebook'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

export interface FirmView {
  id: string
  name: string
  people: { id: string; name: string; email: string; owner: boolean }[]
  levels: { id: number; level: string; since: string; until: string | null }[]
  roles: string[]
  /** What is said of it, by the fact's id. */ facts: Record<string, string>
}

export async function listFirms(db: AnyDb, only?: string): Promise<FirmView[]> {
  return db
    .select({
      id: firm.id,
      name: firm.name,
      facts: firm.facts,
      people: sql<
        FirmView['people']
      >`coalesce((select json_agg(json_build_object('id', p.id, 'name', p.name, 'email', p.email, 'owner', fm.owner) order by fm.owner desc, p.name) from firm_member fm join person p on p.id = fm.person_id where fm.firm_id = firm.id), '[]'::json)`,
      levels: sql<
        FirmView['levels']
      >`coalesce((select json_agg(json_build_object('id', fl.id, 'level', fl.level, 'since', to_json(fl.since), 'until', to_json(fl.until)) order by fl.since) from firm_level fl where fl.firm_id = firm.id), '[]'::json)`,
      roles: sql<
        string[]
      >`coalesce((select json_agg(fr.role order by fr.role) from firm_role fr where fr.firm_id = firm.id), '[]'::json)`,
    })
    .from(firm)
    .where(only === undefined ? undefined : eq(firm.id, only))
    .orderBy(asc(firm.name))
}

export const firmInput = z.strictObject({
  id: z.string().regex(idPattern, 'Small letters, digits and dashes.').max(80),
  name: z.string().trim().min(1, 'A name is needed.').max(200),
})

export async function addFirm(db: AnyDb, input: z.infer<typeof firmInput>, actor: Actor): Promise<void> {
  await inTransaction(db, async tx => {
    await lockRules(tx)
    const made = await tx
      .insert(firm)
      .values({ ...input, createdAt: clockDate() })
      .onConflictDoNothing()
      .returning({ id: firm.id })
    if (!made.length) throw new Problem('firm-id-taken', { id: input.id }, { at: '/id' })
    await settingsMoved(tx)
    await leaveTrace(tx, actor, 'firm.add', `firm ${input.id}`)
  })
}

/** A firm stays while a rule, live or in the draft, names it. */
export async function removeFirm(db: AnyDb, { rights, snapshot }: Worker, id: string, actor: Actor): Promise<void> {
  await inTransaction(db, async tx => {
    const { live } = await lockRules(tx)
    await lockedFirm(tx, id)
    // Its people lose what it holds.
    await authoriseHoldings(tx, rights, id)
    for (const { personId } of await tx
      .select({ personId: firmMember.personId })
      .from(firmMember)
      .where(eq(firmMember.firmId, id)))
      await authoriseOverPerson(tx, rights, powerOf(snapshot), personId)
    const naming = new Set<string>()
    for (const edition of [live, live + 1]) {
      for (const entry of entriesOf(await bookAt(tx, edition)))
        if (namesFirm(entry.body, id))
          naming.add(`${entry.kind} “${(entry.body as { name?: string }).name ?? entry.key}”`)
    }
    if (naming.size) throw new Problem('still-used', { by: [...naming] })
    await tx.delete(firm).where(eq(firm.id, id))
    await settingsMoved(tx)
    await leaveTrace(tx, actor, 'firm.remove', `firm ${id}`)
  })
}

function namesFirm(value: unknown, id: string): boolean {
  if (typeof value !== 'object' || value === null) return false
  const firmList = (value as { firm?: { in?: unknown } }).firm?.in
  if (Array.isArray(firmList) && firmList.includes(id)) return true
  return Object.values(value).some(inner => namesFirm(inner, id))
}

/** Characters, as they are typed. */
const mostOfFact = 60

export const firmChange = z.union([
  z.strictObject({ name: firmInput.shape.name }),
  z.strictObject({ giveLevel: z.string(), until: z.iso.datetime({ offset: true }).nullable().optional() }),
  z.strictObject({ endLevel: z.int() }),
  z.strictObject({ giveRole: z.string() }),
  z.strictObject({ takeRole: z.string() }),
  z.strictObject({ addPerson: z.string(), owner: z.boolean().optional() }),
  z.strictObject({ removePerson: z.string() }),
  z.strictObject({ makeOwner: z.string() }),
  /** Null takes back what is said. */
  z.strictObject({ fact: z.string(), value: z.string().max(mostOfFact).nullable() }),
])
export type FirmChange = z.infer<typeof firmChange>

export async function changeFirm(
  db: AnyDb,
  worker: Worker,
  id: string,
  change: FirmChange,
  actor: Actor,
): Promise<void> {
  await inTransaction(db, async tx => {
    const book = 'name' in change ? (await lockRules(tx), undefined) : await lockedBook(tx)
    await lockedFirm(tx, id)
    await permit(tx, worker, id, change)
    if (book) await apply(tx, book, id, change, actor)
    else if ('name' in change) {
      await tx.update(firm).set({ name: change.name }).where(eq(firm.id, id))
      await settingsMoved(tx)
    }
    // What is said is no more noted than what is said of a person.
    const noted = 'fact' in change ? { facts: [change.fact] } : change
    await leaveTrace(tx, actor, 'firm.change', `firm ${id}`, noted)
  })
}

/** What a firm holds, its people hold: whoever changes that, or who its people are, changes what people hold. */
async function permit(tx: AnyDb, { rights, snapshot }: Worker, id: string, change: FirmChange): Promise<void> {
  if ('giveLevel' in change || 'endLevel' in change)
    authorise(rights, { kind: 'people', action: 'change', fields: ['levels'] })
  if ('giveRole' in change || 'takeRole' in change)
    authorise(rights, { kind: 'people', action: 'change', fields: ['roles'] })
  if ('fact' in change) authorise(rights, { kind: 'people', action: 'change', fields: ['facts'] })
  const personId =
    'addPerson' in change
      ? change.addPerson
      : 'removePerson' in change
        ? change.removePerson
        : 'makeOwner' in change
          ? change.makeOwner
          : undefined
  if (personId === undefined) return
  authoriseSeeing(rights, 'name')
  await authoriseHoldings(tx, rights, id)
  await authoriseOverPerson(tx, rights, powerOf(snapshot), personId)
}

/** For giving and taking what the firm holds now. */
async function authoriseHoldings(tx: AnyDb, rights: StaffRights, id: string): Promise<void> {
  const [levels, roles] = [
    await tx.select().from(firmLevel).where(eq(firmLevel.firmId, id)).limit(1),
    await tx.select().from(firmRole).where(eq(firmRole.firmId, id)).limit(1),
  ]
  const fields = [...(levels.length ? ['levels'] : []), ...(roles.length ? ['roles'] : [])]
  if (fields.length) authorise(rights, { kind: 'people', action: 'change', fields })
}

async function apply(tx: Tx, book: Rulebook, id: string, change: FirmChange, actor: Actor): Promise<void> {
  const now = clockDate()
  if ('giveLevel' in change) {
    knownLevel(book, change.giveLevel, '/giveLevel')
    const until = change.until ? new Date(change.until) : null
    if (until && until.getTime() <= clockMs()) throw new Problem('end-is-past', {}, { at: '/until' })
    await tx.insert(firmLevel).values({ firmId: id, level: change.giveLevel, since: now, until, grantedBy: actor.name })
  }
  if ('endLevel' in change) {
    const ended = await tx
      .update(firmLevel)
      .set({ until: now })
      .where(
        and(
          eq(firmLevel.id, change.endLevel),
          eq(firmLevel.firmId, id),
          sql`(${firmLevel.until} is null or ${firmLevel.until} > ${now.toISOString()}::timestamptz)`,
        ),
      )
      .returning({ id: firmLevel.id })
    if (!ended.length) throw new Problem('ended-already')
  }
  if ('giveRole' in change) {
    // What a whole firm shares must never open the loft.
    if (knownRole(book, change.giveRole, '/giveRole').staff)
      throw new Problem('staff-role-to-firm', {}, { at: '/giveRole' })
    await tx.insert(firmRole).values({ firmId: id, role: change.giveRole, grantedBy: actor.name }).onConflictDoNothing()
  }
  if ('takeRole' in change)
    await tx.delete(firmRole).where(and(eq(firmRole.firmId, id), eq(firmRole.role, change.takeRole)))
  if ('addPerson' in change) await joinFirmAs(tx, id, change.addPerson, change.owner ?? false)
  if ('fact' in change) await sayOfFirm(tx, book, id, { [change.fact]: change.value })
  if ('removePerson' in change) await leaveFirmAs(tx, id, change.removePerson)
  if ('makeOwner' in change) {
    const made = await tx
      .update(firmMember)
      .set({ owner: true })
      .where(and(eq(firmMember.firmId, id), eq(firmMember.personId, change.makeOwner)))
      .returning({ id: firmMember.personId })
    if (!made.length) throw new Problem('not-in-firm')
  }
}

/** Of facts that firms have. Null takes back what is said. Throws `fact-does-not-fit`. */
async function sayOfFirm(
  tx: Tx,
  { facts = [] }: Rulebook,
  id: string,
  given: Readonly<Record<string, string | null>>,
): Promise<void> {
  const [row] = await tx.select({ facts: firm.facts }).from(firm).where(eq(firm.id, id))
  const said = new Map(Object.entries(row!.facts))
  for (const [name, value] of Object.entries(given)) {
    const fact = facts.find(one => one.id === name)
    if (value === null || value.trim() === '') {
      said.delete(name)
      continue
    }
    const read = fact && ofFirms(fact) ? factValue(fact, value) : undefined
    if (typeof read !== 'string')
      throw new Problem('fact-does-not-fit', { name: fact?.name ?? name, type: fact?.type ?? '' }, { at: '/value' })
    said.set(name, read)
  }
  await tx
    .update(firm)
    .set({ facts: Object.fromEntries(said) })
    .where(eq(firm.id, id))
}

/** What an owner says of their firm, as the form for signing up asks it of everybody. */
export async function sayOfOwnFirm(
  db: AnyDb,
  owner: Actor & { id: string },
  given: Readonly<Record<string, string | null>>,
): Promise<void> {
  await inTransaction(db, async tx => {
    const book = await lockedBook(tx)
    const mine = await lockedFirmOf(tx, owner.id)
    if (!mine?.owner) throw new Problem('only-owner-says')
    await sayOfFirm(tx, book, mine.id, given)
    await leaveTrace(tx, owner, 'firm.change', `firm ${mine.id}`, { facts: Object.keys(given) })
  })
}

/** The firm somebody belongs to, and whether they own it. */
export async function firmOf(db: AnyDb, personId: string): Promise<(FirmView & { mine: boolean }) | null> {
  const [row] = await db.select().from(firmMember).where(eq(firmMember.personId, personId))
  const [found] = row ? await listFirms(db, row.firmId) : []
  return found ? { ...found, mine: row!.owner } : null
}

/** An owner invites a colleague by mail. */
export async function inviteToFirm(db: AnyDb, owner: Actor & { id: string }, email: string): Promise<void> {
  const id = await inTransaction(db, async tx => {
    const mine = await lockedFirmOf(tx, owner.id)
    if (!mine?.owner) throw new Problem('only-owner-invites')
    const token = await makeLink(tx, {
      purpose: 'firm-invite',
      personId: null,
      data: { firm: mine.id, email, by: owner.id },
    })
    await leaveTrace(tx, owner, 'firm.invite', `firm ${mine.id}`)
    return writeMail(tx, {
      text: 'firm-invite',
      to: email,
      values: { by: owner.name, firm: mine.name, link: `${siteAddress()}/join-firm?token=${token}` },
    })
  })
  await mailWritten(id)
}

/** Takes an invitation up. It is for one address, and only while whoever sent it owns the firm. */
export async function joinFirm(db: AnyDb, who: Actor & { id: string; email: string }, token: string): Promise<string> {
  return inTransaction(db, async tx => {
    const { data } = await useLink(tx, token, 'firm-invite')
    if (String(data.email).toLowerCase() !== who.email.toLowerCase()) throw new Problem('invitation-of-another')
    const found = await lockedFirm(tx, String(data.firm))
    if (!(await ownersOf(tx, [found.id])).get(found.id)?.has(String(data.by))) throw brokenInvitation()
    await joinFirmAs(tx, found.id, who.id)
    await leaveTrace(tx, who, 'firm.join', `firm ${found.id}`)
    return found.name
  })
}

/** Who may invite to these firms now, by firm: their owners, as long as they are let in. */
export async function ownersOf(tx: AnyDb, firmIds: readonly string[]): Promise<Map<string, Set<string>>> {
  const owners = new Map(firmIds.map(id => [id, new Set<string>()]))
  if (!owners.size) return owners
  const rows = await tx
    .select({ firmId: firmMember.firmId, personId: firmMember.personId })
    .from(firmMember)
    .innerJoin(person, eq(person.id, firmMember.personId))
    .where(
      and(
        inArray(firmMember.firmId, [...owners.keys()]),
        eq(firmMember.owner, true),
        isNull(person.suspendedAt),
        isNull(person.declinedAt),
      ),
    )
  for (const { firmId, personId } of rows) owners.get(firmId)?.add(personId)
  return owners
}

/** An owner removes a colleague; anybody may leave. */
export async function leaveFirm(db: AnyDb, who: Actor & { id: string }, personId: string): Promise<void> {
  await inTransaction(db, async tx => {
    const mine = await lockedFirmOf(tx, who.id)
    if (!mine) throw new Problem('not-found')
    if (personId !== who.id && !mine.owner) throw new Problem('only-owner-removes')
    await leaveFirmAs(tx, mine.id, personId)
    await leaveTrace(tx, who, 'firm.leave', `firm ${mine.id}`, { person: personId })
  })
}
