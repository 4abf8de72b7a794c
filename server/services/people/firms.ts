/** Firms: people who buy together. What a firm holds, all its people hold. */
import { and, asc, eq, sql } from 'drizzle-orm'
import { z } from 'zod'
import { idPattern } from '../../../core/rulebook/shapes'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { clockDate, clockMs } from '../../clock'
import type { Database, Tx } from '../../db/database'
import { firm, firmLevel, firmMember, firmRole, person } from '../../db/schema'
import { Problem } from '../../problem'
import { mailWritten, siteAddress, writeMail } from '../mail/mail'
import { makeLink, useLink } from '../entrance/one-time-links'
import { knownRole } from './people'
import { bookOf, bumpContent, entriesAt, liveEdition } from '../rules/rulebook-store'
import { entriesOf } from '../../../core/rulebook/rulebook'
import { leaveTrace } from '../trace'
import type { Actor } from '../trace'

export interface FirmView {
  id: string
  name: string
  people: { id: string, name: string, email: string, owner: boolean }[]
  levels: { id: number, level: string, since: string, until: string | null }[]
  roles: string[]
}

export async function listFirms(db: Tx, only?: string): Promise<FirmView[]> {
  return db.select({
    id: firm.id, name: firm.name,
    people: sql<FirmView['people']>`coalesce((select json_agg(json_build_object('id', p.id, 'name', p.name, 'email', p.email, 'owner', fm.owner) order by fm.owner desc, p.name) from firm_member fm join person p on p.id = fm.person_id where fm.firm_id = firm.id), '[]'::json)`,
    levels: sql<FirmView['levels']>`coalesce((select json_agg(json_build_object('id', fl.id, 'level', fl.level, 'since', to_json(fl.since), 'until', to_json(fl.until)) order by fl.since) from firm_level fl where fl.firm_id = firm.id), '[]'::json)`,
    roles: sql<string[]>`coalesce((select json_agg(fr.role order by fr.role) from firm_role fr where fr.firm_id = firm.id), '[]'::json)`,
  }).from(firm).where(only === undefined ? undefined : eq(firm.id, only)).orderBy(asc(firm.name))
}

export const firmInput = z.strictObject({ id: z.string().regex(idPattern, 'Small letters, digits and dashes.').max(80), name: z.string().trim().min(1, 'A name is needed.').max(200) })

export async function addFirm(db: Database, input: z.infer<typeof firmInput>, actor: Actor): Promise<void> {
  await db.transaction(async (tx) => {
    const made = await tx.insert(firm).values({ ...input, createdAt: clockDate() }).onConflictDoNothing().returning({ id: firm.id })
    if (!made.length) throw new Problem('taken', `There is a firm with the id ${input.id} already.`, { at: '/id' })
    await bumpContent(tx)
    await leaveTrace(tx, actor, 'firm.add', `firm ${input.id}`)
  })
}

async function existing(tx: Tx, id: string): Promise<{ id: string, name: string }> {
  const [row] = await tx.select({ id: firm.id, name: firm.name }).from(firm).where(eq(firm.id, id)).for('update')
  if (!row) throw new Problem('not-found', 'There is no such firm.')
  return row
}

/** A firm stays while a rule, live or in the draft, names it. */
export async function removeFirm(db: Database, id: string, actor: Actor): Promise<void> {
  await db.transaction(async (tx) => {
    await existing(tx, id)
    const live = await liveEdition(tx)
    const naming = new Set<string>()
    for (const edition of [live, live + 1]) {
      for (const entry of entriesOf(bookOf(await entriesAt(tx, edition)))) if (namesFirm(entry.body, id)) naming.add(`${entry.kind} “${(entry.body as { name?: string }).name ?? entry.key}”`)
    }
    if (naming.size) throw new Problem('in-use', `Still used by ${[...naming].join(', ')}.`)
    await tx.delete(firm).where(eq(firm.id, id))
    await bumpContent(tx)
    await leaveTrace(tx, actor, 'firm.remove', `firm ${id}`)
  })
}

function namesFirm(value: unknown, id: string): boolean {
  if (typeof value !== 'object' || value === null) return false
  const firmList = (value as { firm?: { in?: unknown } }).firm?.in
  if (Array.isArray(firmList) && firmList.includes(id)) return true
  return Object.values(value).some(inner => namesFirm(inner, id))
}

export const firmChange = z.union([
  z.strictObject({ name: firmInput.shape.name }),
  z.strictObject({ giveLevel: z.string(), until: z.iso.datetime({ offset: true }).nullable().optional() }),
  z.strictObject({ endLevel: z.int() }),
  z.strictObject({ giveRole: z.string() }),
  z.strictObject({ takeRole: z.string() }),
  z.strictObject({ addPerson: z.string(), owner: z.boolean().optional() }),
  z.strictObject({ removePerson: z.string() }),
  z.strictObject({ makeOwner: z.string() }),
])
export type FirmChange = z.infer<typeof firmChange>

export async function changeFirm(db: Database, book: Rulebook, id: string, change: FirmChange, actor: Actor): Promise<void> {
  await db.transaction(async (tx) => {
    await existing(tx, id)
    await apply(tx, book, id, change, actor)
    if ('name' in change) await bumpContent(tx)
    await leaveTrace(tx, actor, 'firm.change', `firm ${id}`, change)
  })
}

