import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Connection } from '../../server/db/database'
import { activity } from '../../server/db/activity-table'
import {
  activityQuery,
  dropOldMonths,
  flushActivity,
  listActivity,
  makeMonths,
  record,
  summarise,
} from '../../server/services/activity/activity'
import { freshDatabase } from '../support/database'

let site: Connection & { url: string }
beforeAll(async () => {
  site = await freshDatabase('empty')
})
afterAll(() => site.close())
const query = (part: object = {}) => activityQuery.parse(part)
const tables = async () =>
  (
    await site.db.execute<{ relname: string }>(
      sql`select c.relname from pg_inherits i join pg_class c on c.oid = i.inhrelid join pg_class p on p.oid = i.inhparent where p.relname = 'activity' order by 1`,
    )
  ).map(row => row.relname)

describe('activity', () => {
  it('is written shortly after, counted by day and tier, and every number has its list', async () => {
    record({ kind: 'view', personId: null, tier: 'guest', subjectKind: 'page', subjectId: 'front' })
    record({ kind: 'view', personId: null, tier: 'guest', subjectKind: 'page', subjectId: 'front' })
    record({
      kind: 'refused',
      personId: 'p-1',
      tier: 'friend',
      subjectKind: 'page',
      subjectId: 'course',
      gate: 'gansey',
    })
    record({
      kind: 'refused',
      personId: 'p-1',
      tier: 'friend',
      subjectKind: 'page',
      subjectId: 'course',
      gate: 'gansey',
    })
    await flushActivity(site.db)
    const summary = await summarise(site.db, query(), 'Europe/Dublin')
    expect(summary.perKind).toEqual(
      expect.arrayContaining([
        { kind: 'view', count: 2 },
        { kind: 'refused', count: 2 },
      ]),
    )
    expect(summary.walls).toEqual([{ subjectKind: 'page', subjectId: 'course', gate: 'gansey', count: 2, people: 1 }])
    for (const { day, tier, count } of summary.perDay)
      expect((await listActivity(site.db, query({ day, tier }), 'Europe/Dublin', true)).count).toBe(count)
    // What is the same within a moment is one row that says how often.
    const { rows, count } = await listActivity(
      site.db,
      query({ kind: 'refused', subject: 'course', gate: 'gansey' }),
      'Europe/Dublin',
      true,
    )
    expect([rows.map(row => row.times), count]).toEqual([[2], 2])
    expect((await listActivity(site.db, query({ kind: 'refused', person: 'p-2' }), 'Europe/Dublin', true)).count).toBe(
      0,
    )
  })

  it("counts days on the site's own clock", async () => {
    await site.db.insert(activity).values({ at: new Date('2026-07-01T23:30:00Z'), kind: 'click', tier: 'guest' })
    const { rows } = await listActivity(site.db, query({ day: '2026-07-02', kind: 'click' }), 'Europe/Dublin', true)
    expect(rows).toHaveLength(1)
    expect((await listActivity(site.db, query({ day: '2026-07-02', kind: 'click' }), 'UTC', true)).count).toBe(0)
  })

  it('lies in months that are made ahead, take in what came early, and are dropped when old', async () => {
    const now = new Date('2028-01-15T12:00:00Z')
    const at = (iso: string) => ({ at: new Date(iso), kind: 'view' as const, tier: 'guest' })
    await site.db.insert(activity).values([at('2028-01-03T00:00:00Z'), at('2028-02-29T23:59:59Z')])
    // Several servers at once make each month once.
    await Promise.all([makeMonths(site.db, now), makeMonths(site.db, now), makeMonths(site.db, now)])
    expect(await tables()).toEqual(expect.arrayContaining(['activity_2028_01', 'activity_2028_02', 'activity_2028_03']))
    expect([...(await site.db.execute(sql`select count(*)::int n from activity_2028_02`))]).toEqual([{ n: 1 }])
    await site.db.insert(activity).values(at('2028-03-31T23:59:59Z'))
    expect([...(await site.db.execute(sql`select count(*)::int n from activity_2028_03`))]).toEqual([{ n: 1 }])
    expect(await dropOldMonths(site.db, 1, new Date('2028-03-20T00:00:00Z'))).toEqual(
      expect.arrayContaining(['activity_2028_01']),
    )
    expect(await tables()).not.toContain('activity_2028_01')
    expect(await tables()).toContain('activity_2028_02')
  })
})
