/** A walk through the draft shows what whoever walks may look at; everything else is as it is live. */
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { CompiledRules } from '../../core/gates/compiled'
import type { StaffRule } from '../../core/staff/staff-rule'
import { closeConnections } from '../../server/db/database'
import type { Connection } from '../../server/db/database'
import { readEnvironmentAnew } from '../../server/environment'
import { draftSeenBy } from '../../server/services/editions/draft-seen'
import { addThing, changeThing } from '../../server/services/editions/things'
import type { Worker } from '../../server/services/live/worker'
import { freshDatabase } from '../support/database'
import { contentsOf, ines, keeperOf, liveRules, snapshotOf } from '../support/world'

let site: Connection & { url: string }
let rules: CompiledRules
beforeAll(async () => {
  site = await freshDatabase('demo')
  process.env.DATABASE_URL = site.url
  readEnvironmentAnew()
  rules = await liveRules(site)
})
afterAll(async () => {
  await closeConnections()
  await site.close()
})

const looking = async (...kinds: StaffRule['kind'][]): Promise<Worker> => ({
  rights: {
    personId: 'p-hand',
    masterKey: false,
    rules: kinds.map(kind => ({ role: 'hand', kind, actions: ['look' as const], whose: 'anyone' as const })),
  },
  snapshot: { ...snapshotOf(rules), contents: await contentsOf(site, 1) },
})

it('is the draft for whoever may look at it, and live where they may not; what is new and not for them is not there', async () => {
  const keeper = keeperOf(rules)
  await changeThing(site.db, keeper, { kind: 'page', key: 'visit' }, { title: 'A secret plan' }, ines)
  await addThing(site.db, keeper, 'page', { id: 'new-page', path: '/new-page', title: 'Not yet' }, ines)
  const block = { id: 'new-part', kind: 'text', in: { page: 'new-page' }, body: { markdown: 'Not yet either.' } }
  await addThing(site.db, keeper, 'block', block, ines)
  const titles = async (worker: Worker) => {
    const { index } = (await draftSeenBy(site.db, worker)).rules
    return [index.get('page', 'visit')?.title, index.get('page', 'new-page')?.title, index.has('block', 'new-part')]
  }
  const [live] = [rules.index.get('page', 'visit')!.title]
  expect(await titles(keeper)).toEqual(['A secret plan', 'Not yet', true])
  expect(await titles(await looking('gates'))).toEqual([live, undefined, false])
  // A part of what is new and hidden is hidden with it, whoever may look at parts.
  expect(await titles(await looking('gates', 'blocks-text'))).toEqual([live, undefined, false])
  expect(await titles(await looking('gates', 'pages'))).toEqual(['A secret plan', 'Not yet', false])
})
