import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Connection } from '../../server/db/database'
import { asSystem, saveEntry } from '../../server/services/editions/entries'
import { publish } from '../../server/services/editions/publish'
import { readEnvironmentAnew } from '../../server/environment'
import { freshDatabase } from '../support/database'
import { entriesAt } from '../support/world'

/** The snapshot is one per process and reads DATABASE_URL, so it is loaded once that is set. */
let site: Connection & { url: string }
let services: typeof import('../../server/services/live/snapshot')
const actor = { id: null, name: 'test' }

beforeAll(async () => {
  site = await freshDatabase('demo')
  process.env.DATABASE_URL = site.url
  readEnvironmentAnew()
  services = await import('../../server/services/live/snapshot')
  await services.follow()
})
afterAll(async () => {
  const { closeConnections } = await import('../../server/db/database')
  await services.unfollow()
  await closeConnections()
  await site.close()
})

async function publishNote(note: string): Promise<number> {
  const draft = await entriesAt(site.db, (await services.snapshot()).edition + 1)
  const trade = draft.find(entry => entry.kind === 'gate' && entry.key === 'trade')!
  await saveEntry(site.db, {
    permit: asSystem,
    kind: 'gate',
    key: 'trade',
    body: { ...(trade.body as object), note },
    expects: { id: trade.id, revision: trade.revision },
    actor,
  })
  return publish(site.db, { authorise: asSystem, note, expects: (await services.snapshot()).edition, actor })
}
async function editionBecomes(number: number): Promise<void> {
  for (let tries = 0; tries < 200 && (await services.snapshot()).edition !== number; tries++)
    await new Promise(resolve => setTimeout(resolve, 25))
  expect((await services.snapshot()).edition).toBe(number)
}

describe('the snapshot', () => {
  it('follows what is published', async () => {
    await editionBecomes(await publishNote('one'))
  })

  it('catches up after its listener was dropped', async () => {
    const ended =
      await site.sql`select pg_terminate_backend(pid) from pg_stat_activity where query ilike 'listen %' and pid <> pg_backend_pid()`
    expect(ended.length).toBeGreaterThan(0)
    await editionBecomes(await publishNote('two'))
    await editionBecomes(await publishNote('three'))
  })
})
