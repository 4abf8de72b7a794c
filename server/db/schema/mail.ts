/** Mail: its texts, on its way, and kept by the stand-in. */
import { sql } from 'drizzle-orm'
import { bigserial, boolean, index, integer, jsonb, pgTable, text } from 'drizzle-orm/pg-core'
import { moment } from './columns'

/** A mail text the operator changed; the others are as Bravik brings them. */
export const mailText = pgTable('mail_text', {
  key: text('key').primaryKey(),
  subject: text('subject').notNull(),
  plain: text('plain').notNull(),
  html: text('html').notNull(),
  changedBy: text('changed_by').notNull(),
  changedAt: moment('changed_at').notNull().defaultNow(),
})

/** Mail on its way: written in the transaction that wants it sent, sent by a job. */
export const mailOut = pgTable(
  'mail_out',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    text: text('text').notNull(),
    recipient: text('recipient').notNull(),
    values: jsonb('values').$type<Record<string, string>>().notNull(),
    state: text('state').$type<'queued' | 'sent' | 'failed'>().notNull().default('queued'),
    tries: integer('tries').notNull().default(0),
    problem: text('problem'),
    /** Somebody waits for it: sent before the others. */
    urgent: boolean('urgent').notNull().default(false),
    nextTryAt: moment('next_try_at').notNull().defaultNow(),
    /** What it says is of no use after this; null: two days. */
    expiresAt: moment('expires_at'),
    createdAt: moment('created_at').notNull().defaultNow(),
    sentAt: moment('sent_at'),
  },
  table => [
    index('mail_out_due')
      .on(table.urgent.desc(), table.nextTryAt)
      .where(sql`${table.state} = 'queued'`),
  ],
)

/** What the bundled stand-in for a mail server was given, shown to staff as the outbox. */
export const mailKept = pgTable(
  'mail_kept',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    sender: text('sender').notNull(),
    recipient: text('recipient').notNull(),
    subject: text('subject').notNull(),
    plain: text('plain').notNull(),
    html: text('html').notNull().default(''),
    receivedAt: moment('received_at').notNull().defaultNow(),
  },
  table => [index('mail_kept_received').on(table.receivedAt)],
)
