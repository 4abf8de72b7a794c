/** Mail: written down with what it belongs to, sent by a job over SMTP, tried again when that fails. */
import { and, desc, eq, lt, or, sql } from 'drizzle-orm'
import nodemailer from 'nodemailer'
import type { Tx } from '../../db/database'
import { db } from '../../db/database'
import { mailKept, mailOut, siteState } from '../../db/schema'
import { ask } from '../jobs'
import { filledText, textFor } from './mail-texts'
import type { MailTextKey } from './mail-texts'
import { readSettings } from '../site/settings'

/** Where links lead. Never taken from a request: a forged host must not reach a mail. */
export const siteAddress = () => (process.env.BRAVIK_ADDRESS ?? `http://127.0.0.1:${process.env.PORT ?? '4321'}`).replace(/\/$/, '')

export const mostMailTries = 7

let standInUrl: string | undefined
export function useStandIn(url: string): void {
  standInUrl = url
}
/** The SMTP server mail goes to; undefined while none is known. */
export const smtpUrl = () => process.env.BRAVIK_SMTP_URL ?? standInUrl
export const usesStandIn = () => !process.env.BRAVIK_SMTP_URL

export interface Mail { text: MailTextKey, to: string, values: Record<string, string> }

/** Writes a mail down in the caller's transaction. `mailWritten` afterwards sets it on its way. */
export async function writeMail(tx: Tx, { text, to, values }: Mail): Promise<number> {
  const [row] = await tx.insert(mailOut).values({ text, recipient: to, values }).returning({ id: mailOut.id })
  return row!.id
}

/** Call when the transaction is through. What is never called is found by the sweep a minute later. */
export async function mailWritten(...ids: number[]): Promise<void> {
  for (const id of ids) await ask('mail', { id }).catch(() => {})
}

/** Sends one mail that waits. Throws when it could not be sent, so that the queue tries again. */
export async function sendMail(id: number, database = db()): Promise<void> {
  const [row] = await database.update(mailOut).set({ tries: sql`${mailOut.tries} + 1` }).where(and(eq(mailOut.id, id), eq(mailOut.state, 'queued'))).returning()
  if (!row) return
  try {
    await deliver(database, { text: row.text as MailTextKey, to: row.recipient, values: row.values })
    // Its links are secrets: once sent, they are kept nowhere.
    await database.update(mailOut).set({ state: 'sent', sentAt: sql`now()`, problem: null, values: {} }).where(eq(mailOut.id, id))
  }
  catch (error) {
    const problem = (error as { code?: string }).code ?? (error as Error).name
    await database.update(mailOut).set({ problem, ...(row.tries >= mostMailTries ? { state: 'failed' as const, values: {} } : {}) }).where(eq(mailOut.id, id))
    if (row.tries < mostMailTries) throw error
  }
}

async function deliver(database: Tx, { text, to, values }: Mail): Promise<void> {
  const url = smtpUrl()
  if (!url) throw Object.assign(new Error('No mail server is known.'), { code: 'no-server' })
  const { mail } = await readSettings(database)
  const [site] = await database.select({ name: siteState.name }).from(siteState)
  const filled = filledText(await textFor(database, text), { site: site?.name ?? '', ...values })
  const transport = nodemailer.createTransport(url, { from: { name: mail.senderName || site?.name || '', address: mail.senderAddress } })
  try {
    await transport.sendMail({ to, subject: filled.subject, text: filled.plain, html: filled.html })
  }
  finally {
    transport.close()
  }
}

/** Asks anew for every mail that waits longer than it should. */
export async function sweepMail(): Promise<void> {
  const waiting = await db().select({ id: mailOut.id }).from(mailOut).where(and(eq(mailOut.state, 'queued'), lt(mailOut.createdAt, sql`now() - interval '45 seconds'`))).limit(500)
  await mailWritten(...waiting.map(one => one.id))
}

export async function outbox(database: Tx, search = '') {
  const like = `%${search.replaceAll(/[\\%_]/g, char => `\\${char}`)}%`
  const kept = await database.select().from(mailKept).where(search ? or(sql`${mailKept.recipient} ilike ${like}`, sql`${mailKept.subject} ilike ${like}`) : undefined).orderBy(desc(mailKept.id)).limit(100)
  const waiting = await database.select({ id: mailOut.id, text: mailOut.text, recipient: mailOut.recipient, state: mailOut.state, tries: mailOut.tries, problem: mailOut.problem, createdAt: mailOut.createdAt }).from(mailOut).where(or(eq(mailOut.state, 'queued'), eq(mailOut.state, 'failed'))).orderBy(desc(mailOut.id)).limit(100)
  return { standIn: usesStandIn(), kept, waiting }
}
