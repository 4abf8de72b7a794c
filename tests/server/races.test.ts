/** What must hold however many do it at once: each deed is sent several times, over connections of its own. */
import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { CompiledRules } from '../../core/gates/compiled'
import { connect } from '../../server/db/database'
import type { Connection } from '../../server/db/database'
import { lockFor, lockNumbers } from '../../server/db/locks'
import { membership, person, purchase, roleGrant } from '../../server/db/schema'
import { Problem } from '../../server/problem'
import { newId } from '../../server/services/secrets/tokens'
import { buy, membershipsOf, quote, renewDue } from '../../server/services/memberships/memberships'
import { takeNotice } from '../../server/services/memberships/purchases'
import type { SaleWorld } from '../../server/services/memberships/memberships'
import { addThing, changeThing, moveThing } from '../../server/services/editions/things'
import { applyBulk, previewBulk } from '../../server/services/people/bulk'
import { takeHolding } from '../../server/services/people/holdings'
import { changePerson, removePerson } from '../../server/services/people/people'
import { freshDatabase } from '../support/database'
import { contentsOf, ines, keeperOf, liveRules, saleWorldOf } from '../support/world'

let site: Connection & { url: string }
/** Enough lines that nobody waits for another's. */
let many: Connection
let rules: CompiledRules
let world: SaleWorld
beforeAll(async () => {
  site = await freshDatabase('demo')
  many = connect(site.url, 12)
  rules = await liveRules(site)
  world = saleWorldOf(rules)
})
afterAll(async () => {
  await many.close()
  await site.close()
})
const keeper = () => keeperOf(rules)
const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'none',
    (error: unknown) => (error instanceof Problem ? error.code : String(error)),
  )
const codes = async (works: Promise<unknown>[]) => (await Promise.all(works.map(codeOf))).sort()
const newPerson = async (id: string, part: Partial<typeof person.$inferInsert> = {}) => {
  const now = new Date()
  await site.db.insert(person).values({
    id,
    name: id,
    email: `${id}@race.example`,
    passwordHash: 'x',
    confirmedAt: now,
    approvedAt: now,
    ...part,
  })
  return { id, name: id }
}

describe('the last master key', () => {
  it('stays with one of two keepers who suspend, remove or demote each other at once', async () => {
    await newPerson('second')
    for (let round = 0; round < 6; round++) {
      await site.db
        .insert(roleGrant)
        .values([
          { personId: 'second', role: 'keeper', grantedBy: 'test' },
          { personId: 'p-ines', role: 'keeper', grantedBy: 'test' },
        ])
        .onConflictDoNothing()
      await site.db.update(person).set({ suspendedAt: null }).where(eq(person.id, 'second'))
      await site.db.update(person).set({ suspendedAt: null }).where(eq(person.id, 'p-ines'))
      const deed = (id: string) =>
        round % 2
          ? takeHolding(many.db, keeper(), id, { role: 'keeper' }, ines)
          : changePerson(many.db, id, { suspended: true }, ines)
      expect(await codes([deed('second'), deed('p-ines')])).toEqual(['in-use', 'none'])
    }
    await site.db.update(person).set({ suspendedAt: null })
    await site.db
      .insert(roleGrant)
      .values({ personId: 'p-ines', role: 'keeper', grantedBy: 'test' })
      .onConflictDoNothing()
  })

  it('does not count as kept by somebody who cannot sign in', async () => {
    await site.db.delete(person).where(eq(person.id, 'second'))
    for (const part of [
      { confirmedAt: null },
      { approvedAt: null },
      { declinedAt: new Date() },
      { suspendedAt: new Date() },
      { passwordHash: null },
    ]) {
      await newPerson('second', part)
      await site.db.insert(roleGrant).values({ personId: 'second', role: 'keeper', grantedBy: 'test' })
      expect(
        await codes([
          changePerson(site.db, 'p-ines', { suspended: true }, ines),
          removePerson(site.db, 'p-ines', ines),
        ]),
      ).toEqual(['in-use', 'in-use'])
      await site.db.delete(person).where(eq(person.id, 'second'))
    }
  })
})

describe('a bulk change', () => {
  it('applied four times at once is done once', async () => {
    const input = { who: { query: {} }, what: { do: 'giveLevel' as const, level: 'maker' } }
    const { stamp, affected } = await previewBulk(site.db, { rules, nowMs: Date.now() }, input)
    expect(
      await codes(Array.from({ length: 4 }, () => applyBulk(many.db, keeper(), { ...input, stamp }, ines))),
    ).toEqual(['changed-meanwhile', 'changed-meanwhile', 'changed-meanwhile', 'none'])
    const [row] = await site.db
      .select({ count: sql<number>`count(*)::int` })
      .from(membership)
      .where(eq(membership.level, 'maker'))
    expect(row!.count).toBe(affected + 1)
  })
})

