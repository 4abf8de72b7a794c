import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { sql } from 'drizzle-orm'
import { staffRule } from '../../core/staff/staff-rule'
import type { StaffRuleInput } from '../../core/staff/staff-rule'
import type { VersionedThing } from '../../core/kinds/kinds'
import type { Connection } from '../../server/db/database'
import { siteState, trace, version } from '../../server/db/schema'
import { Problem } from '../../server/problem'
import { draftChanges } from '../../server/services/editions/changes'
import { asSystem, saveEntry, undoChange } from '../../server/services/editions/entries'
import { bringBack, historyOf } from '../../server/services/editions/history'
import { authorisePublication, publish } from '../../server/services/editions/publish'
import { planRollBack, rollBack } from '../../server/services/editions/roll-back'
import { copyThing } from '../../server/services/editions/copied-things'
import { addThing, changeThing, removeThing } from '../../server/services/editions/things'
import type { Worker } from '../../server/services/live/worker'
import { readTrace } from '../../server/trace'
import { freshDatabase } from '../support/database'
import { watched } from '../support/watched'
import { contentsOf, ines, keeperOf, liveRules, snapshotOf } from '../support/world'

let site: Connection & { url: string }
let keeper: Worker
beforeEach(async () => {
  site = await freshDatabase('demo')
  keeper = keeperOf(await liveRules(site))
})
afterEach(() => site.close())

const problemOf = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: unknown) => error as Problem,
  )
const codeOf = async (work: Promise<unknown>) => {
  const problem = await problemOf(work)
  return problem === null ? 'none' : problem instanceof Problem ? problem.code : String(problem)
}
const add = (kind: VersionedThing, thing: object) => addThing(site.db, keeper, kind, thing, ines)
const change = (kind: VersionedThing, key: string, given: object) =>
  changeThing(site.db, keeper, { kind, key }, given, ines)
const gate = (id: string, on: object, open: object = { signedIn: true }) =>
  saveEntry(site.db, { permit: asSystem, kind: 'gate', key: id, body: { id, on, open }, expects: null, actor: ines })
const publishing = (expects: number, chosen?: string[]) =>
  publish(site.db, { authorise: asSystem, note: '', expects, actor: ines, ...(chosen ? { chosen } : {}) })
const names = async () => (await draftChanges(site.db)).map(one => `${one.kind} ${one.key}`)
const titleIn = async (edition: number, kind: VersionedThing, key: string) =>
  (await contentsOf(site, edition)).index.get(kind, key) as { title?: string; path?: string } | undefined
const looms = { id: 'looms', path: '/looms', title: 'Looms' }
const hand = (...list: Omit<StaffRuleInput, 'role'>[]): Worker => ({
  rights: {
    personId: 'p-tomas',
    masterKey: false,
    rules: list.map(one => staffRule.parse({ role: 'page-hand', ...one })),
  },
  snapshot: snapshotOf(keeper.snapshot.rules),
})
const publishAs = (worker: Worker, expects: number, chosen?: string[]) =>
  codeOf(
    publish(site.db, {
      note: '',
      expects,
      actor: ines,
      ...(chosen ? { chosen } : {}),
      authorise: (turn, publication) => authorisePublication(worker, turn, publication),
    }),
  )

