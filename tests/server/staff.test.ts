import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { staffRule } from '../../core/staff/staff-rule'
import type { StaffRights, StaffRuleInput } from '../../core/staff/staff-rule'
import type { RuleEntry } from '../../core/rulebook/rulebook'
import type { CompiledRules } from '../../core/gates/compiled'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import type { Connection } from '../../server/db/database'
import { stock, thing } from '../../server/db/schema'
import { Problem } from '../../server/problem'
import { copyThing } from '../../server/services/editions/copied-things'
import { addThing, changeThing, removeThing } from '../../server/services/editions/things'
import { permitEntry } from '../../server/services/editions/entry-rights'
import { authorisePublication, publicationOf } from '../../server/services/editions/publish'
import { lookAtThing } from '../../server/services/editions/look'
import { changeStock, countGoods } from '../../server/services/shop/stock'
import { asSystem, saveEntry } from '../../server/services/editions/entries'
import { openTurn } from '../../server/services/editions/draft'
import { historyOf } from '../../server/services/editions/history'
import { savedAnswer } from '../../server/services/editions/saved-answer'
import { readStart } from '../../server/services/console/start'
import { listPeople } from '../../server/services/people/people'
import type { PeopleQuery } from '../../server/services/people/people'
import { authorisePeopleQuery, searchedBy, seenPerson } from '../../server/services/staff/people-seen'
import { copyStaffRole } from '../../server/services/editions/copy-staff-role'
import { authoriseOverPerson, authoriseStaffRole } from '../../server/services/staff/staff-grants'
import { findNames, namedInRules } from '../../server/services/staff/names'
import { readStaffRules, writeStaffRules } from '../../server/services/staff/staff-rules'
import { freshDatabase } from '../support/database'
import type { VersionedThing } from '../../core/kinds/kinds'
import { contentsOf, ines, inTurn, keeperOf, liveRules, snapshotOf, tried } from '../support/world'
import type { Worker } from '../../server/services/live/worker'

let site: Connection & { url: string }
let rules: CompiledRules
beforeAll(async () => {
  site = await freshDatabase('demo')
  rules = await liveRules(site)
})
afterAll(() => site.close())
const codeOf = (work: Promise<unknown> | (() => unknown)) =>
  (typeof work === 'function' ? Promise.resolve().then(work) : work).then(
    () => 'none',
    (error: unknown) => (error instanceof Problem ? error.code : String(error)),
  )
const rightsOf = (personId: string, ...list: Omit<StaffRuleInput, 'role'>[]): StaffRights => ({
  personId,
  masterKey: false,
  rules: list.map(one => staffRule.parse({ role: 'page-hand', ...one })),
})
const worker = (personId: string, ...list: Omit<StaffRuleInput, 'role'>[]) => ({
  rights: rightsOf(personId, ...list),
  snapshot: snapshotOf(rules),
})
/** What putting an entry into the draft would be answered. */
const permitted = async (rights: StaffRights, entry: RuleEntry) =>
  codeOf(inTurn(site.db, turn => permitEntry(rights)(turn, entry)))
const change = (who: Worker, kind: VersionedThing, key: string, given: object) =>
  tried(site.db, db => changeThing(db, who, { kind, key }, given, ines))
const withdraw = (who: Worker, kind: VersionedThing, key: string) =>
  tried(site.db, db => removeThing(db, who, { kind, key }, ines))
const publishing = (rights: StaffRights) =>
  codeOf(
    inTurn(site.db, turn => authorisePublication({ rights, snapshot: snapshotOf(rules) }, turn, publicationOf(turn))),
  )
const visit = { path: '/visit', title: 'Visit the mill', summary: 'The boat, the path and the opening hours.' }
const isPage = (key: string) => and(eq(thing.kind, 'page'), eq(thing.key, key))

