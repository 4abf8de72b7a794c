/** Mail: written down with what it belongs to, sent by a job over SMTP, tried again when that fails. */
import { afterCommit, inTransaction } from '../../db/turn'
import { and, asc, desc, eq, inArray, lte, or, sql } from 'drizzle-orm'
import nodemailer from 'nodemailer'
import { besideDb } from '../../db/database'
import type { AnyDb, Tx } from '../../db/database'
import { mailKept, mailOut, siteState } from '../../db/schema'
import { environment, localAddress } from '../../environment'
import { Problem } from '../../problem'
import { backoffSeconds, givenUpAfterSeconds } from '../../jobs/backoff'
import { ask } from '../../jobs/jobs'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { smtpUrl, usesStandIn } from '../../mail-server'
import { filledText, hoursOfUse, isUrgent, textFor } from './mail-texts'
import type { MailTextKey } from './mail-texts'
import { isStrangersAddress } from '../../../core/entrance/strangers-address'
import { readSettings } from '../settings/settings'

/** Where links lead. Never taken from a request: a forged host must not reach a mail. */
export const siteAddress = () => environment().BRAVIK_ADDRESS ?? localAddress(environment())

export interface Mail {
  text: MailTextKey
  to: string
  values: Record<string, string>
}

/** Writes a mail down in the caller's transaction. `mailWritten` afterwards sets it on its way. */
export async function writeMail(tx: Tx, { text, to, values }: Mail): Promise<number> {
  const hours = hoursOfUse(text)
  const [row] = await tx
    .insert(mailOut)
    .values({
      text,
      recipient: to,
      values,
      urgent: isUrgent(text),
      ...(hours === undefined ? {} : { expiresAt: sql`now() + ${`${hours} hours`}::interval` }),
    })
    .returning({ id: mailOut.id })
  return row!.id
}

/** Call when the transaction is through. What is never called is found within a minute. */
export async function mailWritten(...ids: number[]): Promise<void> {
  if (ids.length) await afterCommit(() => ask('mail'))
}

const claimedAtOnce = 20
/** A mail claimed by a server that died is claimed again after this. */
const leaseSeconds = 120
const connections = 4
/** Milliseconds a mail server may take to be connected to, to greet, and to answer. */
const timeouts = { connectionTimeout: 10_000, greetingTimeout: 10_000, socketTimeout: 30_000 }
/** Of nodemailer: nobody is there, or not now. The next mail would fare no better. */
const away: ReadonlySet<string> = new Set([
  'ECONNECTION',
  'ESOCKET',
  'ETIMEDOUT',
  'EDNS',
  'ECONNREFUSED',
  'ECONNRESET',
  'ENOTFOUND',
  'no-server',
])

type Claimed = typeof mailOut.$inferSelect

/** Takes the mails that are due, those somebody waits for first; nobody else takes them meanwhile. */
async function claim(database: AnyDb): Promise<Claimed[]> {
  return inTransaction(database, async tx => {
    const due = await tx
      .select({ id: mailOut.id })
      .from(mailOut)
      .where(and(eq(mailOut.state, 'queued'), lte(mailOut.nextTryAt, sql`now()`)))
      .orderBy(desc(mailOut.urgent), asc(mailOut.nextTryAt), asc(mailOut.id))
      .limit(claimedAtOnce)
      .for('update', { skipLocked: true })
    if (!due.length) return []
    return tx
      .update(mailOut)
      .set({ tries: sql`${mailOut.tries} + 1`, nextTryAt: sql`now() + ${`${leaseSeconds} seconds`}::interval` })
      .where(
        inArray(
          mailOut.id,
          due.map(one => one.id),
        ),
      )
      .returning()
  })
}

/**
 * Sends what is due until nothing is left; any number of servers may do it at
 * once. What cannot be sent is tried again, with growing pauses, for two days
 * or until it is of no use. Answers how many were sent.
 */
export async function sendDueMail(database: AnyDb = besideDb()): Promise<number> {
  let sent = 0
  const transport = smtpUrl() === undefined ? undefined : await transportTo(database, smtpUrl()!)
  try {
    for (;;) {
      const claimed = await claim(database)
      if (!claimed.length) return sent
      const outcomes = await Promise.all(claimed.map(row => sendOne(database, transport, row)))
      sent += outcomes.filter(outcome => outcome === 'sent').length
      if (!outcomes.includes('away')) continue
      // Not waiting for the next minute: a mail server that was restarted is back sooner.
      await ask('mail', {}, backoffSeconds(1))
      return sent
    }
  } finally {
    transport?.close()
  }
}

type Transport = ReturnType<typeof nodemailer.createTransport>

async function transportTo(database: AnyDb, url: string): Promise<Transport> {
  const { mail } = await readSettings(database)
  const [site] = await database.select({ name: siteState.name }).from(siteState)
  const from = { name: mail.senderName || site?.name || '', address: mail.senderAddress }
  return nodemailer.createTransport({ url, pool: true, maxConnections: connections, ...timeouts } as object, {
    from,
  }) as Transport
}

