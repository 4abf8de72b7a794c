/**
 * What people do on the site. Partitioned by month, which Drizzle cannot say:
 * the table is made by hand in a migration, and months by `services/activity`.
 */
import { integer, jsonb, pgTable, text, timestamp } from 'drizzle-orm/pg-core'
import type { ActivityKind } from '../../core/activity-kinds'

export const activity = pgTable('activity', {
  at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
  kind: text('kind').$type<ActivityKind>().notNull(),
  personId: text('person_id'),
  /** The level or role that says most about who it was; `guest`, `signed-in` or `staff` else. */
  tier: text('tier').notNull(),
  subjectKind: text('subject_kind'),
  subjectId: text('subject_id'),
  /** Of a refusal: the gate that refused. */
  gate: text('gate'),
  /** So often within a moment: what is the same then is one row. */
  times: integer('times').notNull().default(1),
  detail: jsonb('detail').$type<Record<string, unknown>>().notNull().default({}),
})