describe('staff who look after pages', () => {
  it('change only the fields and the pages that are theirs', async () => {
    const tomas = { id: 'p-tomas', name: 'Tomas' }
    await addThing(site.db, keeperOf(rules), 'page', { id: 'mine', path: '/mine', title: 'Mine' }, tomas)
    await site.db.update(thing).set({ assignedTo: 'p-tomas' }).where(isPage('ferry'))
    const own = worker(
      'p-tomas',
      { kind: 'pages', actions: ['look', 'change', 'withdraw'], whose: 'me' },
      { kind: 'pages', actions: ['change'], fields: ['summary'], whose: 'assigned' },
    )
    expect(await change(own, 'page', 'mine', { path: '/mine', title: 'Ours' })).toBe('none')
    expect(await change(own, 'page', 'visit', { ...visit, title: 'Ours' })).toBe('not-allowed')
    const ferry = { path: '/visit/ferry', parent: 'visit', title: 'Boats', summary: 'Once a day.' }
    expect(await change(own, 'page', 'ferry', ferry)).toBe('none')
    expect(await change(own, 'page', 'ferry', { ...ferry, path: '/boats' })).toBe('not-allowed')
    expect(await withdraw(own, 'page', 'ferry')).toBe('not-allowed')
    const ofGuild = worker('p-oona', {
      kind: 'pages',
      actions: ['change'],
      whose: 'audience',
      audience: 'gansey-circle',
    })
    expect(await change(ofGuild, 'page', 'mine', { title: 'Theirs' })).toBe('not-allowed')
    await site.db.update(thing).set({ madeBy: 'p-guda' }).where(isPage('mine'))
    expect(await change(ofGuild, 'page', 'mine', { title: 'Theirs' })).toBe('none')
  })

  it('give a page to somebody, at once, where they may say whose it is', async () => {
    const assigning = worker('p-tomas', { kind: 'pages', actions: ['change'], fields: ['assignment'] })
    const writing = worker('p-tomas', { kind: 'pages', actions: ['change'], fields: ['title'] })
    expect(await change(writing, 'page', 'boats', { assignedTo: 'p-oona' })).toBe('not-found')
    expect(await change(writing, 'page', 'visit', { assignedTo: 'p-oona' })).toBe('not-allowed')
    expect(await change(assigning, 'page', 'visit', { assignedTo: 'p-oona' })).toBe('none')
    expect(await change(assigning, 'page', 'visit', { assignedTo: 'p-oona', title: 'Ours' })).toBe('not-allowed')
  })

  it('work on blocks by kind, and do not turn one kind into another they may not make', async () => {
    const texts = worker('p-tomas', { kind: 'blocks-text', actions: ['look', 'add', 'change'] })
    const body = { kind: 'text', in: { page: 'visit' }, body: { markdown: 'Swim.' } }
    expect(await change(texts, 'block', 'visit-how', body)).toBe('none')
    const turned = { ...body, kind: 'call', body: { label: 'Go', href: '/' } }
    expect(await change(texts, 'block', 'visit-how', turned)).toBe('not-allowed')
    expect(await change(texts, 'block', 'visit-cloth', { title: 'Cloth' })).toBe('not-allowed')
    const mine = { id: 'new-text', ...body }
    await addThing(site.db, keeperOf(rules), 'block', mine, { id: 'p-tomas', name: 'Tomas' })
    const theirs = worker('p-tomas', { kind: 'blocks-text', actions: ['withdraw'], whose: 'me' })
    expect(await withdraw(theirs, 'block', 'new-text')).toBe('none')
    expect(await withdraw(theirs, 'block', 'visit-how')).toBe('not-allowed')
  })
})

