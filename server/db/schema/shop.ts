/** What is in store, what is put aside, and codes of offers. */
import { sql } from 'drizzle-orm'
import { bigint, bigserial, check, index, integer, pgTable, serial, text, uniqueIndex } from 'drizzle-orm/pg-core'
import { moment } from './columns'
import { firm, person } from './people'

/** What is in store of a product, and what it costs: counted by the day, so no edition holds it. */
export const stock = pgTable(
  'stock',
  {
    product: text('product').primaryKey(),
    pieces: integer('pieces').notNull().default(0),
    cost: integer('cost').notNull().default(0),
  },
  table => [check('stock_amounts', sql`${table.pieces} >= 0 and ${table.cost} >= 0`)],
)

/** How many pieces there were and are, who said so, and on which way: never changed. */
export const stockMove = pgTable(
  'stock_move',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    at: moment('at').notNull().defaultNow(),
    product: text('product').notNull(),
    before: integer('before').notNull(),
    after: integer('after').notNull(),
    personId: text('person_id'),
    who: text('who').notNull(),
    how: text('how').$type<'counted' | 'import' | 'sold' | 'returned'>().notNull(),
  },
  table => [index('stock_move_product').on(table.product, table.id)],
)

/** Pieces put aside for somebody, for as long as they are kept: still in store, and not free. */
export const stockReserved = pgTable(
  'stock_reserved',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    product: text('product').notNull(),
    pieces: integer('pieces').notNull(),
    personId: text('person_id').references(() => person.id, { onDelete: 'cascade' }),
    firmId: text('firm_id').references(() => firm.id, { onDelete: 'cascade' }),
    note: text('note').notNull().default(''),
    /** Without an end they are kept until they are let go. */
    until: moment('until'),
    madeAt: moment('made_at').notNull(),
    madeBy: text('made_by').notNull(),
    /** Names what was asked for, so that asking twice puts them aside once. */
    request: text('request').notNull().unique(),
    /** Of somebody at the till: whose till it is; of what was ordered and is not paid yet: the order. */
    till: text('till'),
    orderId: text('order_id'),
    /** Of both: who keeps them, a person or a network, hashed; what bounds how much and how long. */ keeper:
      text('keeper'),
  },
  table => [
    index('stock_reserved_keeper').on(table.keeper, table.product),
    index('stock_reserved_product').on(table.product),
    index('stock_reserved_till').on(table.till),
    index('stock_reserved_order').on(table.orderId),
    check('stock_reserved_pieces', sql`${table.pieces} > 0`),
    check('stock_reserved_whom', sql`${table.personId} is null or ${table.firmId} is null`),
  ],
)

/** Codes made at one time for an offer. */
export const codeBatch = pgTable(
  'code_batch',
  {
    id: serial('id').primaryKey(),
    offer: text('offer').notNull(),
    note: text('note').notNull(),
    /** How many were made, and how often each works. */
    count: integer('count').notNull(),
    most: integer('most').notNull(),
    madeAt: moment('made_at').notNull(),
    madeBy: text('made_by').notNull(),
    /** Names what was asked for, so that asking twice makes them once. */ request: text('request').notNull().unique(),
  },
  table => [index('code_batch_offer').on(table.offer)],
)

/** One of them. It is given to somebody where a page shows them one of their own. */
export const singleCode = pgTable(
  'single_code',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    batch: integer('batch')
      .notNull()
      .references(() => codeBatch.id),
    offer: text('offer').notNull(),
    code: text('code').notNull(),
    /** As codes compare. */
    folded: text('folded').notNull(),
    personId: text('person_id').references(() => person.id, { onDelete: 'set null' }),
    givenAt: moment('given_at'),
    stoppedAt: moment('stopped_at'),
  },
  table => [
    uniqueIndex('single_code_folded').on(table.folded),
    index('single_code_free')
      .on(table.offer, table.id)
      .where(sql`${table.givenAt} is null and ${table.stoppedAt} is null`),
    index('single_code_batch').on(table.batch, table.id),
    uniqueIndex('single_code_person')
      .on(table.offer, table.personId)
      .where(sql`${table.stoppedAt} is null`),
  ],
)

/**
 * That somebody gave an offer its code: kept for them until a moment, or used for good. One kept use each; what is no
 * longer kept counts for nothing. Of a guest the hash of what their browser holds.
 */
export const codeUse = pgTable(
  'code_use',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    offer: text('offer').notNull(),
    /** What the offer's code was, so that it ends with it. */
    word: text('word').notNull(),
    codeId: bigint('code_id', { mode: 'number' }).references(() => singleCode.id),
    personId: text('person_id').references(() => person.id, { onDelete: 'set null' }),
    guest: text('guest'),
    takenAt: moment('taken_at').notNull(),
    until: moment('until'),
    usedAt: moment('used_at'),
    /** Names what was asked for, where it is noted by staff: asking twice uses it once. */
    request: text('request').unique(),
  },
  table => [
    index('code_use_offer').on(table.offer),
    index('code_use_code').on(table.codeId),
    uniqueIndex('code_use_person')
      .on(table.personId, table.offer)
      .where(sql`${table.usedAt} is null`),
    uniqueIndex('code_use_guest')
      .on(table.guest, table.offer)
      .where(sql`${table.usedAt} is null`),
    check('code_use_ends', sql`(${table.usedAt} is null) = (${table.until} is not null)`),
  ],
)