describe('content', () => {
  it('put into each other at once makes no ring', async () => {
    for (const id of ['ring-a', 'ring-b']) {
      await addThing(site.db, keeper(), 'page', { id, path: `/${id}`, title: id }, ines)
      await addThing(site.db, keeper(), 'block', { id: `${id}-box`, kind: 'group', in: { page: id }, body: {} }, ines)
    }
    for (let round = 0; round < 8; round++) {
      const pages = await codes([
        changeThing(many.db, keeper(), { kind: 'page', key: 'ring-a' }, { parent: 'ring-b' }, ines),
        changeThing(many.db, keeper(), { kind: 'page', key: 'ring-b' }, { parent: 'ring-a' }, ines),
      ])
      const blocks = await codes([
        changeThing(many.db, keeper(), { kind: 'block', key: 'ring-a-box' }, { in: { block: 'ring-b-box' } }, ines),
        changeThing(many.db, keeper(), { kind: 'block', key: 'ring-b-box' }, { in: { block: 'ring-a-box' } }, ines),
      ])
      expect([pages, blocks]).toEqual([
        ['bad-input', 'none'],
        ['bad-input', 'none'],
      ])
      for (const key of ['ring-a', 'ring-b']) {
        await changeThing(site.db, keeper(), { kind: 'page', key }, { parent: null }, ines)
        await changeThing(site.db, keeper(), { kind: 'block', key: `${key}-box` }, { in: { page: key } }, ines)
      }
    }
  })

  it('ordered by several at once waits, and never locks up', async () => {
    const ids = ['m1', 'm2', 'm3', 'm4', 'm5']
    for (const id of ids)
      await addThing(
        site.db,
        keeper(),
        'block',
        { id, kind: 'text', in: { page: 'ring-a' }, body: { markdown: id } },
        ines,
      )
    const moves = ids.flatMap((id, i) => [
      moveThing(many.db, keeper(), { kind: 'block', key: id, before: ids[(i + 2) % 5]! }, ines),
      moveThing(many.db, keeper(), { kind: 'block', key: id, before: null }, ines),
    ])
    expect(new Set(await codes(moves))).toEqual(new Set(['none']))
    const rows = (await contentsOf(site)).of('block').filter(one => ids.includes(one.key))
    expect(new Set(rows.map(row => row.position)).size).toBe(5)
  })
})

describe('money paid at once', () => {
  const notice = (reference: string, kind: 'paid' | 'refunded' = 'paid') =>
    takeNotice(many.db, world, { id: newId('notice'), reference, kind })
  const beginning = async (id: string, level: string) => {
    const asked = await quote(site.db, world, id, level)
    const done = await buy(site.db, world, { id, name: id }, level, typeof asked === 'object' ? asked.amount : -1)
    return 'reference' in done ? done.reference : ''
  }
  const months = (row: typeof membership.$inferSelect) =>
    Math.round((row.paidUntil!.getTime() - row.since.getTime()) / (30.4 * 86_400_000))

  it('for five months is five in a row, in one membership', async () => {
    await newPerson('five')
    const references: string[] = []
    for (let i = 0; i < 5; i++) references.push(await beginning('five', 'maker'))
    const states = await site.db.select({ state: purchase.state }).from(purchase).where(eq(purchase.personId, 'five'))
    expect(states.map(one => one.state).sort()).toEqual(['pending', 'replaced', 'replaced', 'replaced', 'replaced'])
    await Promise.all(references.map(reference => notice(reference)))
    const held = await membershipsOf(site.db, 'five')
    expect([held.length, months(held[0]!)]).toEqual([1, 5])
    // Given back, each takes the month it brought.
    await notice(references[0]!, 'refunded')
    expect(months((await membershipsOf(site.db, 'five'))[0]!)).toBe(4)
  })

  it('for two upgrades gives one credit', async () => {
    await newPerson('two')
    await notice(await beginning('two', 'maker'))
    const references = [await beginning('two', 'guild'), await beginning('two', 'guild')]
    const credits = await site.db.select({ credit: purchase.credit }).from(purchase).where(eq(purchase.level, 'guild'))
    expect(credits.every(one => one.credit > 0)).toBe(true)
    await Promise.all(references.map(reference => notice(reference)))
    const guild = (await membershipsOf(site.db, 'two')).find(row => row.level === 'guild')!
    const twoYears = 2 * 365.25 * 86_400_000
    expect(guild.paidUntil!.getTime() - guild.since.getTime()).toBeLessThan(twoYears - 20 * 86_400_000)
  })

  it('buys at once leaves one purchase pending', async () => {
    await newPerson('eager')
    const asked = await quote(site.db, world, 'eager', 'maker')
    const bought = await codes(
      Array.from({ length: 5 }, () =>
        buy(many.db, world, { id: 'eager', name: 'eager' }, 'maker', (asked as { amount: number }).amount),
      ),
    )
    expect(new Set(bought)).toEqual(new Set(['none']))
    expect(await site.db.$count(purchase, sql`person_id = 'eager' and state = 'pending'`)).toBe(1)
  })

  it('renews once, however many servers find it due', async () => {
    await newPerson('due')
    await notice(await beginning('due', 'maker'))
    await site.db
      .update(membership)
      .set({ paidUntil: sql`now() - interval '1 minute'` })
      .where(eq(membership.personId, 'due'))
    const begun = await Promise.all(Array.from({ length: 4 }, () => renewDue(many.db, world)))
    expect(begun.reduce((sum, one) => sum + one, 0)).toBe(1)
  })
})

describe('what is done by one at a time', () => {
  it('holds up nobody who does something else', async () => {
    const names = Object.keys(lockNumbers) as (keyof typeof lockNumbers)[]
    for (const held of names)
      await many.db.transaction(async tx => {
        await lockFor(tx, held)
        const free = await site.db.transaction(other =>
          Promise.all(
            names.map(async name => {
              const [row] = await other.execute<{ got: boolean }>(
                sql`select pg_try_advisory_xact_lock(${lockNumbers[name]}) got`,
              )
              return row!.got ? [name] : []
            }),
          ),
        )
        expect(free.flat()).toEqual(names.filter(name => name !== held))
      })
  })
})