describe('staff whose rights are narrowed to some fields', () => {
  const adding = (who: Worker, given: object) => tried(site.db, db => addThing(db, who, 'page', given, ines))

  it('look at those alone, wherever a thing is told of', async () => {
    const titles = worker(
      'p-tomas',
      { kind: 'pages', actions: ['look', 'change'], fields: ['title'] },
      { kind: 'blocks-text', actions: ['look'], fields: ['title', 'summary'] },
    )
    const { thing: told, inside } = await lookAtThing(site.db, titles, { kind: 'page', key: 'ferry' })
    // Where it stands shows with it.
    expect(told).toEqual({ title: 'Boats', parent: 'visit' })
    expect(inside.length).toBeGreaterThan(0)
    expect(inside.flatMap(one => Object.keys(one.thing)).filter(part => part === 'body')).toEqual([])
    const decider = new CompiledDecider(rules, { person: { id: 'p-tomas' } }, 0)
    const start = await readStart(site.db, decider, titles, ines)
    const page = start.versions.find(one => one.kind === 'page' && one.key === 'ferry')!
    expect(page.body).toEqual({ id: 'ferry', title: 'Boats', parent: 'visit' })
    const history = await historyOf(site.db, titles, { kind: 'page', key: 'ferry' })
    expect(history[0]!.says).toEqual({ id: 'ferry', title: 'Boats', parent: 'visit' })
    // Nor does the answer to a change of theirs tell more.
    const answer = await site.db.transaction(async tx => {
      const db = tx as unknown as Connection['db']
      const changed = await changeThing(db, titles, { kind: 'page', key: 'ferry' }, { title: 'Ferries' }, ines)
      return savedAnswer({ db: tx, ...titles }, changed)
    })
    expect(answer.changed[0]!.change).toMatchObject({ after: { id: 'ferry', title: 'Ferries', parent: 'visit' } })
    expect(JSON.stringify(answer)).not.toContain('/visit/ferry')
    const unseen = worker('p-tomas', { kind: 'pages', actions: ['look'], fields: ['summary'] })
    expect(Object.keys((await lookAtThing(site.db, unseen, { kind: 'page', key: 'ferry' })).thing).sort()).toEqual([
      'parent',
      'summary',
    ])
    // A copy tells what was not to be seen.
    const copier = worker(
      'p-tomas',
      { kind: 'pages', actions: ['add'] },
      { kind: 'pages', actions: ['look'], fields: ['title'] },
    )
    expect(
      await tried(site.db, db => copyThing(db, copier, { kind: 'page', key: 'join' }, { id: 'j', path: '/j' }, ines)),
    ).toBe('not-allowed')
  })

  it('add with those alone, and publish those alone', async () => {
    const adder = worker('p-tomas', { kind: 'pages', actions: ['add'], fields: ['title', 'address'] })
    expect(await adding(adder, { id: 'a', path: '/a', title: 'A' })).toBe('none')
    expect(await adding(adder, { id: 'a', path: '/a', title: 'A', summary: 'Words.' })).toBe('not-allowed')
    expect(await adding(adder, { id: 'a', path: '/a', title: 'A', parent: 'visit' })).toBe('not-allowed')
    expect(await adding(adder, { id: 'a', path: '/a', title: 'A', assignedTo: 'p-oona' })).toBe('not-allowed')
    const seller = worker('p-oona', { kind: 'products', actions: ['add'] })
    const product = (given: object) => tried(site.db, db => addThing(db, seller, 'product', given, ines))
    expect([
      await product({ id: 'hook', title: 'Hook' }),
      await product({ id: 'hook', title: 'Hook', price: 100 }),
    ]).toEqual(['none', 'not-allowed'])
    const publisher = (...fields: string[]) => rightsOf('p-tomas', { kind: 'pages', actions: ['publish'], fields })
    const published = (rights: StaffRights, given: object) =>
      tried(site.db, async db => {
        await changeThing(db, keeperOf(rules), { kind: 'page', key: 'join' }, given, ines)
        const turn = await openTurn(db as never, ines)
        await authorisePublication({ rights, snapshot: snapshotOf(rules) }, turn, {
          ...publicationOf(turn, ['page join']),
        })
      })
    expect(await published(publisher('title'), { title: 'Join us' })).toBe('none')
    expect(await published(publisher('title'), { title: 'Join us', summary: 'All of it.' })).toBe('not-allowed')
    expect(await published(publisher('title', 'summary'), { title: 'Join us', summary: 'All of it.' })).toBe('none')
  })

  it('need all fields for a part that is none of them', async () => {
    const titles = worker(
      'p-tomas',
      { kind: 'blocks-text', actions: ['change', 'withdraw'], fields: ['title'] },
      { kind: 'blocks-call', actions: ['add'] },
    )
    // With its kind its body changes too: a right to the title alone is no way to that.
    expect(
      await change(titles, 'block', 'visit-how', { kind: 'call', title: 'Go', body: { label: 'Go', href: '/' } }),
    ).toBe('not-allowed')
  })

  it('see of people those fields alone, and find and sift people by nothing else', async () => {
    const { people: all } = await listPeople(site.db, { search: 'guda' }, { rules, nowMs: Date.now() })
    const clerk = rightsOf('p-dace', { kind: 'people', actions: ['look'], fields: ['name'] })
    expect(seenPerson(clerk, all[0]!)).toEqual({
      id: 'p-guda',
      name: 'Guda Moor',
      email: '',
      createdAt: all[0]!.createdAt,
      firm: null,
      memberships: [],
      roles: [],
      standing: undefined,
    })
    const search = { search: 'guda@wexlow' }
    const found = await listPeople(site.db, search, { rules, nowMs: Date.now(), ...searchedBy(clerk, search) })
    expect(found.count).toBe(0)
    const asked = (query: PeopleQuery, rights = clerk) => codeOf(async () => authorisePeopleQuery(rights, query))
    expect(await asked({ condition: { person: { in: ['p-guda'] } } })).toBe('none')
    for (const query of [
      { condition: { level: { atLeast: 'guild' } } },
      { condition: { any: [{ person: { in: ['p-guda'] } }, { audience: 'gansey-circle' }] } },
      { standing: 'waiting' },
      { stage: { reached: 'bought', days: 5 } },
    ] as PeopleQuery[])
      expect(await asked(query), JSON.stringify(query)).toBe('not-allowed')
    const levels = rightsOf('p-dace', { kind: 'people', actions: ['look'], fields: ['name', 'levels'] })
    expect(await asked({ condition: { level: { atLeast: 'guild' } } }, levels)).toBe('none')
    expect(await asked({ condition: { role: { anyOf: ['stockist'] } } }, levels)).toBe('not-allowed')
    const notes = rightsOf('p-dace', { kind: 'people', actions: ['look'], fields: ['notes'] })
    expect(await codeOf(async () => searchedBy(notes, search))).toBe('not-allowed')
  })
})

