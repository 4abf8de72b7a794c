/** Baskets, tills, orders, and the papers they leave. */
import { sql } from 'drizzle-orm'
import {
  bigint,
  check,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  serial,
  text,
  uniqueIndex,
} from 'drizzle-orm/pg-core'
import type { MoneyBackOf, OrderState } from '../../../core/payments/money-table'
import type { FrozenOrder, InvoiceBody, PostalAddress } from '../../../core/orders/order'
import type { RefundBody } from '../../../core/orders/refund'
import { moment } from './columns'
import { paymentNotice } from './payments'
import { person } from './people'

/** What somebody signed in has in their basket; a guest's is in their browser. */
export const basketLine = pgTable(
  'basket_line',
  {
    personId: text('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    product: text('product').notNull(),
    quantity: integer('quantity').notNull(),
    /** What one piece showed as when they last saw it, minor units. */ seen: integer('seen'),
    addedAt: moment('added_at').notNull(),
  },
  table => [
    primaryKey({ columns: [table.personId, table.product] }),
    index('basket_line_product').on(table.product),
    check('basket_line_quantity', sql`${table.quantity} > 0`),
  ],
)

/** Somebody at the till: what they said so far. `holder`: a person, or a guest by the hash of what their browser holds. */
export const till = pgTable(
  'till',
  {
    holder: text('holder').primaryKey(),
    personId: text('person_id').references(() => person.id, { onDelete: 'cascade' }),
    email: text('email').notNull(),
    name: text('name').notNull(),
    address: jsonb('address').$type<PostalAddress>().notNull(),
    delivery: text('delivery'),
    note: text('note').notNull().default(''),
    /** Whom what it gives is for, by address, where it is a gift. */ gift: text('gift'),
    /** Names the order it becomes, so that placing it twice makes one. */ request: text('request').notNull().unique(),
    touchedAt: moment('touched_at').notNull(),
  },
  table => [index('till_touched').on(table.touchedAt), index('till_person').on(table.personId)],
)

/** What was ordered. `frozen` holds every figure with how it came about, as it was when it was placed: never changed. */
export const shopOrder = pgTable(
  'shop_order',
  {
    id: text('id').primaryKey(),
    /** As people name it. */ number: serial('number').notNull().unique(),
    /** How the payment provider names it. */ reference: text('reference').notNull().unique(),
    request: text('request').notNull().unique(),
    personId: text('person_id').references(() => person.id, { onDelete: 'set null' }),
    email: text('email').notNull(),
    name: text('name').notNull(),
    country: text('country').notNull(),
    state: text('state').$type<OrderState>().notNull().default('placed'),
    edition: integer('edition').notNull(),
    /** Minor units, all of the site's currency. */ net: bigint('net', { mode: 'number' }).notNull(),
    tax: bigint('tax', { mode: 'number' }).notNull(),
    gross: bigint('gross', { mode: 'number' }).notNull(),
    refunded: bigint('refunded', { mode: 'number' }).notNull().default(0),
    frozen: jsonb('frozen').$type<FrozenOrder>().notNull(),
    /** What staff must see to: paid what was not asked for, or more than is there. */ trouble: text('trouble'),
    placedAt: moment('placed_at').notNull(),
    /** Unpaid it is given up then. */ expiresAt: moment('expires_at').notNull(),
    paidAt: moment('paid_at'),
    sentAt: moment('sent_at'),
  },
  table => [
    index('shop_order_person').on(table.personId),
    index('shop_order_email').on(sql`lower(${table.email})`),
    index('shop_order_state').on(table.state, table.number),
    index('shop_order_expires')
      .on(table.expiresAt)
      .where(sql`${table.state} = 'placed'`),
    check('shop_order_sums', sql`${table.net} + ${table.tax} = ${table.gross} and ${table.gross} >= 0`),
    check('shop_order_refunded', sql`${table.refunded} between 0 and ${table.gross}`),
  ],
)

export const orderLine = pgTable(
  'order_line',
  {
    orderId: text('order_id')
      .notNull()
      .references(() => shopOrder.id, { onDelete: 'cascade' }),
    position: integer('position').notNull(),
    product: text('product').notNull(),
    quantity: integer('quantity').notNull(),
    refundedPieces: integer('refunded_pieces').notNull().default(0),
    net: bigint('net', { mode: 'number' }).notNull(),
    tax: bigint('tax', { mode: 'number' }).notNull(),
    gross: bigint('gross', { mode: 'number' }).notNull(),
    /** The categories it lay in when it was bought, with all around them. */
    categories: text('categories')
      .array()
      .notNull()
      .default(sql`'{}'`),
    /** Roles whoever bought it has for as long as it is paid, and the purchase of the level it gives. */
    gives: jsonb('gives').$type<{ roles?: string[]; level?: string }>(),
    purchase: text('purchase'),
    /** Whom it is given to: the buyer, or whoever took the gift. */
    givenTo: text('given_to').references(() => person.id, { onDelete: 'set null' }),
  },
  table => [
    primaryKey({ columns: [table.orderId, table.position] }),
    index('order_line_product').on(table.product),
    index('order_line_given').on(table.givenTo),
    index('order_line_categories').using('gin', table.categories),
    check('order_line_pieces', sql`${table.quantity} > 0 and ${table.refundedPieces} between 0 and ${table.quantity}`),
  ],
)

/**
 * Money given back, one record however it came in: of an order's goods, of a level, or of what was paid besides. What is
 * asked back under a reference is never more than what came in under it. Counts once the provider says it went out.
 */
export const moneyBack = pgTable(
  'money_back',
  {
    id: serial('id').primaryKey(),
    /** Of the payment. */ reference: text('reference').notNull(),
    of: text('of').$type<MoneyBackOf>().notNull(),
    orderId: text('order_id').references(() => shopOrder.id, { onDelete: 'cascade' }),
    /** What was paid besides: by which notice. */
    notice: text('notice').references(() => paymentNotice.id),
    at: moment('at').notNull(),
    by: text('by').notNull(),
    byId: text('by_id'),
    why: text('why').notNull().default(''),
    /** Of goods: of which lines how many pieces, and of the delivery how much. */
    body: jsonb('body').$type<RefundBody>(),
    gross: bigint('gross', { mode: 'number' }).notNull(),
    tax: bigint('tax', { mode: 'number' }).notNull().default(0),
    doneAt: moment('done_at'),
    request: text('request').notNull().unique(),
  },
  table => [
    index('money_back_order').on(table.orderId),
    uniqueIndex('money_back_once')
      .on(table.reference)
      .where(sql`${table.of} = 'level'`),
    uniqueIndex('money_back_notice').on(table.notice),
    check('money_back_of', sql`(${table.of} = 'goods') = (${table.body} is not null and ${table.orderId} is not null)`),
    check('money_back_sum', sql`${table.gross} >= 0`),
  ],
)

/** Invoices and credit notes as they were issued: never changed. Numbers of a series follow one another without gaps. */
export const invoice = pgTable(
  'invoice',
  {
    number: text('number').primaryKey(),
    kind: text('kind').$type<'invoice' | 'credit'>().notNull(),
    orderId: text('order_id')
      .notNull()
      .references(() => shopOrder.id),
    refundId: integer('refund_id')
      .unique()
      .references(() => moneyBack.id),
    issuedAt: moment('issued_at').notNull(),
    body: jsonb('body').$type<InvoiceBody>().notNull(),
  },
  table => [
    index('invoice_order').on(table.orderId),
    uniqueIndex('invoice_once')
      .on(table.orderId)
      .where(sql`${table.kind} = 'invoice'`),
  ],
)

/** The last number of each series; the row is locked by whoever takes the next. */
export const invoiceSeries = pgTable('invoice_series', {
  series: text('series').primaryKey(),
  last: integer('last').notNull(),
})
