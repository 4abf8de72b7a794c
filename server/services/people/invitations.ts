/** Invitations on their way, to the site and to firms: seen, and taken back, by staff; a firm's own by its owners. */
import { inTransaction } from '../../db/turn'
import { and, desc, eq, gt, inArray, isNull, sql } from 'drizzle-orm'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { clockDate } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { firm as firmTable, oneTimeLink } from '../../db/schema'
import { Problem } from '../../problem'
import type { Worker } from '../live/worker'
import { authorise } from '../staff/authorise'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { lockedFirmOf } from '../standing/firm-members'
import { ownersOf } from './firms'

/** `id` names it without giving the link away; `void`: it stands here, but nobody can take it up. */
export interface ListedInvitation {
  id: string
  email: string
  by: string
  levels: string[]
  roles: string[]
  firm: { id: string; name: string } | null
  expiresAt: string
  void: boolean
}

interface Promised {
  email?: unknown
  by?: unknown
  levels?: string[]
  roles?: string[]
  firm?: string
}

const purposes = ['invite', 'firm-invite']
const idLength = 24
const named = (id: string) => sql`left(${oneTimeLink.tokenHash}, ${idLength}) = ${id}`
const waits = () =>
  and(inArray(oneTimeLink.purpose, purposes), isNull(oneTimeLink.usedAt), gt(oneTimeLink.expiresAt, clockDate()))

export async function listInvitations(db: AnyDb, book: Rulebook, ofFirm?: string): Promise<ListedInvitation[]> {
  const rows = await db
    .select()
    .from(oneTimeLink)
    .where(
      and(
        waits(),
        ofFirm === undefined
          ? undefined
          : and(eq(oneTimeLink.purpose, 'firm-invite'), sql`${oneTimeLink.data} ->> 'firm' = ${ofFirm}`),
      ),
    )
    .orderBy(desc(oneTimeLink.expiresAt))
    .limit(500)
  const owners = await ownersOf(
    db,
    rows.flatMap(row => ((row.data as Promised).firm ? [String((row.data as Promised).firm)] : [])),
  )
  const firms = new Map(
    owners.size
      ? (
          await db
            .select({ id: firmTable.id, name: firmTable.name })
            .from(firmTable)
            .where(inArray(firmTable.id, [...owners.keys()]))
        ).map(one => [one.id, one])
      : [],
  )
  return rows.map(row => {
    const { email, by, levels = [], roles = [], firm } = row.data as Promised
    const toFirm = row.purpose === 'firm-invite'
    return {
      id: row.tokenHash.slice(0, idLength),
      email: String(email ?? ''),
      by: String(by ?? ''),
      levels,
      roles,
      firm: firm === undefined ? null : (firms.get(firm) ?? { id: firm, name: firm }),
      expiresAt: row.expiresAt.toISOString(),
      void: toFirm
        ? !owners.get(String(firm))?.has(String(by))
        : roles.some(role => !book.roles?.some(one => one.id === role && !one.staff)),
    }
  })
}

export async function revokeInvitation(db: AnyDb, { rights }: Worker, id: string, actor: Actor): Promise<void> {
  await inTransaction(db, async tx => {
    const [row] = await tx
      .select()
      .from(oneTimeLink)
      .where(and(waits(), named(id)))
      .for('update')
    if (!row) throw new Problem('no-such-invitation')
    if (row.purpose === 'firm-invite') authorise(rights, { kind: 'firms', action: 'change' })
    await drop(tx, row.tokenHash, actor)
  })
}

/** An owner takes back what somebody of the firm sent. */
export async function revokeFirmInvitation(db: AnyDb, who: Actor & { id: string }, id: string): Promise<void> {
  await inTransaction(db, async tx => {
    const mine = await lockedFirmOf(tx, who.id)
    if (!mine?.owner) throw new Problem('only-owner-takes-back')
    const [row] = await tx
      .select()
      .from(oneTimeLink)
      .where(
        and(
          waits(),
          named(id),
          eq(oneTimeLink.purpose, 'firm-invite'),
          sql`${oneTimeLink.data} ->> 'firm' = ${mine.id}`,
        ),
      )
      .for('update')
    if (!row) throw new Problem('not-found')
    await drop(tx, row.tokenHash, who)
  })
}

async function drop(tx: Tx, tokenHash: string, actor: Actor): Promise<void> {
  await tx.delete(oneTimeLink).where(eq(oneTimeLink.tokenHash, tokenHash))
  await leaveTrace(tx, actor, 'invitation.revoke', 'invitation', { id: tokenHash.slice(0, idLength) })
}
