/** Rules, things and what holds at once of the site: one mechanism of versions, settings, and the trace. */
import { sql } from 'drizzle-orm'
import {
  bigint,
  bigserial,
  check,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  serial,
  text,
  unique,
  uniqueIndex,
} from 'drizzle-orm/pg-core'
import type { Back } from '../../../core/editions/step-back'
import type { ReadingOutcome, ReadingState } from '../../../core/outside/reading-states'
import { moment } from './columns'

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

/** Settings outside the rules, by group; each body is parsed on the way in and out. */
export const setting = pgTable('setting', {
  group: text('group').primaryKey(),
  body: jsonb('body').notNull(),
  changedBy: text('changed_by').notNull(),
  changedAt: moment('changed_at').notNull().defaultNow(),
})

/** An address of the site that was asked for lately, with the names of what it carried. */
export const askedAddress = pgTable(
  'asked_address',
  {
    path: text('path').notNull(),
    /** Names of its parameters, parted by `&`. */ carried: text('carried').notNull(),
    count: integer('count').notNull(),
    lastAt: moment('last_at').notNull(),
  },
  table => [primaryKey({ columns: [table.path, table.carried] })],
)

/**
 * Another site that is read, so that its pages can be brought here. One at a time is asked for or under way. Whoever
 * reads it holds it for a while: when they are gone another server goes on.
 */
export const siteReading = pgTable(
  'site_reading',
  {
    id: text('id').primaryKey(),
    address: text('address').notNull(),
    state: text('state').$type<ReadingState>().notNull().default('asked'),
    /** By which way its pages were found; null until they were looked for. */
    foundBy: text('found_by').$type<'site map' | 'links'>(),
    /** Why it came to nothing. */
    why: text('why'),
    personId: text('person_id').notNull(),
    who: text('who').notNull(),
    askedAt: moment('asked_at').notNull(),
    endedAt: moment('ended_at'),
    holder: text('holder'),
    heldUntil: moment('held_until'),
  },
  table => [
    uniqueIndex('site_reading_open')
      .on(sql`(true)`)
      .where(sql`${table.state} in ('asked', 'reading')`),
    check('site_reading_ended', sql`(${table.endedAt} is null) = (${table.state} in ('asked', 'reading'))`),
  ],
)

/** A page or a picture of it, in the order they were found, and what became of it; null: not asked for yet. */
export const siteReadingItem = pgTable(
  'site_reading_item',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    reading: text('reading')
      .notNull()
      .references(() => siteReading.id, { onDelete: 'cascade' }),
    sort: text('sort').$type<'page' | 'picture'>().notNull(),
    address: text('address').notNull(),
    outcome: jsonb('outcome').$type<ReadingOutcome>(),
  },
  table => [
    unique('site_reading_item_once').on(table.reading, table.sort, table.address),
    index('site_reading_item_next').on(table.reading, table.id),
  ],
)

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
