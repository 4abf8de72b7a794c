import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { staffRule } from '../../core/staff/staff-rule'
import type { StaffRights, StaffRuleInput } from '../../core/staff/staff-rule'
import type { RuleEntry } from '../../core/rulebook/rulebook'
import type { CompiledRules } from '../../core/gates/compiled'
import type { Connection } from '../../server/db/database'
import { stock, thing } from '../../server/db/schema'
import { Problem } from '../../server/problem'
import { addThing, changeThing, removeThing } from '../../server/services/editions/things'
import { permitEntry } from '../../server/services/editions/entry-rights'
import { authorisePublication, publicationOf } from '../../server/services/editions/publish'
import { changeStock, listProducts } from '../../server/services/shop/stock'
import { saveEntry } from '../../server/services/editions/draft'
import { authoriseOverPerson, authoriseStaffRole } from '../../server/services/staff/staff-grants'
import { readStaffRules, writeStaffRules } from '../../server/services/staff/staff-rules'
import { freshDatabase } from '../support/database'
import type { VersionedThing } from '../../core/kinds/kinds'
import { ines, inTurn, keeperOf, liveRules, snapshotOf, tried } from '../support/world'
import type { Worker } from '../../server/services/editions/worker'

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

describe('the shop hand of the demo', () => {
  it('changes stock and pictures, is not sent the cost and cannot change it', async () => {
    const rights: StaffRights = {
      personId: 'p-oona',
      masterKey: false,
      rules: (await readStaffRules(site.db)).filter(rule => rule.role === 'shop-hand'),
    }
    const hand = { rights, snapshot: snapshotOf(rules) }
    const [first] = await listProducts(site.db, hand)
    expect(first).toEqual({
      id: 'mitts-kit',
      version: { id: expect.any(Number) as number, revision: 1 },
      title: 'Beginner mitts kit',
      picture: 'gansey',
      price: 2400,
      stock: 22,
      may: ['picture', 'stock'],
    })
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
    expect((await listProducts(site.db, hand))[0]).toMatchObject({ title: 'Beginner mitts kit', picture: 'twill' })
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
    await saveEntry(site.db, { kind: 'gate', key: 'new', body: { ...gate, id: 'new' }, expects: null, actor: ines })
    expect(await publishing(some)).toBe('none')
    await saveEntry(site.db, { kind: 'landing', key: 'fresh', body: landing, expects: null, actor: ines })
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