async function sendOne(
  database: AnyDb,
  transport: Transport | undefined,
  row: Claimed,
): Promise<'sent' | 'failed' | 'away'> {
  try {
    if (row.expiresAt && row.expiresAt.getTime() <= Date.now())
      throw Object.assign(new Error('Of no use any more.'), { code: 'expired' })
    if (isStrangersAddress(row.recipient)) await keepHere(database, row)
    else if (!transport) throw Object.assign(new Error('No mail server is known.'), { code: 'no-server' })
    else await deliver(database, transport, { text: row.text as MailTextKey, to: row.recipient, values: row.values })
    // Its links are secrets: once sent, they are kept nowhere.
    await database
      .update(mailOut)
      .set({ state: 'sent', sentAt: sql`now()`, problem: null, values: {} })
      .where(eq(mailOut.id, row.id))
    return 'sent'
  } catch (error) {
    const problem = (error as { code?: string }).code ?? (error as Error).name
    const expired = problem === 'expired'
    // What is said in it is kept while it may still be sent by hand.
    const over = expired || Date.now() - row.createdAt.getTime() > givenUpAfterSeconds * 1000
    await database
      .update(mailOut)
      .set({
        problem,
        nextTryAt: sql`now() + ${`${backoffSeconds(row.tries)} seconds`}::interval`,
        ...(over ? { state: 'failed' as const } : {}),
        ...(expired ? { values: {} } : {}),
      })
      .where(eq(mailOut.id, row.id))
    return away.has(problem) ? 'away' : 'failed'
  }
}

async function deliver(database: AnyDb, transport: Transport, { text, to, values }: Mail): Promise<void> {
  const [site] = await database.select({ name: siteState.name }).from(siteState)
  const filled = filledText(await textFor(database, text), { site: site?.name ?? '', ...values })
  await transport.sendMail({ to, subject: filled.subject, text: filled.plain, html: filled.html })
}

/** Whom it is for was made up: it goes nowhere, and whoever tries it reads it. */
async function keepHere(database: AnyDb, { text, recipient, values }: Claimed): Promise<void> {
  const [site] = await database.select({ name: siteState.name }).from(siteState)
  const filled = filledText(await textFor(database, text as MailTextKey), { site: site?.name ?? '', ...values })
  await database.insert(mailKept).values({ sender: '', recipient, ...filled })
}

/** What a mail that was given up says is kept while it may still be sent by hand, and no longer: it may hold a link. */
export async function forgetExpiredMail(database: AnyDb): Promise<void> {
  await database
    .update(mailOut)
    .set({ values: {} })
    .where(and(eq(mailOut.state, 'failed'), lte(mailOut.expiresAt, sql`now()`)))
}

/** Sets a mail that waits or was given up on its way again, at once. */
export async function sendAgain(database: AnyDb, id: number, actor: Actor): Promise<void> {
  await inTransaction(database, async tx => {
    const [row] = await tx.select().from(mailOut).where(eq(mailOut.id, id)).for('update')
    if (!row) throw new Problem('no-such-mail')
    if (row.state === 'sent') throw new Problem('mail-sent')
    if (!Object.keys(row.values).length || (row.expiresAt && row.expiresAt.getTime() <= Date.now()))
      throw new Problem('mail-useless')
    await tx
      .update(mailOut)
      .set({ state: 'queued', nextTryAt: sql`now()`, createdAt: sql`now()`, problem: null })
      .where(eq(mailOut.id, id))
    await leaveTrace(tx, actor, 'mail.again', `mail ${id}`)
  })
  await mailWritten(id)
}

/** A link that lets its reader in is shown to nobody who may not do everything anyhow. */
const withoutTokens = (words: string) =>
  words
    .replaceAll(/([?&](?:token|invitation)=)[\w-]+/g, '$1…')
    // Whoever has the address of an order or a gift has what lies behind it.
    .replaceAll(/(\/(?:order|gift|pay|invoice|paper|feed\/own)\/)[\w.-]+/g, '$1…')

/** What waits, what was given up, and what the stand-in was given. `withTokens`: with the links that let somebody in. */
export async function outbox(database: AnyDb, search: string, withTokens: boolean) {
  const like = `%${search.replaceAll(/[\\%_]/g, char => `\\${char}`)}%`
  const rows = await database
    .select()
    .from(mailKept)
    .where(search ? or(sql`${mailKept.recipient} ilike ${like}`, sql`${mailKept.subject} ilike ${like}`) : undefined)
    .orderBy(desc(mailKept.id))
    .limit(100)
  const kept = withTokens
    ? rows
    : rows.map(row => ({ ...row, plain: withoutTokens(row.plain), html: withoutTokens(row.html) }))
  const waiting = await database
    .select({
      id: mailOut.id,
      text: mailOut.text,
      recipient: mailOut.recipient,
      state: mailOut.state,
      tries: mailOut.tries,
      problem: mailOut.problem,
      createdAt: mailOut.createdAt,
      nextTryAt: mailOut.nextTryAt,
      again: sql<boolean>`${mailOut.values} <> '{}'::jsonb and (${mailOut.expiresAt} is null or ${mailOut.expiresAt} > now())`,
    })
    .from(mailOut)
    .where(or(eq(mailOut.state, 'queued'), eq(mailOut.state, 'failed')))
    .orderBy(desc(mailOut.id))
    .limit(100)
  return { standIn: usesStandIn(), kept, waiting }
}
