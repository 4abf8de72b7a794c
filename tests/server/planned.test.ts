import { eq } from 'drizzle-orm'
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import type { Connection } from '../../server/db/database'
import { mailOut, person, plannedEdition, siteState } from '../../server/db/schema'
import { readEnvironmentAnew } from '../../server/environment'
import { Problem } from '../../server/problem'
import { changeThing } from '../../server/services/editions/things'
import { asSystem, removeEntry, saveEntry, undoChange } from '../../server/services/editions/entries'
import { listPlanned, planEdition, publishDue, withdrawPlan } from '../../server/services/editions/planned'
import { publish } from '../../server/services/editions/publish'
import { giveHolding } from '../../server/services/people/holdings'
import type { Worker } from '../../server/services/live/worker'
import { freshDatabase } from '../support/database'
import { contentsOf, ines, keeperOf, liveRules } from '../support/world'

/** Whoever carries a plan out works over the live rules of the process, so these read this database. */
let site: Connection & { url: string }
let keeper: Worker
const start = Date.parse('2026-12-01T10:00:00Z')
/** Moves the clock of this process, and with it what the database's is read as. */
const at = (ms: number) => {
  process.env.BRAVIK_CLOCK_OFFSET_MS = String(ms - Date.now())
  readEnvironmentAnew()
}
const hour = 3_600_000

beforeAll(async () => {
  site = await freshDatabase('demo')
  process.env.DATABASE_URL = site.url
  readEnvironmentAnew()
  keeper = keeperOf(await liveRules(site))
  at(start)
})
afterEach(() => at(start))
afterAll(async () => {
  delete process.env.BRAVIK_CLOCK_OFFSET_MS
  readEnvironmentAnew()
  const { closeConnections } = await import('../../server/db/database')
  const { unfollow } = await import('../../server/services/live/snapshot')
  await unfollow()
  await closeConnections()
  await site.close()
})

const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'none',
    (error: unknown) => (error instanceof Problem ? error.code : String(error)),
  )
const live = async () => (await site.db.select({ live: siteState.liveEdition }).from(siteState))[0]!.live
const retitle = (key: string, title: string) => changeThing(site.db, keeper, { kind: 'page', key }, { title }, ines)
const plan = (afterHours: number, chosen?: string[]) =>
  planEdition(
    site.db,
    keeper,
    { at: new Date(start + afterHours * hour).toISOString(), note: 'By night', ...(chosen ? { chosen } : {}) },
    ines,
  )
const stateOf = async (id: number) => (await site.db.select().from(plannedEdition).where(eq(plannedEdition.id, id)))[0]!

describe('an edition planned for a time', () => {
  it('goes live then and not before, of the changes that were chosen', async () => {
    await retitle('visit', 'Come by night')
    await retitle('ferry', 'Not yet')
    const { id } = await plan(8, ['page visit'])
    at(start + 7.9 * hour)
    expect([await publishDue(site.db), await live()]).toEqual([0, 1])
    at(start + 8 * hour)
    expect([await publishDue(site.db), await live()]).toEqual([1, 2])
    expect(await stateOf(id)).toMatchObject({ state: 'published', edition: 2 })
    const { index } = await contentsOf(site, 2)
    expect([index.get('page', 'visit')!.title, index.get('page', 'ferry')!.title]).toEqual(['Come by night', 'Boats'])
    await undoChange(site.db, { permit: asSystem, kind: 'page', key: 'ferry', actor: ines })
  })

  it('is carried out once, however many servers look', async () => {
    await retitle('visit', 'Once')
    await plan(1)
    at(start + 2 * hour)
    const counts = await Promise.all([publishDue(site.db), publishDue(site.db), publishDue(site.db)])
    expect([counts.reduce((sum, one) => sum + one), await live()]).toEqual([1, 3])
  })

  it('publishes nothing where it no longer fits, and tells its owner by mail and in the console', async () => {
    await retitle('ferry', 'Gone by then')
    await retitle('visit', 'Stays')
    const { id } = await plan(1, ['page ferry', 'page visit'])
    await undoChange(site.db, { permit: asSystem, kind: 'page', key: 'ferry', actor: ines })
    at(start + 2 * hour)
    expect([await publishDue(site.db), await live()]).toEqual([0, 3])
    expect(await stateOf(id)).toMatchObject({ state: 'refused' })
    expect((await listPlanned(site.db)).find(one => one.id === id)?.problem).toContain('still in the draft')
    const mails = await site.db.select().from(mailOut).where(eq(mailOut.text, 'planned-refused'))
    expect(mails).toMatchObject([{ recipient: 'ines@wexlow.example', values: { note: 'By night' } }])
    await withdrawPlan(site.db, keeper, id, ines)
    expect((await listPlanned(site.db)).some(one => one.id === id)).toBe(false)
  })

  it('is checked again: what could go when it was planned may be held by then', async () => {
    const body = { id: 'patron', name: 'Patron', rank: 40 }
    await saveEntry(site.db, { permit: asSystem, kind: 'level', key: 'patron', body, expects: null, actor: ines })
    await publish(site.db, {
      authorise: asSystem,
      note: '',
      expects: await live(),
      actor: ines,
      chosen: ['level patron'],
    })
    const { id: row, revision } = (await contentsOf(site)).get('level', 'patron')!
    await removeEntry(site.db, {
      permit: asSystem,
      kind: 'level',
      key: 'patron',
      expects: { id: row, revision },
      actor: ines,
    })
    const { id } = await plan(1, ['level patron'])
    await giveHolding(
      site.db,
      keeperOf(await liveRules(site, await live())),
      'p-pia',
      { what: 'level', level: 'patron' },
      ines,
    )
    at(start + 2 * hour)
    expect(await publishDue(site.db)).toBe(0)
    expect(await stateOf(id)).toMatchObject({ state: 'refused', problem: 'Held by 1 person.' })
    await undoChange(site.db, { permit: asSystem, kind: 'level', key: 'patron', actor: ines })
  })

  it('is planned by whoever may publish it, for a time to come, and carried out only while they still may', async () => {
    const before = await live()
    expect(await codeOf(plan(-1))).toBe('bad-input')
    const bare: Worker = { ...keeper, rights: { personId: 'p-tomas', masterKey: false, rules: [] } }
    const asked = { at: new Date(start + hour).toISOString(), note: '' }
    expect(await codeOf(planEdition(site.db, bare, asked, ines))).toBe('not-allowed')
    const { id } = await plan(1)
    await site.db.update(person).set({ suspendedAt: new Date() }).where(eq(person.id, 'p-ines'))
    at(start + 2 * hour)
    expect([await publishDue(site.db), await live()]).toEqual([0, before])
    await site.db.update(person).set({ suspendedAt: null }).where(eq(person.id, 'p-ines'))
    expect((await stateOf(id)).problem).toContain('no longer')
  })
})
