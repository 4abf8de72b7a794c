import { readdirSync, readFileSync } from 'node:fs'
import { sql } from 'drizzle-orm'
import { expect, it, onTestFinished } from 'vitest'
import { checkSchema, checkSecret } from '../../server/services/set-up/installation'
import { dropOldMonths, makeMonths } from '../../server/services/activity/activity'
import { connect } from '../../server/db/database'
import { inTransaction } from '../../server/db/turn'
import { freshDatabase, freshDatabaseUrl } from '../support/database'

const said = (work: Promise<unknown>) =>
  work.then(
    () => 'fine',
    (error: Error) => error.message,
  )

it('is one secret on every server: the first says which, another is refused', async () => {
  const site = await freshDatabase('empty')
  onTestFinished(() => site.close())
  expect(await said(inTransaction(site.db, tx => checkSecret(tx, 'the secret of the first of two servers')))).toBe(
    'fine',
  )
  expect(await said(inTransaction(site.db, tx => checkSecret(tx, 'the secret of the first of two servers')))).toBe(
    'fine',
  )
  expect(await said(inTransaction(site.db, tx => checkSecret(tx, 'the secret of another one of the two')))).toContain(
    'BRAVIK_SECRET is another',
  )
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

const migrations = new URL('../../server/db/migrations/', import.meta.url)
/** An empty database, and migrations to run on it one after the other. */
async function oldDatabase() {
  const old = connect(await freshDatabaseUrl(), 1)
  onTestFinished(() => old.close())
  const run = async (file: string) => {
    for (const statement of readFileSync(new URL(file, migrations), 'utf8').split('--> statement-breakpoint'))
      await old.sql.unsafe(statement)
  }
  return { old, run }
}

it('moves what was paid over into one record, and takes what opens an order out of what staff see', async () => {
  const { old, run } = await oldDatabase()
  const files = readdirSync(migrations).filter(one => one.endsWith('.sql'))
  for (const file of files.filter(one => one < '0015').sort()) await run(file)
  await old.sql`insert into person (id, name, email) values ('a', 'A', 'a@x.example'), ('b', 'B', 'b@x.example')`
  await old.sql`insert into shop_order (id, reference, request, person_id, email, name, country, state, edition, net, tax, gross, refunded, frozen, placed_at, expires_at, paid_at) values
    ('order-key', 'pay-1', 't-1', 'a', 'a@x.example', 'A', 'IE', 'paid', 1, 800, 200, 1000, 400, '{}', now(), now(), now()),
    ('order-open', 'pay-2', 't-2', 'a', 'a@x.example', 'A', 'IE', 'placed', 1, 800, 200, 1000, 0, '{}', now(), now(), null)`
  await old.sql`insert into order_refund (id, order_id, at, by, body, gross, tax, done_at, request) values (7, 'order-key', now(), 'Ines', '{"lines":[],"delivery":null}', 400, 80, now(), 'r-1')`
  await old.sql`insert into purchase (reference, person_id, level, sort, amount, credit, price, state, granted_from) values
    ('order-key-0', 'a', 'guild', 'new', 1000, 0, 1000, 'paid', now()), ('pay-9', 'b', 'maker', 'new', 600, 0, 600, 'paid', now()), ('pay-8', 'b', 'maker', 'new', 600, 0, 600, 'refunded', null)`
  await old.sql`insert into order_line (order_id, position, product, quantity, net, tax, gross, purchase) values ('order-key', 0, 'guild-year', 1, 800, 200, 1000, 'order-key-0')`
  await old.sql`insert into payment_notice (id, reference, kind) values ('n-1', 'pay-1', 'paid'), ('n-2', 'pay-1', 'paid'), ('n-9', 'pay-9', 'paid')`
  await old.sql`insert into trace (who, action, subject) values ('A', 'purchase.begin', 'purchase pay-9'), ('A', 'person.confirm', 'person a'), ('B', 'person.sign-up', 'person b')`
  await old.sql`insert into activity (at, kind, tier, detail) values (now(), 'purchase', 'guest', '{"reference":"pay-1"}')`
  for (const file of files.filter(one => one >= '0015').sort()) await run(file)
  expect(await old.sql`select id, became, amount::int from payment_notice order by id`).toEqual([
    { id: 'kept-pay-8', became: 'settled', amount: 600 },
    { id: 'n-1', became: 'settled', amount: 1000 },
    { id: 'n-2', became: 'nothing', amount: null },
    { id: 'n-9', became: 'settled', amount: 600 },
  ])
  expect(await old.sql`select reference, "of", gross::int from money_back order by reference`).toEqual([
    { reference: 'pay-1', of: 'goods', gross: 400 },
    { reference: 'pay-8', of: 'level', gross: 600 },
  ])
  const seen = JSON.stringify(
    await old.sql`select (select json_agg(t) from trace t) t, (select json_agg(a) from activity a) a,
    (select json_agg(p.reference) from purchase p) p, (select json_agg(l.purchase) from order_line l) l`,
  )
  expect([seen.includes('order-key'), seen.includes('"purchase pay-9"'), seen.includes('"reference":"pay-1"')]).toEqual(
    [false, false, false],
  )
  expect(await old.sql`select id, proven_at is not null proven from person order by id`).toEqual([
    { id: 'a', proven: true },
    { id: 'b', proven: false },
  ])
})

it('moves purchases of before over: one pending stays for each person, with the price it was begun at', async () => {
  const { old, run } = await oldDatabase()
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