describe('names for sentences', () => {
  const keeperRights = () => keeperOf(rules).rights
  it('are found by the beginning of a name, and by nothing that may not be looked at', async () => {
    const { people, firms } = await findNames(site.db, keeperRights(), 'gull')
    expect([people.map(one => one.id), firms.map(one => one.name)]).toEqual([[], ['Gullhaven Knits']])
    expect((await findNames(site.db, keeperRights(), 'guda mo')).people).toEqual([{ id: 'p-guda', name: 'Guda Moor' }])
    // Everybody's address ends alike: an address finds nobody here.
    expect((await findNames(site.db, keeperRights(), 'wexlow.example')).people).toEqual([])
    expect((await findNames(site.db, keeperRights(), '%')).people).toEqual([])
    const rights = rightsOf('p-oona', { kind: 'posts', actions: ['look'] })
    expect(await findNames(site.db, rights, 'gu')).toEqual({ people: [], firms: [] })
    const notes = rightsOf('p-oona', { kind: 'people', actions: ['look'], fields: ['notes'] })
    expect((await findNames(site.db, notes, 'guda')).people).toEqual([])
  })

  it('come along where rules name somebody already, wherever in them', async () => {
    const body = {
      id: 'g',
      open: { any: [{ person: { in: ['p-guda', 'gone'] } }, { not: { firm: { in: ['gullhaven'] } } }] },
    }
    const versions = [
      { kind: 'gate' as const, body },
      { kind: 'page' as const, body: { person: { in: ['p-pia'] } } },
    ]
    expect(await namedInRules(site.db, keeperRights(), versions)).toEqual({
      people: [{ id: 'p-guda', name: 'Guda Moor' }],
      firms: [{ id: 'gullhaven', name: 'Gullhaven Knits' }],
    })
    const rights = rightsOf('p-oona', { kind: 'gates', actions: ['look'] })
    expect((await namedInRules(site.db, rights, versions)).people).toEqual([])
  })
})

