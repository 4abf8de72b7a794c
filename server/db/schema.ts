/** Everything Bravik keeps. Rules and things are versioned rows; people and all that is counted by the day are relational. */
import { sql } from 'drizzle-orm'
import {
  bigint,
  bigserial,
  boolean,
  check,
  customType,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  serial,
  smallint,
  text,
  timestamp,
  unique,
  uniqueIndex,
} from 'drizzle-orm/pg-core'
import type { Back } from '../../core/editions/step-back'
import type { Need } from '../../core/search/fragments'
import type { MoneyBackOf, NoticeBecame, NoticeKind, OrderState, PurchaseState } from '../../core/payments/money-table'
import type { FrozenOrder, InvoiceBody, PostalAddress } from '../../core/orders/order'
import type { RefundBody } from '../../core/orders/refund'

/** Bytes, as `bytea`. */
const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' })
/** Lexemes with their places (PostgreSQL, 8.11.1). */
const tsvector = customType<{ data: string }>({ dataType: () => 'tsvector' })
const moment = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** One row: the site itself, which edition is live, and what moved. */
export const siteState = pgTable(
  'site_state',
  {
    id: integer('id').primaryKey().default(1),
    name: text('name').notNull(),
    timezone: text('timezone').notNull(),
    currency: text('currency').notNull(),
    locale: text('locale').notNull().default('en'),
    liveEdition: integer('live_edition').notNull().default(0),
    /** Moves with every change of the draft. */
    draftVersion: bigint('draft_version', { mode: 'number' }).notNull().default(0),
    /** Moves with every change of what holds at once: settings, firms, staff rules. */
    settingsVersion: bigint('settings_version', { mode: 'number' }).notNull().default(0),
  },
  table => [check('site_state_single', sql`${table.id} = 1`)],
)

export const edition = pgTable('edition', {
  number: integer('number').primaryKey(),
  publishedAt: moment('published_at').notNull().defaultNow(),
  publishedBy: text('published_by').notNull(),
  note: text('note').notNull().default(''),
})

/**
 * Rules and things, one mechanism. One row per version: it holds from
 * `edition_from` until `edition_to` (exclusive, null while nothing follows).
 * Rows of the edition after the live one are the draft; the live row of
 * whatever the draft changes ends there. A body of null says it is removed.
 * The migration adds that versions of one thing never overlap, and that an
 * address belongs to one thing in each edition.
 */
export const version = pgTable(
  'version',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    kind: text('kind').notNull(),
    key: text('key').notNull(),
    position: doublePrecision('position').notNull(),
    /** What rules see. */
    body: jsonb('body'),
    /** Of things: what only whoever opens them is sent. */
    content: jsonb('content'),
    path: text('path').generatedAlwaysAs(sql`body ->> 'path'`),
    editionFrom: integer('edition_from').notNull(),
    editionTo: integer('edition_to'),
    /** Moves with every change of a draft row; what somebody says they were looking at. */
    revision: integer('revision').notNull().default(1),
    changedBy: text('changed_by').notNull(),
    changedById: text('changed_by_id'),
    changedAt: moment('changed_at').notNull().defaultNow(),
  },
  table => [
    unique('version_of').on(table.kind, table.key, table.editionFrom),
    index('version_from').on(table.editionFrom),
    index('version_to').on(table.editionTo),
    check('version_span', sql`${table.editionTo} is null or ${table.editionTo} > ${table.editionFrom}`),
  ],
)

/** An edition to be published at a time: checked again then, and refused as a whole where it no longer fits. */
export const plannedEdition = pgTable(
  'planned_edition',
  {
    id: serial('id').primaryKey(),
    at: moment('at').notNull(),
    note: text('note').notNull().default(''),
    /** Names of the changes, `kind key`; null is all there are then. */
    chosen: jsonb('chosen').$type<string[] | null>(),
    plannedBy: text('planned_by').notNull(),
    plannedById: text('planned_by_id'),
    state: text('state').$type<'waiting' | 'published' | 'refused' | 'withdrawn'>().notNull().default('waiting'),
    /** The edition it became, or why it became none. */
    edition: integer('edition'),
    problem: text('problem'),
    decidedAt: moment('decided_at'),
  },
  table => [
    index('planned_edition_waiting')
      .on(table.at)
      .where(sql`${table.state} = 'waiting'`),
  ],
)

/** What somebody's change of the draft put where, for taking it back. */
export const draftStep = pgTable(
  'draft_step',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    personId: text('person_id').notNull(),
    madeAt: moment('made_at').notNull(),
    back: jsonb('back').$type<Back[]>().notNull(),
  },
  table => [index('draft_step_of').on(table.personId, table.id)],
)

