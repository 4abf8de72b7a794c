/** A turn is what was committed: whatever comes after it and fails, is answered as done. */
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { Connection } from '../../server/db/database'
import { afterCommit, inOneTurn } from '../../server/db/turn'
import { freshDatabase } from '../support/database'

let site: Connection
beforeAll(async () => {
  site = await freshDatabase('bare')
  await site.sql`create table done (what text)`
})
afterAll(() => site.close())
const done = async () => (await site.sql`select what from done`).map(row => row.what as string)

it('answers what it did, though what follows fails; the rest of that is done all the same', async () => {
  const after: string[] = []
  const answer = await inOneTurn(site.db, async tx => {
    await tx.execute(sql`insert into done values ('kept')`)
    await afterCommit(() => Promise.reject(new Error('nobody hears of it')))
    await afterCommit(async () => void after.push(...(await done())))
    return 'answered'
  })
  expect([answer, after]).toEqual(['answered', ['kept']])
})

it('that fails leaves nothing, and nothing follows it', async () => {
  const after: string[] = []
  const failing = inOneTurn(site.db, async tx => {
    await tx.execute(sql`insert into done values ('gone')`)
    await afterCommit(async () => void after.push('told'))
    throw new Error('it did not work')
  })
  await expect(failing).rejects.toThrow('it did not work')
  expect([await done(), after]).toEqual([['kept'], []])
})