describe('staff who look after what their colleagues made', () => {
  it('are those who hold the role of the sentence, as long as they do', async () => {
    const colleague = worker('p-oona', { kind: 'pages', actions: ['change'], whose: 'role' })
    await addThing(site.db, keeperOf(rules), 'page', { id: 'hands', path: '/hands', title: 'Hands' }, ines)
    const made = (by: string) => site.db.update(thing).set({ madeBy: by }).where(isPage('hands'))
    await made('p-tomas')
    expect(await change(colleague, 'page', 'hands', { title: 'Ours' })).toBe('none')
    await made('p-dace')
    expect(await change(colleague, 'page', 'hands', { title: 'Ours' })).toBe('not-allowed')
    await withdraw(keeperOf(rules), 'page', 'hands')
  })

  it('come from copying a staff role with its sentences, as far as the copier may', async () => {
    const all = keeperOf(rules)
    const copy = (who: Worker, of: string, id: string) =>
      tried(site.db, async db => {
        await copyStaffRole(db, who, of, { id, name: 'Second hand' }, ines)
        const copied = (await readStaffRules(db as never)).filter(rule => rule.role === id)
        const before = (await readStaffRules(db as never)).filter(rule => rule.role === of)
        expect(copied).toEqual(before.map(rule => ({ ...rule, role: id })))
        const { book } = await contentsOf({ db: db as never })
        expect(book.roles!.find(role => role.id === id)).toEqual({
          ...book.roles!.find(role => role.id === of),
          id,
          name: 'Second hand',
        })
      })
    expect(await copy(all, 'shop-hand', 'second-hand')).toBe('none')
    expect(await copy(all, 'keeper', 'second-keeper')).toBe('in-use')
    expect(await copy(all, 'stockist', 'second-hand')).toBe('bad-input')
    expect(await copy(all, 'shop-hand', 'page-hand')).toBe('taken')
    const lesser = worker('p-dace', { kind: 'roles', actions: ['add'] }, { kind: 'staff', actions: ['change'] })
    expect(await copy(lesser, 'shop-hand', 'second-hand')).toBe('not-allowed')
  })
})

describe('the shop hand of the demo', () => {
  it('changes stock and pictures, is not sent the cost and cannot change it', async () => {
    const rights: StaffRights = {
      personId: 'p-oona',
      masterKey: false,
      rules: (await readStaffRules(site.db)).filter(rule => rule.role === 'shop-hand'),
    }
    const hand = { rights, snapshot: snapshotOf(rules) }
    const { may, goods, ...counted } = await countGoods(site.db, hand)
    expect(may[goods['mitts-kit']!]).toEqual(['stock'])
    expect([Object.keys(counted), counted.stock!['mitts-kit']]).toEqual([['stock', 'reserved'], 22])
    const oona = { id: 'p-oona', name: 'Oona' }
    const product = (given: object) => changeThing(site.db, hand, { kind: 'product', key: 'mitts-kit' }, given, oona)
    await changeStock(site.db, hand, 'mitts-kit', { stock: 21 }, oona)
    await product({ picture: 'twill' })
    expect(await codeOf(changeStock(site.db, hand, 'mitts-kit', { stock: 20, cost: 1 }, oona))).toBe('not-allowed')
    expect(await codeOf(product({ title: 'Mitts' }))).toBe('not-allowed')
    expect(await codeOf(product({ price: 1 }))).toBe('not-allowed')
    expect((await site.db.select().from(stock).where(eq(stock.product, 'mitts-kit')))[0]).toMatchObject({
      pieces: 21,
      cost: 1180,
    })
    const { thing } = await lookAtThing(site.db, keeperOf(rules), { kind: 'product', key: 'mitts-kit' })
    expect(thing).toMatchObject({ title: 'Beginner mitts kit', picture: 'twill' })
  })
})

