/** Pictures and files, on their way in and fetched. */
import { sql } from 'drizzle-orm'
import { bigint, date, index, integer, pgTable, primaryKey, text } from 'drizzle-orm/pg-core'
import { bytea, moment } from './columns'
import { person } from './people'

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