/** Who made a thing and who looks after it; holds at once, whatever edition it is in. */
export const thing = pgTable(
  'thing',
  {
    kind: text('kind').notNull(),
    key: text('key').notNull(),
    madeBy: text('made_by'),
    madeAt: moment('made_at').notNull().defaultNow(),
    assignedTo: text('assigned_to'),
  },
  table => [primaryKey({ columns: [table.kind, table.key] })],
)

export const person = pgTable(
  'person',
  {
    id: text('id').primaryKey(),
    name: text('name').notNull(),
    email: text('email').notNull(),
    passwordHash: text('password_hash'),
    /** The address is known to be theirs. Nobody signs in before that, nor before they are approved. */
    confirmedAt: moment('confirmed_at'),
    /** A link mailed to the address was followed: what was ordered or left there for somebody is theirs. */
    provenAt: moment('proven_at'),
    approvedAt: moment('approved_at'),
    declinedAt: moment('declined_at'),
    suspendedAt: moment('suspended_at'),
    /** Profile facts the operator defined, by the fact's id. */
    facts: jsonb('facts').$type<Record<string, string | number | boolean>>().notNull().default({}),
    /** How the payment stand-in answers when a level renews by itself. */
    cardAnswer: text('card_answer').notNull().default('approve'),
    createdAt: moment('created_at').notNull().defaultNow(),
    /** What people are found by, ready for comparing: folding a hundred thousand names anew for each search takes longer than the search. */
    findText: text('find_text').generatedAlwaysAs(sql`lower(name || ' ' || email)`),
  },
  table => [
    uniqueIndex('person_email').on(sql`lower(${table.email})`),
    index('person_name').on(sql`lower(${table.name})`, table.id),
    index('person_find').using('gin', sql`${table.findText} gin_trgm_ops`),
    index('person_facts').using('gin', sql`${table.facts} jsonb_path_ops`),
    index('person_waiting')
      .on(table.createdAt)
      .where(sql`${table.approvedAt} is null and ${table.declinedAt} is null`),
  ],
)

