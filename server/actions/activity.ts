/** Actions on what was counted, and on who did what when. */
import { sql } from 'drizzle-orm'
import { z } from 'zod'
import type { Condition } from '../../core/conditions/condition'
import { activityQuery, listActivity, settleActivity, summarise } from '../services/activity/activity'
import { authorise } from '../services/staff/authorise'
import type { AskedActivity } from '../services/activity/activity'
import { idsSql } from '../services/people/filter/people-filter'
import { authorisePeopleQuery, seesPeople } from '../services/staff/people-seen'
import { readTrace } from '../trace'
import { look, on } from './action'
import type { Ask } from './action'

/**
 * What is counted: who may not look at people learns of nobody in particular, nor of a group what only its members
 * tell.
 */
async function counted({ input, rights, snapshot, nowMs }: Ask<z.infer<typeof activityQuery>>): Promise<AskedActivity> {
  const { holding, ...query } = input
  if (input.person !== undefined) authorise(rights, { kind: 'people', action: 'look' })
  const condition = holding === undefined ? undefined : holdsGroup(holding)
  if (condition) {
    authorise(rights, { kind: 'people', action: 'look' })
    authorisePeopleQuery(rights, { condition })
  }
  await settleActivity()
  const among = condition && (idsSql(condition, { rules: snapshot.rules, nowMs }) ?? nobody)
  return { ...query, among }
}

const nobody = sql`select ''::text where false`
function holdsGroup(holding: string): Condition {
  const [sort, id] = holding.split(' ') as ['level' | 'role' | 'firm', string]
  return sort === 'role'
    ? { role: { anyOf: [id] } }
    : sort === 'level'
      ? { level: { in: [id] } }
      : { firm: { in: [id] } }
}

const traceQuery = z.strictObject({
  subject: z.string().max(300).optional(),
  person: z.string().max(100).optional(),
  /** On the site's own calendar. */
  day: z.iso.date().optional(),
  /** Lines before this one: for the next page. */
  before: z.coerce.number().int().min(1).optional(),
})

export const activityActions = {
  'GET activity': look({
    right: on('activity', 'look'),
    input: activityQuery,
    run: async ask => {
      const asked = await counted(ask)
      return summarise(ask.db, asked, ask.snapshot.rules.index.site.timezone)
    },
  }),
  'GET activity/list': look({
    right: on('activity', 'look'),
    input: activityQuery,
    run: async ask => {
      const asked = await counted(ask)
      const looks = seesPeople(ask.rights, 'name')
      return listActivity(ask.db, asked, ask.snapshot.rules.index.site.timezone, looks)
    },
  }),
  /** Who did what when: by thing, by person, by day. */
  'GET trace': look({
    right: on('activity', 'look'),
    input: traceQuery,
    run: ({ db, input, rights, snapshot }) => {
      const people = seesPeople(rights, 'name')
      if (input.person !== undefined) authorise(rights, { kind: 'people', action: 'look' })
      const told = { people, details: rights.masterKey }
      return readTrace(db, input, { timezone: snapshot.rules.index.site.timezone, told })
    },
  }),
}
