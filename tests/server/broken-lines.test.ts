/** Lines to the database that break in the middle: what was asked is told to have failed, soon, and reaches no other transaction. */
import { sql } from 'drizzle-orm'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { connect } from '../../server/db/database'
import type { Connection } from '../../server/db/database'
import { freshDatabase } from '../support/database'
import { lineTo } from '../support/line'

let site: Connection & { url: string }
let line: Awaited<ReturnType<typeof lineTo>>
let broken: Connection | undefined
beforeAll(async () => {
  site = await freshDatabase('bare')
  await site.sql`create table done (what text)`
})
afterAll(() => site.close())
beforeEach(async () => {
  await site.sql`truncate done`
  line = await lineTo(site.url)
})
afterEach(async () => {
  await broken?.drop()
  await line.close()
})

const soon = (ms: number) => new Promise(resolve => setTimeout(resolve, ms))
const put = (tx: Pick<Connection['db'], 'execute'>, what: string) => tx.execute(sql`insert into done values (${what})`)
const done = async () => (await site.sql`select what from done`).map(row => row.what as string)

describe('a line that breaks', () => {
  it('ends what was asked on it, leaves no line dead, and halves no transaction', async () => {
    const { db } = (broken = connect(line.url, 4))
    const acknowledged: string[] = []
    let failed = 0
    let on = true
    const one = async (who: number) => {
      for (let i = 0; on; i++) {
        const name = `${who}.${i}`
        const work = db.transaction(async tx => {
          await put(tx, `${name} begun`)
          await tx.execute(sql`select pg_sleep(0.005), ${'x'.repeat(i % 3 ? 10 : 100_000)}::text`)
          await put(tx, `${name} ended`)
        })
        await work.then(
          () => acknowledged.push(name),
          () => failed++,
        )
      }
    }
    const all = Promise.all(Array.from({ length: 16 }, (_, who) => one(who)))
    for (let i = 0; i < 12; i++) {
      await soon(150)
      line.cut()
    }
    on = false
    await all
    expect(failed).toBeGreaterThan(0)
    const left = new Set(await done())
    const halves = [...left].filter(
      name => !left.has(name.endsWith('begun') ? name.replace('begun', 'ended') : name.replace('ended', 'begun')),
    )
    expect([halves, acknowledged.filter(name => !left.has(`${name} ended`))]).toEqual([[], []])
    // All four answer again.
    await Promise.all(Array.from({ length: 8 }, () => db.execute(sql`select pg_sleep(0.05)`)))
  }, 20_000)

  it('brings nothing of its transaction into the one that comes after on the same connection', async () => {
    const { db } = (broken = connect(line.url, 1))
    const first = db.transaction(async tx => {
      await put(tx, 'first')
      line.cut()
      await tx.execute(sql`select 1`).catch(() => {})
      await soon(700)
      await put(tx, 'late')
    })
    const failed = first.catch((error: Error) => error)
    await soon(300)
    await db.transaction(async tx => {
      await put(tx, 'second')
      await soon(800)
      await put(tx, 'third')
    })
    expect(await failed).toBeInstanceOf(Error)
    expect((await done()).sort()).toEqual(['second', 'third'])
  })
})
