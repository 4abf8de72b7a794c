/** People, firms, what they hold and ask for, and how they come in. */
import { sql } from 'drizzle-orm'
import {
  boolean,
  check,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  serial,
  smallint,
  text,
  uniqueIndex,
} from 'drizzle-orm/pg-core'
import { moment } from './columns'

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
    index('membership_person').on(table.personId, table.level, table.since, table.until),
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
  /** What is said of the firm, by the fact's id: it counts for its people, where they say nothing of their own. */
  facts: jsonb('facts').$type<Record<string, string>>().notNull().default({}),
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

/** Links that work once and for a while: to confirm, to reset, to invite, to make the first keeper. Stored hashed. */
export const oneTimeLink = pgTable('one_time_link', {
  tokenHash: text('token_hash').primaryKey(),
  purpose: text('purpose').notNull(),
  personId: text('person_id').references(() => person.id, { onDelete: 'cascade' }),
  data: jsonb('data').notNull().default({}),
  expiresAt: moment('expires_at').notNull(),
  usedAt: moment('used_at'),
})