async function apply(tx: Tx, book: Rulebook, id: string, change: FirmChange, actor: Actor): Promise<void> {
  const now = clockDate()
  if ('name' in change) await tx.update(firm).set({ name: change.name }).where(eq(firm.id, id))
  if ('giveLevel' in change) {
    if (!book.levels?.some(level => level.id === change.giveLevel)) throw new Problem('bad-input', `There is no level “${change.giveLevel}” in the live edition.`, { at: '/giveLevel' })
    const until = change.until ? new Date(change.until) : null
    if (until && until.getTime() <= clockMs()) throw new Problem('bad-input', 'The end lies in the past.', { at: '/until' })
    await tx.insert(firmLevel).values({ firmId: id, level: change.giveLevel, since: now, until, grantedBy: actor.name })
  }
  if ('endLevel' in change) {
    const ended = await tx.update(firmLevel).set({ until: now }).where(and(eq(firmLevel.id, change.endLevel), eq(firmLevel.firmId, id), sql`(${firmLevel.until} is null or ${firmLevel.until} > ${now.toISOString()}::timestamptz)`)).returning({ id: firmLevel.id })
    if (!ended.length) throw new Problem('not-found', 'This has ended already.')
  }
  if ('giveRole' in change) {
    // What a whole firm shares must never open the loft.
    if (knownRole(book, change.giveRole).staff) throw new Problem('bad-input', 'A staff role goes to a person, never to a firm.', { at: '/giveRole' })
    await tx.insert(firmRole).values({ firmId: id, role: change.giveRole, grantedBy: actor.name }).onConflictDoNothing()
  }
  if ('takeRole' in change) await tx.delete(firmRole).where(and(eq(firmRole.firmId, id), eq(firmRole.role, change.takeRole)))
  if ('addPerson' in change) await join(tx, id, change.addPerson, change.owner ?? false)
  if ('removePerson' in change) await leave(tx, id, change.removePerson)
  if ('makeOwner' in change) {
    const made = await tx.update(firmMember).set({ owner: true }).where(and(eq(firmMember.firmId, id), eq(firmMember.personId, change.makeOwner))).returning({ id: firmMember.personId })
    if (!made.length) throw new Problem('not-found', 'This person does not belong to the firm.')
  }
}

async function join(tx: Tx, firmId: string, personId: string, owner: boolean): Promise<void> {
  if (!(await tx.select({ id: person.id }).from(person).where(eq(person.id, personId))).length) throw new Problem('bad-input', 'There is no such person.', { at: '/addPerson' })
  const [other] = await tx.select({ name: firm.name, id: firm.id }).from(firmMember).innerJoin(firm, eq(firm.id, firmMember.firmId)).where(eq(firmMember.personId, personId))
  if (other) throw new Problem('taken', other.id === firmId ? 'They belong to this firm already.' : `They belong to ${other.name}, and a person belongs to one firm at most.`)
  const first = !(await tx.select({ id: firmMember.personId }).from(firmMember).where(eq(firmMember.firmId, firmId)).limit(1)).length
  await tx.insert(firmMember).values({ firmId, personId, owner: owner || first, since: clockDate() })
}

async function leave(tx: Tx, firmId: string, personId: string): Promise<void> {
  const people = await tx.select().from(firmMember).where(eq(firmMember.firmId, firmId)).for('update')
  const who = people.find(one => one.personId === personId)
  if (!who) throw new Problem('not-found', 'This person does not belong to the firm.')
  const others = people.filter(one => one.personId !== personId)
  if (who.owner && others.length && !others.some(one => one.owner)) throw new Problem('in-use', 'Make a colleague an owner first: a firm with people has one.')
  await tx.delete(firmMember).where(eq(firmMember.personId, personId))
}

/** The firm somebody belongs to, and whether they own it. */
export async function firmOf(db: Tx, personId: string): Promise<(FirmView & { mine: boolean }) | null> {
  const [row] = await db.select().from(firmMember).where(eq(firmMember.personId, personId))
  const [found] = row ? await listFirms(db, row.firmId) : []
  return found ? { ...found, mine: row!.owner } : null
}

/** An owner invites a colleague by mail. */
export async function inviteToFirm(db: Database, owner: Actor & { id: string }, email: string): Promise<void> {
  const id = await db.transaction(async (tx) => {
    const mine = await firmOf(tx, owner.id)
    if (!mine?.mine) throw new Problem('not-allowed', 'Only an owner of the firm invites.')
    const token = await makeLink(tx, { purpose: 'firm-invite', personId: null, data: { firm: mine.id, email, by: owner.id } })
    await leaveTrace(tx, owner, 'firm.invite', `firm ${mine.id}`)
    return writeMail(tx, { text: 'firm-invite', to: email, values: { by: owner.name, firm: mine.name, link: `${siteAddress()}/join-firm?token=${token}` } })
  })
  await mailWritten(id)
}

/** Takes an invitation up. It is for one address: only whoever signs in with it may. */
export async function joinFirm(db: Database, who: Actor & { id: string, email: string }, token: string): Promise<string> {
  return db.transaction(async (tx) => {
    const { data } = await useLink(tx, token, 'firm-invite')
    if (String(data.email).toLowerCase() !== who.email.toLowerCase()) throw new Problem('not-allowed', 'The invitation was sent to another address.')
    const found = await existing(tx, String(data.firm))
    await join(tx, found.id, who.id, false)
    await leaveTrace(tx, who, 'firm.join', `firm ${found.id}`)
    return found.name
  })
}

/** An owner removes a colleague; anybody may leave. */
export async function leaveFirm(db: Database, who: Actor & { id: string }, personId: string): Promise<void> {
  await db.transaction(async (tx) => {
    const mine = await firmOf(tx, who.id)
    if (!mine) throw new Problem('not-found')
    if (personId !== who.id && !mine.mine) throw new Problem('not-allowed', 'Only an owner of the firm removes colleagues.')
    await leave(tx, mine.id, personId)
    await leaveTrace(tx, who, 'firm.leave', `firm ${mine.id}`, { person: personId })
  })
}
