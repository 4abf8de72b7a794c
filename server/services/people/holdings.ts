/** Levels and roles given to one person and taken from them. */
import { inTransaction } from '../../db/turn'
import { and, eq, sql } from 'drizzle-orm'
import { z } from 'zod'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { membership, roleGrant } from '../../db/schema'
import { rowsOf } from '../../db/rows-of'
import { Problem } from '../../problem'
import type { Worker } from '../live/worker'
import { lockedBook } from '../versions/versions'
import { authorise } from '../staff/authorise'
import { authoriseStaffRole, powerOf } from '../staff/staff-grants'
import { refuseLastKeeper } from '../standing/keepers'
import { knownLevel, knownRole } from '../standing/holdings'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { lockedPerson } from './people'

export const holdingInput = z.discriminatedUnion('what', [
  z.strictObject({
    what: z.literal('level'),
    level: z.string(),
    until: z.iso.datetime({ offset: true }).nullable().optional(),
  }),
  z.strictObject({
    what: z.literal('role'),
    role: z.string(),
    /** Granting a staff role takes its id a second time. */ confirm: z.string().optional(),
  }),
])

export async function giveHolding(
  db: AnyDb,
  { rights, snapshot }: Worker,
  personId: string,
  input: z.infer<typeof holdingInput>,
  actor: Actor,
): Promise<void> {
  await inTransaction(db, async tx => {
    const book = await lockedBook(tx)
    await lockedPerson(tx, personId)
    authorise(rights, { kind: 'people', action: 'change', fields: [input.what === 'role' ? 'roles' : 'levels'] })
    if (input.what === 'role') authoriseStaffRole(rights, { ...powerOf(snapshot), book }, input.role, 'add')
    if (input.what === 'level') await giveLevel(tx, book, [personId], input, actor)
    else await giveRole(tx, book, personId, input, actor)
    await leaveTrace(tx, actor, `person.give-${input.what}`, `person ${personId}`, input)
  })
}

/** Gives a level to some people, from now; answers the memberships made. */
export async function giveLevel(
  tx: Tx,
  book: Rulebook,
  personIds: readonly string[],
  { level, until: end }: { level: string; until?: string | null | undefined },
  actor: Actor,
): Promise<number[]> {
  knownLevel(book, level)
  const until = end ? new Date(end) : null
  if (until && until.getTime() <= clockMs()) throw new Problem('end-is-past', {}, { at: '/until' })
  const made = await tx.execute<{ id: string }>(sql`insert into membership (person_id, level, since, until, granted_by)
    select id, ${level}, ${clockDate().toISOString()}::timestamptz, ${until?.toISOString() ?? null}::timestamptz, ${actor.name} from ${rowsOf(
      personIds.map(id => ({ id })),
      'id text',
    )} returning id`)
  return made.map(one => Number(one.id))
}

async function giveRole(
  tx: Tx,
  book: Rulebook,
  personId: string,
  { role: id, confirm }: { role: string; confirm?: string | undefined },
  actor: Actor,
): Promise<void> {
  const role = knownRole(book, id)
  if (role.staff && confirm !== role.id)
    throw new Problem(
      'name-staff-role',
      { role: role.name ?? role.id },
      {
        at: '/confirm',
      },
    )
  await tx.insert(roleGrant).values({ personId, role: id, grantedBy: actor.name }).onConflictDoNothing()
}

export async function takeHolding(
  db: AnyDb,
  { rights, snapshot }: Worker,
  personId: string,
  holding: { membership: number } | { role: string },
  actor: Actor,
): Promise<void> {
  await inTransaction(db, async tx => {
    const book = await lockedBook(tx)
    await lockedPerson(tx, personId)
    authorise(rights, { kind: 'people', action: 'change', fields: ['role' in holding ? 'roles' : 'levels'] })
    if ('role' in holding) authoriseStaffRole(rights, { ...powerOf(snapshot), book }, holding.role, 'withdraw')
    if ('role' in holding) await takeRole(tx, book, personId, holding.role)
    else await endMembership(tx, personId, holding.membership, actor)
    await leaveTrace(tx, actor, 'person.take', `person ${personId}`, holding)
  })
}

/** Ends a membership now; the row stays as history. One that had not begun is taken out. */
async function endMembership(tx: Tx, personId: string, id: number, actor: Actor): Promise<void> {
  const now = clockDate()
  const mine = and(eq(membership.id, id), eq(membership.personId, personId))
  const ahead = await tx
    .delete(membership)
    .where(and(mine, sql`${membership.since} > ${now.toISOString()}::timestamptz`))
    .returning({ id: membership.id })
  if (ahead.length) return
  const ended = await tx
    .update(membership)
    .set({ until: now, renews: false, endedBy: actor.name })
    .where(and(mine, sql`(${membership.until} is null or ${membership.until} > ${now.toISOString()}::timestamptz)`))
    .returning({ id: membership.id })
  if (!ended.length) throw new Problem('ended-already')
}

async function takeRole(tx: Tx, book: Rulebook, personId: string, role: string): Promise<void> {
  if (book.settings?.masterKeys?.includes(role)) await refuseLastKeeper(tx, book, [personId], role)
  const gone = await tx
    .delete(roleGrant)
    .where(and(eq(roleGrant.personId, personId), eq(roleGrant.role, role)))
    .returning({ role: roleGrant.role })
  if (!gone.length) throw new Problem('not-found')
}