describe('things', () => {
  it('are in the draft until they are published, then in that edition, and before it nowhere', async () => {
    await add('page', looms)
    expect([await titleIn(1, 'page', 'looms'), (await titleIn(2, 'page', 'looms'))?.title]).toEqual([
      undefined,
      'Looms',
    ])
    await publishing(1)
    await change('page', 'looms', { title: 'The looms' })
    expect([(await titleIn(2, 'page', 'looms'))?.title, (await titleIn(3, 'page', 'looms'))?.title]).toEqual([
      'Looms',
      'The looms',
    ])
    await publishing(2)
    expect((await titleIn(2, 'page', 'looms'))?.title).toBe('Looms')
    await removeThing(site.db, keeper, { kind: 'page', key: 'looms' }, ines)
    await publishing(3)
    expect([(await titleIn(3, 'page', 'looms'))?.title, await titleIn(4, 'page', 'looms')]).toEqual([
      'The looms',
      undefined,
    ])
  })

  it('told by two writers at once are kept of the first, and the second is told', async () => {
    const seen = (await contentsOf(site)).get('page', 'visit')!
    const expects = { id: seen.id, revision: seen.revision }
    await changeThing(site.db, keeper, { kind: 'page', key: 'visit', expects }, { title: 'Mine' }, ines)
    const second = await problemOf(
      changeThing(site.db, keeper, { kind: 'page', key: 'visit', expects }, { title: 'Theirs' }, ines),
    )
    expect([second!.code, (second!.extra.current as { body: object }).body]).toMatchObject([
      'changed-meanwhile',
      { title: 'Mine' },
    ])
  })

  it('that say what is live already are no change, words and place too', async () => {
    await change('page', 'visit', { title: 'Elsewhere', summary: 'Gone.' })
    expect(await names()).toEqual(['page visit'])
    await change('page', 'visit', { title: 'Visit the mill', summary: 'The boat, the path and the opening hours.' })
    expect(await names()).toEqual([])
  })

  it('hold their address alone in each edition, which the database holds too', async () => {
    await change('page', 'visit', { path: '/come' })
    // What the draft gave up may be taken there; live it is still held.
    await add('post', { id: 'new-visit', path: '/visit', title: 'News of the visit' })
    expect(await codeOf(undoChange(site.db, { permit: asSystem, kind: 'page', key: 'visit', actor: ines }))).toBe(
      'taken',
    )
    expect(await codeOf(publishing(1, ['post new-visit']))).not.toBe('none')
    await publishing(1)
    const twice = site.db.transaction(async tx => {
      await tx.insert(version).values({
        kind: 'page',
        key: 'thief',
        position: 1,
        body: { id: 'thief', path: '/come', title: 'Thief' },
        editionFrom: 2,
        changedBy: 'test',
      })
    })
    expect(await codeOf(twice)).toContain('version_address')
  })

  it('are copied with all that stands in them, and with the gates on them', async () => {
    await copyThing(
      site.db,
      keeper,
      { kind: 'page', key: 'mending' },
      { id: 'mending-2', path: '/techniques/mending-again', title: 'Mending again' },
      ines,
    )
    await copyThing(site.db, keeper, { kind: 'page', key: 'trade' }, { id: 'trade-2', path: '/trade-2' }, ines)
    const { index, book } = await contentsOf(site)
    const [of, copy] = ['mending', 'mending-2'].map(id => index.standingIn('page', id))
    expect(copy!.map(one => one.kind)).toEqual(of!.map(one => one.kind))
    const chart = copy![of!.findIndex(one => one.id === 'darn-chart')]!
    const gates = book.gates!.filter(one => JSON.stringify(one.on).includes(chart.id))
    expect(gates).toMatchObject([
      { open: { level: { atLeast: 'guild' } }, otherwise: { dimmed: { keep: ['heading'] } } },
    ])
    expect(book.gates!.find(one => 'page' in one.on && one.on.page === 'trade-2')).toMatchObject({
      open: { role: { anyOf: ['stockist'] } },
      on: { below: true },
    })
  })
})

describe('publishing chosen changes', () => {
  it('leaves the rest in the draft of the edition after', async () => {
    await add('page', looms)
    await change('page', 'visit', { title: 'Come and see' })
    expect(await publishing(1, ['page looms'])).toBe(2)
    expect([(await titleIn(2, 'page', 'looms'))?.title, (await titleIn(2, 'page', 'visit'))?.title]).toEqual([
      'Looms',
      'Visit the mill',
    ])
    expect([await names(), (await titleIn(3, 'page', 'visit'))?.title]).toEqual([['page visit'], 'Come and see'])
    await undoChange(site.db, { permit: asSystem, kind: 'page', key: 'visit', actor: ines })
    expect([await names(), (await titleIn(3, 'page', 'visit'))?.title]).toEqual([[], 'Visit the mill'])
  })

  it('takes only together what belongs together: a page and its gate, an entry and what it names', async () => {
    await add('page', looms)
    await gate('looms', { page: 'looms' })
    await add('block', { id: 'loom-words', kind: 'text', in: { page: 'looms' }, body: { markdown: 'x' } })
    const alone = await problemOf(publishing(1, ['page looms']))
    expect([alone!.code, [...(alone!.extra.together as string[])].sort()]).toEqual([
      'rules-broken',
      ['block loom-words', 'gate looms'],
    ])
    expect(await codeOf(publishing(1, ['gate looms']))).toBe('rules-broken')
    expect(await codeOf(publishing(1, ['page looms', 'gate looms', 'block loom-words']))).toBe('none')
    await change('page', 'visit', { title: 'For members' })
    await gate('visit', { page: 'visit' })
    expect(await codeOf(publishing(2, ['page visit']))).toBe('rules-broken')
    expect(await codeOf(publishing(2, ['gate visit']))).toBe('none')
    expect(await codeOf(publishing(3, ['gate nobody']))).toBe('changed-meanwhile')
  })

  it('is one after the other: the second publisher is told, and two servers see the same', async () => {
    await change('page', 'visit', { title: 'Come and see' })
    const both = await Promise.all([codeOf(publishing(1)), codeOf(publishing(1))])
    expect(both.sort()).toEqual(['changed-meanwhile', 'none'])
    expect((await site.db.select({ live: siteState.liveEdition }).from(siteState))[0]!.live).toBe(2)
  })
})

