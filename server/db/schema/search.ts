/** What is found, and by which words. */
import { sql } from 'drizzle-orm'
import { bigint, bigserial, index, pgTable, text } from 'drizzle-orm/pg-core'
import type { Need } from '../../../core/search/fragments'
import { tsvector } from './columns'
import { version } from './site'

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
