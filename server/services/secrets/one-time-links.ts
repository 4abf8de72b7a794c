/** Links that work once and for a while. The address holds the token, the database only its SHA-256. */
import { and, eq, gt, inArray, isNull, lt, sql } from 'drizzle-orm'
import type { AnyDb, Tx } from '../../db/database'
import { oneTimeLink } from '../../db/schema'
import { Problem } from '../../problem'
import { clockDate, clockMs } from '../../clock'
import { hashOf, newToken } from './tokens'

/** What a link is for, with the hours it works. */
export const linkPurposes = {
  confirm: 48,
  reset: 2,
  invite: 24 * 14,
  address: 24,
  'first-keeper': 24,
  'firm-invite': 24 * 14,
} as const
export type LinkPurpose = keyof typeof linkPurposes

export interface OneTimeLink {
  purpose: LinkPurpose
  personId: string | null
  data: Record<string, unknown>
}

/** A fresh link's token; earlier ones of the same person and purpose stop working. */
export async function makeLink(tx: AnyDb, { purpose, personId, data }: OneTimeLink): Promise<string> {
  const token = newToken()
  if (personId)
    await tx.delete(oneTimeLink).where(and(eq(oneTimeLink.purpose, purpose), eq(oneTimeLink.personId, personId)))
  await tx.insert(oneTimeLink).values({
    tokenHash: hashOf(token),
    purpose,
    personId,
    data,
    expiresAt: new Date(clockMs() + linkPurposes[purpose] * 3_600_000),
  })
  return token
}

const works = (token: string, purpose: LinkPurpose) =>
  and(
    eq(oneTimeLink.tokenHash, hashOf(token)),
    eq(oneTimeLink.purpose, purpose),
    isNull(oneTimeLink.usedAt),
    gt(oneTimeLink.expiresAt, clockDate()),
  )

/** What a link is for, without using it up; undefined when it does not work, or no more. */
export async function peekLink(tx: AnyDb, token: string, purpose: LinkPurpose): Promise<OneTimeLink | undefined> {
  const [row] = await tx.select().from(oneTimeLink).where(works(token, purpose))
  return row && { purpose, personId: row.personId, data: row.data as Record<string, unknown> }
}

/** Links that let somebody in as a person, or change how they sign in: void once password or address have changed. */
export const credentialLinks = ['reset', 'address', 'confirm'] as const satisfies readonly LinkPurpose[]

/** Makes a person's links for these purposes void. */
export async function dropLinks(tx: AnyDb, personId: string, purposes: readonly LinkPurpose[]): Promise<void> {
  await tx
    .delete(oneTimeLink)
    .where(
      and(eq(oneTimeLink.personId, personId), inArray(oneTimeLink.purpose, [...purposes]), isNull(oneTimeLink.usedAt)),
    )
}

export const brokenLink = () => new Problem('link-used')

/** Uses a link up; throws `bad-token` when it was used, altered, replaced or is too old. */
export async function useLink(tx: Tx, token: string, purpose: LinkPurpose): Promise<OneTimeLink> {
  const [row] = await tx
    .update(oneTimeLink)
    .set({ usedAt: sql`now()` })
    .where(works(token, purpose))
    .returning()
  if (!row) throw brokenLink()
  return { purpose, personId: row.personId, data: row.data as Record<string, unknown> }
}

export async function dropOldLinks(db: AnyDb): Promise<void> {
  await db.delete(oneTimeLink).where(lt(oneTimeLink.expiresAt, new Date(clockMs() - 30 * 86_400_000)))
}
