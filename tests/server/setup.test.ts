import { sql } from 'drizzle-orm'
import { describe, expect, it } from 'vitest'
import { siteIssues } from '../../core/check/site-check'
import { validateRulebook } from '../../core/check/validate'
import { setUpDemo } from '../../server/services/set-up/setup'
import { giveHolding, takeHolding } from '../../server/services/people/holdings'
import { addPerson, listPeople } from '../../server/services/people/people'
import { addThing, changeThing, removeThing } from '../../server/services/editions/things'
import { exportCase } from '../../cli/export'
import { runCases } from '../../core/cases/run-cases'
import { Problem } from '../../server/problem'
import { demoFiles, freshDatabase } from '../support/database'
import { contentsOf, ines, keeperOf, liveRules } from '../support/world'

const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'none',
    (error: unknown) => (error instanceof Problem ? error.code : String(error)),
  )

describe('the demo', () => {
  it('is valid, has what it promises, and loads once', async () => {
    const site = await freshDatabase('demo')
    const everything = async () =>
      (
        await site.db.execute(
          sql`select (select count(*) from version where kind = 'page') pages, (select count(*) from version where kind = 'block') blocks, (select count(*) from person) people, (select count(*) from version) entries, (select count(*) from membership) memberships`,
        )
      )[0]
    const before = await everything()
    expect(await setUpDemo(site.db, demoFiles)).toBe(false)
    expect(await everything()).toEqual(before)
    const contents = await contentsOf(site, 1)
    const { book } = contents
    expect([validateRulebook(book, contents.index), siteIssues(contents)]).toEqual([[], []])
    expect(book.gates!.length).toBeGreaterThanOrEqual(12)
    expect([
      book.levels!.length,
      book.roles!.filter(role => !role.staff).length,
      book.roles!.filter(role => role.staff).length,
    ]).toEqual([3, 5, 4])
    expect((await listPeople(site.db, {}, { rules: await liveRules(site), nowMs: Date.now() })).count).toBe(13)
    await site.close()
  })

  it('is exported as a case file that answers as the site does', async () => {
    const site = await freshDatabase('demo')
    const file = await exportCase(site.url, 'live')
    const cases = [
      { name: 'stockist', visitor: 'stockist', ask: { resource: { page: 'trade' } }, expect: { open: true } },
      {
        name: 'guest',
        visitor: 'guest',
        ask: { resource: { page: 'trade' } },
        expect: { open: false, otherwise: { absent: true } },
      },
      {
        name: 'menu',
        visitor: 'maker',
        ask: { menu: 'main' },
        expect: {
          items: [
            { id: 'm-techniques', state: 'shown' },
            { id: 'm-gansey', state: 'locked' },
            { id: 'm-shop', state: 'shown' },
            { id: 'm-visit', state: 'shown' },
            { id: 'm-basket', state: 'shown' },
            { id: 'm-account', state: 'shown' },
            { id: 'm-entrance', state: 'shown' },
          ],
        },
      },
    ]
    expect(runCases({ ...file, cases }, Date.parse('2026-11-24T10:00:00Z')).map(one => one.differences)).toEqual([
      [],
      [],
      [],
    ])
    await site.close()
  })
})

describe('people', () => {
  it('hold levels and roles; a staff role takes a second word, the last master key stays', async () => {
    const site = await freshDatabase('demo')
    const keeper = keeperOf(await liveRules(site))
    const id = await addPerson(
      site.db,
      { name: 'New Hand', email: 'new@wexlow.example', password: 'ten characters' },
      ines,
    )
    expect(
      await codeOf(
        addPerson(site.db, { name: 'Twice', email: 'NEW@wexlow.example', password: 'ten characters' }, ines),
      ),
    ).toBe('taken')
    await giveHolding(site.db, keeper, id, { what: 'level', level: 'maker' }, ines)
    expect(await codeOf(giveHolding(site.db, keeper, id, { what: 'level', level: 'elder' }, ines))).toBe('bad-input')
    expect(await codeOf(giveHolding(site.db, keeper, id, { what: 'role', role: 'keeper' }, ines))).toBe('bad-input')
    await giveHolding(site.db, keeper, id, { what: 'role', role: 'stockist' }, ines)
    const {
      people: [listed],
    } = await listPeople(site.db, { search: 'new hand' }, { rules: await liveRules(site), nowMs: Date.now() })
    expect(listed).toMatchObject({ roles: ['stockist'], memberships: [{ level: 'maker', until: null }] })
    await takeHolding(site.db, keeper, id, { membership: listed!.memberships[0]!.id }, ines)
    expect(await codeOf(takeHolding(site.db, keeper, 'p-ines', { role: 'keeper' }, ines))).toBe('in-use')
    await giveHolding(site.db, keeper, id, { what: 'role', role: 'keeper', confirm: 'keeper' }, ines)
    expect(await codeOf(takeHolding(site.db, keeper, 'p-ines', { role: 'keeper' }, ines))).toBe('none')
    await site.close()
  })
})

describe('pages', () => {
  it('keep their addresses apart, do not lie under themselves, and stay while a rule needs them', async () => {
    const site = await freshDatabase('demo')
    const keeper = keeperOf(await liveRules(site))
    const page = { id: 'looms', path: '/looms', title: 'Looms' }
    const add = (input: object) => codeOf(addThing(site.db, keeper, 'page', input, ines))
    const remove = (key: string) => codeOf(removeThing(site.db, keeper, { kind: 'page', key }, ines))
    expect(await add({ ...page, path: '/trade' })).toBe('taken')
    expect(await add(page)).toBe('none')
    expect(await add(page)).toBe('taken')
    const under = changeThing(site.db, keeper, { kind: 'page', key: 'looms' }, { parent: 'looms' }, ines)
    expect(await codeOf(under)).toBe('bad-input')
    expect(await remove('steeks')).toBe('in-use')
    expect(await remove('visit')).toBe('in-use')
    expect(await remove('looms')).toBe('none')
    await site.close()
  })
})
