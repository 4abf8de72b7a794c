import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import type { Connection } from '../../server/db/database'
import { askedAddress } from '../../server/db/schema'
import { askedLately, dropOldAsked, flushAsked, noteAsked } from '../../server/services/activity/asked-addresses'
import { freshDatabase } from '../support/database'

let site: Connection
beforeAll(async () => {
  site = await freshDatabase('bare')
})
afterEach(() => site.db.delete(askedAddress))
afterAll(() => site.close())

describe('addresses that were asked for lately', () => {
  it('are counted by path and the names of what they carried, never by what that was', async () => {
    noteAsked('/trade', {})
    noteAsked('/trade', { token: 'a-secret', print: '1' })
    noteAsked('/trade', { print: '2', token: 'another' })
    noteAsked(`/${'x'.repeat(300)}`, {})
    await flushAsked(site.db)
    noteAsked('/trade', {})
    await flushAsked(site.db)
    expect(await askedLately(site.db)).toEqual([
      { path: '/trade', carried: '', count: 2 },
      { path: '/trade', carried: 'print&token', count: 2 },
    ])
    expect(JSON.stringify(await site.db.select().from(askedAddress))).not.toContain('secret')
  })

  it('fill no more than their room, and what is old or was asked for once makes place', async () => {
    const old = new Date(Date.now() - 2 * 86_400_000)
    await site.db
      .insert(askedAddress)
      .values(Array.from({ length: 2000 }, (_, i) => ({ path: `/${i}`, carried: '', count: 1 + (i % 2), lastAt: old })))
    noteAsked('/new', {})
    noteAsked('/1', {})
    await flushAsked(site.db)
    expect(await site.db.$count(askedAddress)).toBe(2000)
    expect((await askedLately(site.db))[0]).toEqual({ path: '/1', carried: '', count: 3 })
    await dropOldAsked(site.db)
    expect(await site.db.$count(askedAddress)).toBe(1000)
    await site.db.update(askedAddress).set({ lastAt: new Date(Date.now() - 15 * 86_400_000) })
    await dropOldAsked(site.db)
    expect(await site.db.$count(askedAddress)).toBe(0)
  })
})
