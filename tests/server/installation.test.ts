import { readFileSync } from 'node:fs'
import { sql } from 'drizzle-orm'
import { expect, it, onTestFinished } from 'vitest'
import { checkSchema, checkSecret } from '../../server/services/set-up/installation'
import { dropOldMonths, makeMonths } from '../../server/services/activity/activity'
import { connect } from '../../server/db/database'
import { freshDatabase, freshDatabaseUrl } from '../support/database'

const said = (work: Promise<unknown>) =>
  work.then(
    () => 'fine',
    (error: Error) => error.message,
  )

it('is one secret on every server: the first says which, another is refused', async () => {
  const site = await freshDatabase('empty')
  onTestFinished(() => site.close())
  expect(await said(checkSecret(site.db, 'the secret of the first of two servers'))).toBe('fine')
  expect(await said(checkSecret(site.db, 'the secret of the first of two servers'))).toBe('fine')
  expect(await said(checkSecret(site.db, 'the secret of another one of the two'))).toContain('BRAVIK_SECRET is another')
})

it('does not start on a database that is newer than the program, nor on one that is behind', async () => {
  const site = await freshDatabase('empty')
  onTestFinished(() => site.close())
  expect(await said(checkSchema(site.db))).toBe('fine')
  await site.db.execute(sql`insert into drizzle.__drizzle_migrations (hash, created_at) values ('x', 99999999999999)`)
  expect(await said(checkSchema(site.db))).toContain('newer version')
  await site.db.execute(sql`delete from drizzle.__drizzle_migrations where created_at > 1780000000000`)
  expect(await said(checkSchema(site.db))).toContain('behind')
})

it('moves purchases of before over: one pending stays for each person, with the price it was begun at', async () => {
  const url = await freshDatabaseUrl()
  const old = connect(url, 1)
  onTestFinished(() => old.close())
  const run = async (file: string) => {
    for (const statement of readFileSync(new URL(`../../server/db/migrations/${file}`, import.meta.url), 'utf8').split(
      '--> statement-breakpoint',
    ))
      await old.sql.unsafe(statement)
  }
  for (const file of ['0000_first.sql', '0001_people.sql', '0002_activity.sql']) await run(file)
  await old.sql`insert into person (id, name, email) values ('a', 'A', 'a@x.example'), ('b', 'B', 'b@x.example')`
  await old.sql`insert into membership (id, person_id, level, since, granted_by) values (7, 'a', 'maker', now(), 'test')`
  await old.sql`insert into purchase (reference, person_id, level, sort, amount, credit, state, membership_id, created_at) values
    ('one', 'a', 'guild', 'upgrade', 8100, 300, 'pending', null, now() - interval '2 hours'), ('two', 'a', 'guild', 'upgrade', 8200, 200, 'pending', null, now()),
    ('by itself', 'a', 'maker', 'renewal', 600, 0, 'pending', 7, now()), ('three', 'b', 'maker', 'new', 600, 0, 'pending', null, now()), ('done', 'b', 'maker', 'new', 600, 0, 'paid', null, now())`
  await run('0003_mending.sql')
  expect(await old.sql`select reference, state, price, by_itself "byItself" from purchase order by reference`).toEqual([
    { reference: 'by itself', state: 'pending', price: null, byItself: true },
    { reference: 'done', state: 'paid', price: null, byItself: false },
    { reference: 'one', state: 'replaced', price: 8400, byItself: false },
    { reference: 'three', state: 'pending', price: 600, byItself: false },
    { reference: 'two', state: 'pending', price: 8400, byItself: false },
  ])
})

it('gives the months of activity up where a dump holds them, instead of holding everybody up', async () => {
  const site = await freshDatabase('empty')
  const dump = connect(site.url, 1)
  onTestFinished(async () => {
    await dump.close()
    await site.close()
  })
  await makeMonths(site.db, new Date('2020-01-15T00:00:00Z'))
  await dump.sql.begin(async held => {
    await held`lock table activity, activity_2020_01 in access share mode`
    const start = performance.now()
    expect(await said(dropOldMonths(site.db, 1))).not.toBe('fine')
    expect(performance.now() - start).toBeLessThan(3000)
  })
  expect(await dropOldMonths(site.db, 1)).toContain('activity_2020_01')
})