describe('the right to publish', () => {
  const pages = { kind: 'pages', actions: ['look', 'add', 'change', 'publish'] } as const

  it('is asked for each kind a publication changes, and for whose things they are', async () => {
    await add('page', looms)
    await change('product', 'fell-dk', { price: 700 })
    const some = hand({ ...pages, actions: [...pages.actions] })
    expect(await publishAs(some, 1)).toBe('not-allowed')
    const goods = hand({ kind: 'products', actions: ['publish'] })
    expect(await publishAs(goods, 1, ['product fell-dk'])).toBe('not-allowed')
    const own = hand({ kind: 'pages', actions: ['publish'], whose: 'me' })
    expect(await publishAs(own, 1, ['page looms'])).toBe('not-allowed')
    expect(await publishAs(some, 1, ['page looms'])).toBe('none')
    const priced = hand({ kind: 'products', actions: ['publish'] }, { kind: 'prices', actions: ['publish'] })
    expect(await publishAs(priced, 2, ['product fell-dk'])).toBe('none')
  })

  it('to gates is needed where moving a thing lets a tier in, and not where it only shuts', async () => {
    const mover = hand({ ...pages, actions: [...pages.actions] })
    const keeping = hand({ ...pages, actions: [...pages.actions] }, { kind: 'gates', actions: ['publish'] })
    // Out from under the trade desk, whose gate is for stockists.
    await change('page', 'trade-prices', { parent: 'visit' })
    expect(await publishAs(mover, 1)).toBe('not-allowed')
    expect(await publishAs(keeping, 1)).toBe('none')
    await change('page', 'ferry', { parent: 'trade' })
    expect(await publishAs(mover, 2)).toBe('none')
    // An address can lift a guard as well.
    await saveEntry(site.db, {
      permit: asSystem,
      kind: 'gate',
      key: 'guard',
      body: { id: 'guard', on: { path: '/visit/**' }, open: { level: { atLeast: 'guild' } } },
      expects: null,
      actor: ines,
    })
    await publishing(3)
    await change('page', 'north-quay', { path: '/north-quay' })
    expect(await publishAs(mover, 4)).toBe('not-allowed')
  })
})