describe('power over the rules', () => {
  it('follows the kind of entry, and a publication needs every kind it changes', async () => {
    const some = rightsOf(
      'p-tomas',
      { kind: 'gates', actions: ['look', 'change', 'publish'] },
      { kind: 'landings', actions: ['look', 'add'] },
      { kind: 'pages', actions: ['publish'] },
      { kind: 'blocks-text', actions: ['publish'] },
      { kind: 'products', actions: ['publish'] },
    )
    const gate = { id: 'ferry', on: { block: 'ferry-banner' }, open: { everyone: true } }
    expect(await permitted(some, { kind: 'gate', key: 'ferry', body: gate })).toBe('none')
    expect(await permitted(some, { kind: 'gate', key: 'new', body: { ...gate, id: 'new' } })).toBe('not-allowed')
    expect(await permitted(some, { kind: 'gate', key: 'ferry', body: null })).toBe('not-allowed')
    expect(await permitted(some, { kind: 'level', key: 'maker', body: {} })).toBe('not-allowed')
    const landing = { id: 'fresh', on: 'signIn', for: { everyone: true }, to: '/' }
    expect(await permitted(some, { kind: 'landing', key: 'fresh', body: landing })).toBe('none')
    await saveEntry(site.db, {
      permit: asSystem,
      kind: 'gate',
      key: 'new',
      body: { ...gate, id: 'new' },
      expects: null,
      actor: ines,
    })
    expect(await publishing(some)).toBe('none')
    await saveEntry(site.db, {
      permit: asSystem,
      kind: 'landing',
      key: 'fresh',
      body: landing,
      expects: null,
      actor: ines,
    })
    expect(await publishing(some)).toBe('not-allowed')
  })

  it("never grows by one's own hand", async () => {
    const power = { book: rules.rulebook, staffRules: await readStaffRules(site.db) }
    const desk = rightsOf(
      'p-dace',
      { kind: 'staff', actions: ['look', 'add', 'change', 'withdraw'] },
      { kind: 'people', actions: ['look', 'add', 'change', 'withdraw'] },
      { kind: 'roles', actions: ['look', 'add', 'change', 'withdraw'] },
      { kind: 'gates', actions: ['look', 'change'] },
    )
    expect(await codeOf(() => authoriseStaffRole(desk, power, 'stockist', 'add'))).toBe('none')
    expect(await codeOf(() => authoriseStaffRole(desk, power, 'keeper', 'add'))).toBe('not-allowed')
    expect(await codeOf(() => authoriseStaffRole(desk, power, 'page-hand', 'add'))).toBe('not-allowed')
    expect(await codeOf(authoriseOverPerson(site.db, desk, power, 'p-ines'))).toBe('not-allowed')
    expect(await codeOf(authoriseOverPerson(site.db, desk, power, 'p-mako'))).toBe('none')
    const write = (role: string, list: Omit<StaffRuleInput, 'role'>[], rights: StaffRights) =>
      codeOf(
        writeStaffRules(site.db, {
          role,
          rules: list.map(one => staffRule.parse({ role, ...one })),
          rights,
          actor: ines,
        }),
      )
    expect(await write('shop-hand', [{ kind: 'tax', actions: ['look'] }], desk)).toBe('not-allowed')
    const all: StaffRights = { personId: 'p-ines', masterKey: true, rules: [] }
    expect(await write('keeper', [], all)).toBe('in-use')
    expect(await write('stockist', [], all)).toBe('bad-input')
    expect(
      await write(
        'front-desk',
        [{ kind: 'posts', actions: ['look'], whose: 'audience', audience: 'nobody-known' }],
        all,
      ),
    ).toBe('bad-input')
    expect(await write('front-desk', [{ kind: 'people', actions: ['look'] }], all)).toBe('none')
    expect((await readStaffRules(site.db)).filter(rule => rule.role === 'front-desk')).toEqual([
      { role: 'front-desk', kind: 'people', actions: ['look'], whose: 'anyone' },
    ])
    // A role with the master key is fixed, and no settings take the last key away.
    expect(await permitted(all, { kind: 'role', key: 'keeper', body: { id: 'keeper', name: 'Key' } })).toBe('in-use')
    expect(await permitted(all, { kind: 'settings', key: 'site', body: {} })).toBe('in-use')
    // Nor does anybody become staff by the way: with a level, or with a role they hold already.
    expect(await permitted(all, { kind: 'role', key: 'stockist', body: { id: 'stockist', staff: true } })).toBe(
      'in-use',
    )
    expect(await permitted(all, { kind: 'role', key: 'fresh-hand', body: { id: 'fresh-hand', staff: true } })).toBe(
      'none',
    )
    expect(
      await permitted(all, { kind: 'level', key: 'guild', body: { id: 'guild', rank: 30, roles: ['front-desk'] } }),
    ).toBe('bad-input')
    expect(
      await permitted(all, { kind: 'level', key: 'guild', body: { id: 'guild', rank: 30, roles: ['islander'] } }),
    ).toBe('none')
    expect(
      await permitted(desk, { kind: 'settings', key: 'site', body: { masterKeys: ['keeper', 'front-desk'] } }),
    ).toBe('not-allowed')
    expect(
      await permitted(rightsOf('p-dace', { kind: 'roles', actions: ['change'] }), {
        kind: 'role',
        key: 'stockist',
        body: { id: 'stockist', staff: true },
      }),
    ).toBe('not-allowed')
  })
})
