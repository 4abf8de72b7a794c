/** Actions on what was counted, and on who did what when. */
import { z } from 'zod'
import { activityQuery, listActivity, settleActivity, summarise } from '../services/activity/activity'
import { authorise } from '../services/staff/authorise'
import { seesPeople } from '../services/staff/people-seen'
import { readTrace } from '../trace'
import { look, on } from './action'
import type { Ask } from './action'

async function counted({ input, rights }: Ask<z.infer<typeof activityQuery>>): Promise<void> {
  if (input.person !== undefined) authorise(rights, { kind: 'people', action: 'look' })
  await settleActivity()
}

export const traceQuery = z.strictObject({
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
      await counted(ask)
      return summarise(ask.db, ask.input, ask.snapshot.rules.index.site.timezone)
    },
  }),
  'GET activity/list': look({
    right: on('activity', 'look'),
    input: activityQuery,
    run: async ask => {
      await counted(ask)
      const looks = seesPeople(ask.rights, 'name')
      return listActivity(ask.db, ask.input, ask.snapshot.rules.index.site.timezone, looks)
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