/** What staff write down about a person, for each other. */
export const personNote = pgTable(
  'person_note',
  {
    id: serial('id').primaryKey(),
    personId: text('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    at: moment('at').notNull().defaultNow(),
    by: text('by').notNull(),
    text: text('text').notNull(),
  },
  table => [index('person_note_person').on(table.personId)],
)

/** Signed-in browsers. The cookie holds the token, the row only its SHA-256. */
export const session = pgTable(
  'session',
  {
    tokenHash: text('token_hash').primaryKey(),
    personId: text('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    createdAt: moment('created_at').notNull().defaultNow(),
    expiresAt: moment('expires_at').notNull(),
    seenAt: moment('seen_at').notNull().defaultNow(),
    /** Told to the person, so that they know which browser is meant. */
    agent: text('agent').notNull().default(''),
    network: text('network').notNull().default(''),
  },
  table => [index('session_person').on(table.personId)],
)

/** Tries within a window, by hashed key: kept here so that a restart forgets none. */
export const throttle = pgTable('throttle', {
  key: text('key').primaryKey(),
  tries: integer('tries').notNull(),
  until: moment('until').notNull(),
})

export const membership = pgTable(
  'membership',
  {
    id: serial('id').primaryKey(),
    personId: text('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    level: text('level').notNull(),
    since: moment('since').notNull(),
    /** Exclusive: held at an instant when since <= instant < until. With grace, later than what is paid. */
    until: moment('until'),
    grantedBy: text('granted_by').notNull(),
    source: text('source').$type<'staff' | 'signUp' | 'bought' | 'import' | 'demo'>().notNull().default('staff'),
    /** Of a bought one: what is paid for, what was paid, and whether it goes on by itself, and as which level. */
    paidFrom: moment('paid_from'),
    paidUntil: moment('paid_until'),
    paidAmount: integer('paid_amount'),
    /** The day of the month its periods end on, where the month has it; null: the day the next one begins. */
    anchorDay: smallint('anchor_day'),
    renews: boolean('renews').notNull().default(false),
    renewAs: text('renew_as'),
    endedBy: text('ended_by'),
  },
  table => [
    index('membership_person').on(table.personId),
    index('membership_level').on(table.level, table.personId),
    index('membership_renewal')
      .on(table.paidUntil)
      .where(sql`${table.renews}`),
    check('membership_span', sql`${table.until} is null or ${table.until} >= ${table.since}`),
  ],
)

export const roleGrant = pgTable(
  'role_grant',
  {
    personId: text('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    role: text('role').notNull(),
    grantedBy: text('granted_by').notNull(),
    grantedAt: moment('granted_at').notNull().defaultNow(),
  },
  table => [primaryKey({ columns: [table.personId, table.role] }), index('role_grant_role').on(table.role)],
)

/** People who buy together: what a firm holds, all its people hold. */
export const firm = pgTable('firm', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  createdAt: moment('created_at').notNull().defaultNow(),
})

/** A person belongs to one firm at most. */
export const firmMember = pgTable(
  'firm_member',
  {
    personId: text('person_id')
      .primaryKey()
      .references(() => person.id, { onDelete: 'cascade' }),
    firmId: text('firm_id')
      .notNull()
      .references(() => firm.id, { onDelete: 'cascade' }),
    owner: boolean('owner').notNull().default(false),
    since: moment('since').notNull().defaultNow(),
  },
  table => [index('firm_member_firm').on(table.firmId)],
)

export const firmLevel = pgTable(
  'firm_level',
  {
    id: serial('id').primaryKey(),
    firmId: text('firm_id')
      .notNull()
      .references(() => firm.id, { onDelete: 'cascade' }),
    level: text('level').notNull(),
    since: moment('since').notNull(),
    until: moment('until'),
    grantedBy: text('granted_by').notNull(),
  },
  table => [
    index('firm_level_firm').on(table.firmId),
    check('firm_level_span', sql`${table.until} is null or ${table.until} >= ${table.since}`),
  ],
)

export const firmRole = pgTable(
  'firm_role',
  {
    firmId: text('firm_id')
      .notNull()
      .references(() => firm.id, { onDelete: 'cascade' }),
    role: text('role').notNull(),
    grantedBy: text('granted_by').notNull(),
  },
  table => [primaryKey({ columns: [table.firmId, table.role] })],
)

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

/** Settings outside the rules, by group; each body is parsed on the way in and out. */
export const setting = pgTable('setting', {
  group: text('group').primaryKey(),
  body: jsonb('body').notNull(),
  changedBy: text('changed_by').notNull(),
  changedAt: moment('changed_at').notNull().defaultNow(),
})

/** What a staff role may do in the console. Holds at once, and leaves a trace. */
export const staffRule = pgTable(
  'staff_rule',
  {
    id: serial('id').primaryKey(),
    role: text('role').notNull(),
    body: jsonb('body').notNull(),
  },
  table => [index('staff_rule_role').on(table.role)],
)

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

/** Whether people may ask for a level or role, and what they are asked. `target` is such as `role stockist`. */
export const applicationForm = pgTable('application_form', {
  target: text('target').primaryKey(),
  open: boolean('open').notNull().default(true),
  intro: text('intro').notNull().default(''),
  questions: jsonb('questions').$type<string[]>().notNull().default([]),
})

export const application = pgTable(
  'application',
  {
    id: serial('id').primaryKey(),
    personId: text('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    target: text('target').notNull(),
    answers: jsonb('answers').$type<{ question: string; answer: string }[]>().notNull().default([]),
    state: text('state').$type<'waiting' | 'accepted' | 'declined'>().notNull().default('waiting'),
    words: text('words').notNull().default(''),
    createdAt: moment('created_at').notNull().defaultNow(),
    decidedBy: text('decided_by'),
    decidedAt: moment('decided_at'),
  },
  table => [
    uniqueIndex('application_waiting')
      .on(table.personId, table.target)
      .where(sql`${table.state} = 'waiting'`),
    index('application_state').on(table.state, table.createdAt),
  ],
)

/** One change of many people at once, with what each of them gained or lost, so that it can be undone. */
export const bulkChange = pgTable('bulk_change', {
  id: serial('id').primaryKey(),
  at: moment('at').notNull().defaultNow(),
  byId: text('by_id'),
  by: text('by').notNull(),
  what: jsonb('what').notNull(),
  undo: jsonb('undo').notNull(),
  people: integer('people').notNull(),
  undoneAt: moment('undone_at'),
  undoneBy: text('undone_by'),
})

/** Pictures by names that say what they are (core/pages/picture-file.ts); versions of parts name them. */
export const picture = pgTable(
  'picture',
  {
    name: text('name').primaryKey(),
    size: integer('size').notNull(),
    bytes: bytea('bytes').notNull(),
    madeBy: text('made_by').notNull(),
    madeAt: moment('made_at').notNull(),
    /** When somebody last named it: what nothing names is kept for a day. */
    namedAt: moment('named_at').notNull(),
  },
  table => [index('picture_made').on(table.madeBy, table.madeAt)],
)

/** Smaller sizes of a picture, made when it was kept. */
export const pictureSize = pgTable(
  'picture_size',
  {
    name: text('name')
      .notNull()
      .references(() => picture.name, { onDelete: 'cascade' }),
    /** Pixels. */
    width: integer('width').notNull(),
    bytes: bytea('bytes').notNull(),
  },
  table => [primaryKey({ columns: [table.name, table.width] })],
)

/** Files people fetch, by names that say what they are (core/files/stored-file.ts). Their bytes lie in a folder. */
export const file = pgTable(
  'file',
  {
    name: text('name').primaryKey(),
    size: bigint('size', { mode: 'number' }).notNull(),
    /** Its words, as far as they can be read; null while nobody has tried. */
    words: text('words'),
    madeBy: text('made_by').notNull(),
    madeAt: moment('made_at').notNull(),
    /** When somebody last named it: what nothing names is kept for a day. */
    namedAt: moment('named_at').notNull(),
    /** When its bytes were last compared with its name; null: not since they came. */
    checkedAt: moment('checked_at'),
    /** What was wrong with them then. */
    damage: text('damage'),
  },
  table => [
    index('file_damaged')
      .on(table.name)
      .where(sql`${table.damage} is not null`),
    index('file_unread')
      .on(table.madeAt)
      .where(sql`${table.words} is null`),
  ],
)

/** A file on its way in: its bytes so far lie in the folder, under this id. */
export const upload = pgTable(
  'upload',
  {
    id: text('id').primaryKey(),
    personId: text('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    size: bigint('size', { mode: 'number' }).notNull(),
    received: bigint('received', { mode: 'number' }).notNull().default(0),
    /** Who writes at it now, and until when they need not be asked whether they still do. */
    writer: text('writer'),
    writerUntil: moment('writer_until'),
    touchedAt: moment('touched_at').notNull(),
  },
  table => [index('upload_person').on(table.personId), index('upload_touched').on(table.touchedAt)],
)

/** The private address of a person's feed: made from `nonce` and the secret, found by its hash. A new one ends the old. */
export const feedAddress = pgTable('feed_address', {
  personId: text('person_id')
    .primaryKey()
    .references(() => person.id, { onDelete: 'cascade' }),
  nonce: text('nonce').notNull(),
  tokenHash: text('token_hash').notNull().unique(),
  madeAt: moment('made_at').notNull(),
})

/** What was fetched on a day of the site, by whom: a person, or a guest's network, hashed. A file counts once a day. */
export const fetched = pgTable(
  'fetched',
  {
    day: date('day', { mode: 'string' }).notNull(),
    who: text('who').notNull(),
    download: text('download').notNull(),
  },
  table => [primaryKey({ columns: [table.day, table.who, table.download] })],
)

/**
 * What the live edition is found by, piece by piece (core/search/fragments.ts). `key` names what somebody must be
 * admitted to for the piece to be found (`search_key`): a search asks for the keys that admit whoever asks.
 */
export const searchText = pgTable(
  'search_text',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    versionId: bigint('version_id', { mode: 'number' })
      .notNull()
      .references(() => version.id, { onDelete: 'cascade' }),
    kind: text('kind').notNull(),
    thing: text('thing').notNull(),
    need: text('need').$type<Need>().notNull(),
    /** Conditions of the passages it stands in, in JSON. */
    within: text('within').notNull(),
    key: bigint('key', { mode: 'number' }).notNull(),
    title: text('title').notNull(),
    words: text('words').notNull(),
    found: tsvector('found').notNull(),
  },
  table => [
    index('search_text_found').using('gin', table.key, table.found),
    index('search_text_version').on(table.versionId),
    index('search_text_key').on(table.key),
  ],
)

/** What a piece takes: a thing that is found, and one that shows the piece, by the names of their weaves, hashed. */
export const searchKey = pgTable('search_key', {
  key: bigint('key', { mode: 'number' }).primaryKey(),
  found: text('found').notNull(),
  shows: text('shows').notNull(),
  need: text('need').$type<Need>().notNull(),
  within: text('within').notNull(),
})

/** Every word there is in what is found, for telling what a mistyped one may have meant. */
export const searchWord = pgTable('search_word', { word: text('word').primaryKey() }, table => [
  index('search_word_like').using('gin', sql`${table.word} gin_trgm_ops`),
])

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

/** Who did what when. Never changed, never removed by the application. */
export const trace = pgTable(
  'trace',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    at: moment('at').notNull().defaultNow(),
    personId: text('person_id'),
    who: text('who').notNull(),
    action: text('action').notNull(),
    subject: text('subject').notNull(),
    detail: jsonb('detail').notNull().default({}),
  },
  table => [
    index('trace_at').on(table.at),
    index('trace_subject').on(table.subject, table.id),
    index('trace_person').on(table.personId, table.id),
  ],
)

/** Links that work once and for a while: to confirm, to reset, to invite, to make the first keeper. Stored hashed. */
export const oneTimeLink = pgTable('one_time_link', {
  tokenHash: text('token_hash').primaryKey(),
  purpose: text('purpose').notNull(),
  personId: text('person_id').references(() => person.id, { onDelete: 'cascade' }),
  data: jsonb('data').notNull().default({}),
  expiresAt: moment('expires_at').notNull(),
  usedAt: moment('used_at'),
})
