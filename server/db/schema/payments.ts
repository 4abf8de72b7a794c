/** Buying levels, and what the payment provider says. */
import { sql } from 'drizzle-orm'
import { bigint, boolean, index, integer, jsonb, pgTable, serial, text, uniqueIndex } from 'drizzle-orm/pg-core'
import type { NoticeBecame, NoticeKind, PurchaseState } from '../../../core/payments/money-table'
import { moment } from './columns'
import { membership, person } from './people'

/** Buying a level. `reference` is how the payment provider names it; notices about it may come twice or out of order. */
export const purchase = pgTable(
  'purchase',
  {
    reference: text('reference').primaryKey(),
    /** As staff name it: what the provider calls it opens the page where it is paid. */
    number: serial('number').notNull().unique(),
    personId: text('person_id').references(() => person.id, { onDelete: 'set null' }),
    level: text('level').notNull(),
    sort: text('sort').$type<'new' | 'renewal' | 'upgrade'>().notNull(),
    amount: integer('amount').notNull(),
    credit: integer('credit').notNull().default(0),
    /** What it was begun with, whatever the rules say when it is paid: the price of a whole period, and its length; `once` is for good. */
    price: integer('price'),
    period: text('period'),
    state: text('state').$type<PurchaseState>().notNull().default('pending'),
    /** Begun by the application to renew a membership, not by a person at the till. */
    byItself: boolean('by_itself').notNull().default(false),
    expiresAt: moment('expires_at'),
    /** What it brought, so that money given back takes exactly that. */
    grantedFrom: moment('granted_from'),
    grantedUntil: moment('granted_until'),
    /** The money that time stands for: what was paid, and what was credited of earlier purchases. */
    worth: bigint('worth', { mode: 'number' }),
    /** Of which purchases so much was credited. */
    credits: jsonb('credits').$type<{ reference: string; amount: number }[]>().notNull().default([]),
    membershipId: integer('membership_id').references(() => membership.id, { onDelete: 'set null' }),
    createdAt: moment('created_at').notNull().defaultNow(),
    settledAt: moment('settled_at'),
  },
  table => [
    uniqueIndex('purchase_one_pending')
      .on(table.personId)
      .where(sql`${table.state} = 'pending' and not ${table.byItself}`),
    index('purchase_person').on(table.personId),
    index('purchase_level')
      .on(table.level)
      .where(sql`${table.state} = 'pending'`),
  ],
)

/**
 * Every notice the provider sent, by its own id, so that one sent twice counts once: the record of all money that came
 * in and went out, each with what became of it.
 */
export const paymentNotice = pgTable(
  'payment_notice',
  {
    id: text('id').primaryKey(),
    /** As staff name it. */ number: serial('number').notNull().unique(),
    reference: text('reference').notNull(),
    kind: text('kind').$type<NoticeKind>().notNull(),
    /** Minor units; null where neither the provider nor what it is about says so. */
    amount: bigint('amount', { mode: 'number' }),
    /** Null of those of before it was kept. */
    became: text('became').$type<NoticeBecame>(),
    /** What nobody asked for, seen to by staff. */
    seenAt: moment('seen_at'),
    seenBy: text('seen_by'),
    receivedAt: moment('received_at').notNull().defaultNow(),
  },
  table => [
    index('payment_notice_reference').on(table.reference, table.kind),
    index('payment_notice_unseen')
      .on(table.number)
      .where(sql`${table.seenAt} is null and ${table.became} in ('besides', 'unasked')`),
  ],
)

/**
 * Notices the stand-in for a provider still has to send: written in the
 * transaction that begins or answers a purchase, so that none is lost with a server.
 */
export const noticeDue = pgTable(
  'notice_due',
  {
    id: text('id').primaryKey(),
    /** Of a purchase of a level, or of an order. */ reference: text('reference').notNull(),
    kind: text('kind').$type<NoticeKind>().notNull(),
    /** Of an order: minor units, and which refund it is about. */ amount: bigint('amount', { mode: 'number' }),
    refund: integer('refund'),
    tries: integer('tries').notNull().default(0),
    nextTryAt: moment('next_try_at').notNull().defaultNow(),
  },
  table => [index('notice_due_next').on(table.nextTryAt)],
)
