/**
 * A made-up stranger, as whom staff try the way in: they walk the real pages, are written down like anybody, get real
 * mails that go nowhere, and are thrown away after. What a browser keeps of them is kept apart from what is staff's own.
 */
import { sql } from 'drizzle-orm'
import { getHeader } from 'h3'
import type { H3Event } from 'h3'
import { z } from 'zod'
import { strangerDomain } from '../../../core/entrance/strangers-address'
import { clockMs } from '../../clock'
import { inTransaction } from '../../db/turn'
import type { AnyDb, Tx } from '../../db/database'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { isSignature, newId, signature } from '../secrets/tokens'

/** Of rows of `person`, or of what else has an `email`. */
export const notStrangers = sql`email not like ${`%@${strangerDomain}`}`

const strangerMinutes = 30
const payload = z.strictObject({
  session: z.string(),
  email: z.string(),
  /** Milliseconds since 1970. */ expires: z.number(),
})
export type StrangerPass = z.infer<typeof payload>

export function makeStranger(session: string, nowMs: number): { pass: string; email: string; expires: number } {
  const made = { session, email: `${newId('s', 8)}@${strangerDomain}`, expires: nowMs + strangerMinutes * 60_000 }
  const body = Buffer.from(JSON.stringify(made)).toString('base64url')
  return { pass: `${body}.${signature('stranger', body)}`, email: made.email, expires: made.expires }
}

/** Throws `bad-token` or `token-expired`. */
function passIn(text: string, nowMs: number): StrangerPass {
  const [body = '', given = '', ...rest] = text.split('.')
  if (rest.length || !isSignature('stranger', body, given)) throw new Problem('bad-token')
  const pass = payload.safeParse(JSON.parse(Buffer.from(body, 'base64url').toString('utf8'))).data
  if (!pass) throw new Problem('bad-token')
  if (pass.expires <= nowMs) throw new Problem('token-expired')
  return pass
}

/** The pass of whoever tries it, for the session it was made in. */
export function readStranger(text: string, sessionId: string | undefined, nowMs: number): StrangerPass {
  const pass = passIn(text, nowMs)
  if (!sessionId || pass.session !== sessionId) throw new Problem('bad-token')
  return pass
}

/** Names the pass in what the stranger's pages are asked with; set by the server itself. */
export const strangerHeader = 'x-bravik-stranger'

/** The stranger a request is of; undefined for everybody else. */
export function strangerOf(event: H3Event): StrangerPass | undefined {
  const text = getHeader(event, strangerHeader)
  if (!text) return undefined
  try {
    return passIn(text, clockMs())
  } catch {
    return undefined
  }
}

/** What has come to a stranger's address so far, oldest first, and how they stand. */
export async function strangerTold(database: AnyDb, { email }: StrangerPass) {
  const mails = await database.execute<{ id: number; subject: string; plain: string; at: string }>(
    sql`select id::int, subject, plain, to_json(received_at) #>> '{}' as at from mail_kept where recipient = ${email} order by mail_kept.id limit 50`,
  )
  const [person] = await database.execute<{ id: string; name: string; confirmed: boolean; approved: boolean }>(
    sql`select id, name, confirmed_at is not null confirmed, approved_at is not null approved from person where lower(email) = ${email}`,
  )
  return { mails: [...mails], person: person ?? null }
}

/** They were made up: gone with all that came of them. */
async function forget(tx: Tx, whose: ReturnType<typeof sql>): Promise<number> {
  const gone = await tx.execute<{ id: string }>(sql`delete from person where ${whose} returning id`)
  for (const { id } of gone) await tx.execute(sql`delete from activity where person_id = ${id}`)
  return gone.length
}

export const endStranger = (database: AnyDb, { email }: StrangerPass, actor: Actor): Promise<void> =>
  inTransaction(database, async tx => {
    await forget(tx, sql`lower(email) = ${email}`)
    await tx.execute(sql`delete from mail_kept where recipient = ${email}`)
    await tx.execute(sql`delete from mail_out where recipient = ${email}`)
    await tx.execute(sql`delete from one_time_link where data ->> 'email' = ${email}`)
    await leaveTrace(tx, actor, 'door.tried', 'door')
  })

/** Whoever tried it and went away without an end. */
export const dropOldStrangers = (database: AnyDb): Promise<void> =>
  inTransaction(database, async tx => {
    const before = new Date(clockMs() - strangerMinutes * 60_000).toISOString()
    const like = `%@${strangerDomain}`
    await forget(tx, sql`email like ${like} and created_at < ${before}::timestamptz`)
    await tx.execute(sql`delete from mail_kept where recipient like ${like} and received_at < ${before}::timestamptz`)
  })