describe('going back', () => {
  const three = async () => {
    await change('page', 'visit', { title: 'Second', summary: 'Two.' })
    await gate('visit', { page: 'visit' })
    await publishing(1)
    await change('page', 'visit', { title: 'Third' })
    await add('page', looms)
    await publishing(2)
  }

  it('to an edition comes into the draft, other changes of it stay, and into a new edition at once', async () => {
    await three()
    await change('page', 'ferry', { title: 'The boat' })
    expect(await rollBack(site.db, keeper, 1, { atOnce: false, expects: 3 }, ines)).toEqual({
      changes: 3,
      edition: null,
    })
    expect((await names()).sort()).toEqual(['gate visit', 'page ferry', 'page looms', 'page visit'])
    expect([(await titleIn(4, 'page', 'visit'))?.title, await titleIn(4, 'page', 'looms')]).toEqual([
      'Visit the mill',
      undefined,
    ])
    for (const [kind, key] of [
      ['gate', 'visit'],
      ['page', 'looms'],
      ['page', 'visit'],
    ] as const)
      await undoChange(site.db, { permit: asSystem, kind, key, actor: ines })
    expect(await rollBack(site.db, keeper, 1, { atOnce: true, expects: 3 }, ines)).toEqual({ changes: 3, edition: 4 })
    expect([(await titleIn(4, 'page', 'visit'))?.title, (await titleIn(4, 'page', 'ferry'))?.title]).toEqual([
      'Visit the mill',
      'Boats',
    ])
    expect([await names(), (await titleIn(5, 'page', 'ferry'))?.title]).toEqual([['page ferry'], 'The boat'])
  })

  it('brings back only what is chosen, and nothing over what somebody published meanwhile', async () => {
    await three()
    expect(await codeOf(rollBack(site.db, keeper, 1, { atOnce: true, expects: 2 }, ines))).toBe('changed-meanwhile')
    expect(await codeOf(rollBack(site.db, keeper, 3, { atOnce: true, expects: 3 }, ines))).toBe('not-found')
    const chosen = ['page visit']
    await rollBack(site.db, keeper, 2, { atOnce: true, expects: 3, chosen }, ines)
    expect([(await titleIn(4, 'page', 'visit'))?.title, (await titleIn(4, 'page', 'looms'))?.title]).toEqual([
      'Second',
      'Looms',
    ])
  })

  it('reads hundreds of changes at once, the rights to them too, and what differs before the draft is held', async () => {
    const made = (edition: number, title: string) =>
      site.db.execute(sql`
        insert into version (kind, key, position, body, content, edition_from, changed_by)
        select 'page', 'm' || n, 1000 + n, jsonb_build_object('id', 'm' || n, 'title', ${title} || n, 'path', '/made/m' || n), '{}', ${edition}::int, 'test' from generate_series(1, 300) n`)
    await made(2, 'One ')
    await site.db.execute(
      sql`insert into thing (kind, key, made_by) select 'page', 'm' || n, 'p-tomas' from generate_series(1, 300) n`,
    )
    await publishing(1)
    await site.db.execute(sql`update version set edition_to = 3 where key like 'm%' and edition_from = 2`)
    await made(3, 'Two ')
    await publishing(2)
    const desk = hand(
      { kind: 'pages', actions: ['look', 'change'], whose: 'role', fields: ['title'] },
      { kind: 'pages', actions: ['publish'], fields: ['title'] },
    )
    let statements = 0
    const counted = watched(site.db, () => statements++)
    const stranger = hand({ kind: 'pages', actions: ['look', 'change'], whose: 'assigned' })
    expect(await codeOf(rollBack(counted, stranger, 2, { atOnce: true, expects: 3, chosen: ['page m1'] }, ines))).toBe(
      'not-allowed',
    )
    await planRollBack(counted, 2)
    statements = 0
    const chosen = Array.from({ length: 300 }, (_, n) => `page m${n + 1}`)
    expect(await rollBack(counted, desk, 2, { atOnce: true, expects: 3, chosen }, ines)).toEqual({
      changes: 300,
      edition: 4,
    })
    expect(statements).toBeLessThan(40)
    expect(await titleIn(4, 'page', 'm300')).toMatchObject({ title: 'One 300' })
  })

  it('of one thing is a change of the draft like any other, with its words', async () => {
    await three()
    const history = await historyOf(site.db, keeper, { kind: 'page', key: 'visit' })
    expect(history.map(row => [row.from, row.to, row.says?.title, row.says?.summary, row.changedBy])).toEqual([
      [3, null, 'Third', 'Two.', 'Ines Varga'],
      [2, 3, 'Second', 'Two.', 'Ines Varga'],
      [1, 2, 'Visit the mill', 'The boat, the path and the opening hours.', 'Bravik'],
    ])
    const first = history.at(-1)!.version
    await bringBack(site.db, keeper, { kind: 'page', key: 'visit', version: first }, ines)
    expect((await titleIn(4, 'page', 'visit'))?.title).toBe('Visit the mill')
    const looker = hand({ kind: 'pages', actions: ['look'] })
    const back = bringBack(site.db, looker, { kind: 'page', key: 'visit', version: history[1]!.version }, ines)
    expect(await codeOf(back)).toBe('not-allowed')
    expect(await codeOf(historyOf(site.db, hand(), { kind: 'page', key: 'visit' }))).toBe('not-allowed')
  })
})

describe('the trace', () => {
  it('is read by thing, by person and by day, with details and names for whom they are', async () => {
    await change('page', 'visit', { title: 'Second' })
    await add('page', looms)
    const read = (ask: object, told = { people: true, details: true }) =>
      readTrace(site.db, ask, { timezone: 'Europe/Dublin', told })
    const [line] = (await read({ subject: 'page visit' })).lines
    expect(line).toMatchObject({ action: 'page.change', who: 'Ines Varga', detail: { title: 'Second' } })
    expect((await read({ person: 'p-ines' })).lines.map(one => one.action)).toEqual(['page.add', 'page.change'])
    expect((await read({ day: '2020-01-01' })).lines).toEqual([])
    const bare = (await read({}, { people: false, details: false })).lines
    expect(bare.every(one => one.who === null && one.personId === null && one.detail === null)).toBe(true)
    await site.db
      .insert(trace)
      .values(Array.from({ length: 120 }, (_, i) => ({ personId: null, who: 'x', action: 'test', subject: `n ${i}` })))
    const first = await read({})
    const second = await read({ before: first.more! })
    expect([first.lines.length, second.lines.length, second.more]).toEqual([100, 22, null])
    expect(second.lines[0]!.id).toBe(first.more! - 1)
  })
})
