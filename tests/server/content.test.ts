import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { staffRule } from '../../core/staff/staff-rule'
import type { StaffRuleInput } from '../../core/staff/staff-rule'
import type { CompiledRules } from '../../core/gates/compiled'
import type { VersionedThing } from '../../core/kinds/kinds'
import type { Connection } from '../../server/db/database'
import { siteState, thing } from '../../server/db/schema'
import { serverKinds } from '../../server/kinds/kinds'
import { Problem } from '../../server/problem'
import { asSystem, removeEntry, saveEntry } from '../../server/services/editions/entries'
import { lookable } from '../../server/services/editions/thing-rights'
import { addThing, changeThing, moveThing, removeThing } from '../../server/services/editions/things'
import type { StoredVersion } from '../../server/services/versions/versions'
import { freshDatabase } from '../support/database'
import { contentsOf, entriesAt, ines, keeperOf, liveRules, snapshotOf, tried } from '../support/world'

let site: Connection & { url: string }
let rules: CompiledRules
const keeper = () => keeperOf(rules)
const addPage = (input: object) => addThing(site.db, keeper(), 'page', input, ines)
const addBlock = (input: object, actor = ines) => addThing(site.db, keeper(), 'block', input, actor)
const changeBlock = (key: string, change: object) =>
  changeThing(site.db, keeper(), { kind: 'block', key }, change, ines)
const moveBlock = (key: string, before: string | null) =>
  moveThing(site.db, keeper(), { kind: 'block', key, before }, ines)
const remove = (kind: VersionedThing, key: string) => removeThing(site.db, keeper(), { kind, key }, ines)
beforeAll(async () => {
  site = await freshDatabase('demo')
  rules = await liveRules(site)
  await addPage({ id: 'looms', path: '/looms', title: 'Looms' })
})
afterAll(() => site.close())

const problemOf = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: unknown) => error as Problem,
  )
const codeOf = async (work: Promise<unknown>) => {
  const problem = await problemOf(work)
  return problem === null ? 'none' : problem instanceof Problem ? problem.code : String(problem)
}
const text = (id: string, place: object = { page: 'looms' }) => ({
  id,
  kind: 'text',
  in: place,
  body: { markdown: id },
})
const version = async () => (await site.db.select().from(siteState))[0]!.draftVersion
const standing = async (page: string) => (await contentsOf(site)).index.standingIn('page', page).map(one => one.id)
const orderOf = standing
const worker = (personId: string, ...list: Omit<StaffRuleInput, 'role'>[]) => ({
  rights: { personId, masterKey: false, rules: list.map(one => staffRule.parse({ role: 'page-hand', ...one })) },
  snapshot: snapshotOf(rules),
})
const kept = async (kind: VersionedThing) =>
  (await contentsOf(site)).of(kind) as (StoredVersion & { kind: VersionedThing })[]

describe('things in one another', () => {
  it('lie so deep and no deeper, however they come there', async () => {
    const group = (id: string, place: object) => ({ id, kind: 'group', in: place, body: {} })
    await addBlock(group('deep-1', { page: 'looms' }))
    for (let n = 2; n < 30; n++) await addBlock(group(`deep-${n}`, { block: `deep-${n - 1}` }))
    const more = await problemOf(addBlock(group('deep-30', { block: 'deep-29' })))
    expect(more).toMatchObject({ code: 'bad-input', extra: { at: '/in/block' } })
    expect(more!.message).toContain('30')
    // What holds others brings them along.
    await addBlock(group('tall-1', { page: 'looms' }))
    await addBlock(group('tall-2', { block: 'tall-1' }))
    expect(await codeOf(changeBlock('tall-1', { in: { block: 'deep-28' } }))).toBe('bad-input')
    expect(await codeOf(changeBlock('tall-1', { in: { block: 'deep-27' } }))).toBe('none')
    await remove('block', 'deep-1')
  })
})

describe('blocks', () => {
  it('stand in the order they are put in, among those beside them', async () => {
    for (const id of ['one', 'two', 'three']) await addBlock(text(id))
    await addBlock({ id: 'box', kind: 'group', in: { page: 'looms' }, body: {} })
    await addBlock(text('inner', { block: 'box' }))
    const before = await version()
    await moveBlock('three', 'one')
    expect(await orderOf('looms')).toEqual(['three', 'one', 'two', 'box'])
    await moveBlock('three', null)
    expect(await orderOf('looms')).toEqual(['one', 'two', 'box', 'three'])
    expect(await version()).toBe(before + 2)
  })

  it('do not go where they are not: the order stays as it was', async () => {
    const before = await orderOf('looms')
    expect(await codeOf(moveBlock('one', 'inner'))).toBe('bad-input')
    expect(await codeOf(moveBlock('one', 'one'))).toBe('bad-input')
    expect(await codeOf(moveBlock('gone', null))).toBe('not-found')
    expect(await orderOf('looms')).toEqual(before)
  })

  it('moved by two at once end in one order, with nobody lost', async () => {
    await Promise.all([moveBlock('two', null), moveBlock('three', 'one')])
    const order = await orderOf('looms')
    expect([...order].sort()).toEqual(['box', 'one', 'three', 'two'])
    const there = (await kept('block')).filter(one => order.includes(one.key))
    expect(new Set(there.map(one => one.position)).size).toBe(4)
  })

  it('stand in one place that is there, and never in themselves', async () => {
    expect(await codeOf(addBlock(text('lost', { page: 'nowhere' })))).toBe('bad-input')
    expect(await codeOf(addBlock(text('lost', { block: 'nothing' })))).toBe('bad-input')
    await addBlock({ id: 'inner-box', kind: 'group', in: { block: 'box' }, body: {} })
    expect(await codeOf(changeBlock('box', { in: { block: 'inner-box' } }))).toBe('bad-input')
    expect(await codeOf(changeBlock('box', { in: { block: 'box' } }))).toBe('bad-input')
    expect(await codeOf(addBlock(text('both', { page: 'looms', block: 'box' })))).toBe('bad-input')
    expect(await codeOf(addBlock({ id: 'none', kind: 'text', body: { markdown: '' } }))).toBe('bad-input')
    expect(await codeOf(addBlock(text('in-words', { block: 'one' })))).toBe('bad-input')
    expect(await codeOf(changeBlock('box', { kind: 'text', body: { markdown: 'x' } }))).toBe('in-use')
  })

  it.each([
    ['text', { markdown: 3 }, '/body/markdown'],
    ['call', { label: 'Go', href: 'javascript:alert(1)' }, '/body/href'],
    ['call', { label: 'Go', href: '//elsewhere.example' }, '/body/href'],
    ['picture', { pattern: 'tartan', alt: '' }, '/body/pattern'],
    ['panel', { shows: 'passwords' }, '/body/shows'],
    ['group', { extra: 1 }, '/body'],
  ])('of kind %s with a body of %j are refused at %s', async (kind, body, at) => {
    const problem = await problemOf(addBlock({ id: 'x', kind, in: { page: 'looms' }, body }))
    expect([problem!.code, problem!.extra.at]).toEqual(['bad-input', at])
  })

  it('stay while a rule stands on them, and go once it is gone', async () => {
    await saveEntry(site.db, {
      permit: asSystem,
      kind: 'gate',
      key: 'one',
      body: { id: 'one', on: { block: 'one' }, open: { signedIn: true } },
      expects: null,
      actor: ines,
    })
    expect(await codeOf(remove('block', 'one'))).toBe('in-use')
    expect(await orderOf('looms')).toContain('one')
    const { id, revision } = (await entriesAt(site.db)).find(one => one.kind === 'gate' && one.key === 'one')!
    await removeEntry(site.db, { permit: asSystem, kind: 'gate', key: 'one', expects: { id, revision }, actor: ines })
    await remove('block', 'one')
    expect(await orderOf('looms')).not.toContain('one')
  })
})

describe('pages', () => {
  it.each(['looms', '/looms/', '/looms?x=1', '//looms', '/lo oms', '/api/x', '/loft/people', '/sign-in'])(
    'do not take the address %s',
    path => {
      expect(serverKinds.page.input.safeParse({ path, title: 'X' }).success).toBe(false)
    },
  )

  it('go with their blocks, but not from above others', async () => {
    await addPage({ id: 'loom-care', path: '/looms/care', parent: 'looms', title: 'Care' })
    await addBlock(text('care-words', { page: 'loom-care' }))
    expect(await codeOf(remove('page', 'looms'))).toBe('in-use')
    await remove('page', 'loom-care')
    expect((await kept('block')).filter(one => one.key === 'care-words')).toEqual([])
    expect(await codeOf(remove('page', 'loom-care'))).toBe('not-found')
  })
})

describe('staff who look after blocks', () => {
  const tomas = { id: 'p-tomas', name: 'Tomas Orre' }

  it('move what is theirs, where they may change its place', async () => {
    await addBlock(text('tomas-block'), tomas)
    const words = worker('p-tomas', { kind: 'blocks-text', actions: ['look', 'change'], fields: ['body'], whose: 'me' })
    const placing = worker('p-tomas', { kind: 'blocks-text', actions: ['change'], fields: ['place'], whose: 'me' })
    const move = (who: typeof words, key: string) =>
      tried(site.db, db => moveThing(db, who, { kind: 'block', key, before: null }, ines))
    const change = (who: typeof words, given: object) =>
      tried(site.db, db => changeThing(db, who, { kind: 'block', key: 'tomas-block' }, given, ines))
    expect(await move(words, 'tomas-block')).toBe('not-allowed')
    expect(await move(placing, 'tomas-block')).toBe('none')
    expect(await move(placing, 'two')).toBe('not-allowed')
    expect(await move(placing, 'gone')).toBe('not-found')
    const rewritten = { kind: 'text', in: { page: 'looms' }, body: { markdown: 'New words' }, summary: '' }
    expect(await change(words, rewritten)).toBe('none')
    expect(await change(words, { in: { page: 'looms' }, position: 9 })).toBe('not-allowed')
  })

  it('do not turn a block into a kind they may not add', async () => {
    const texts = worker('p-tomas', { kind: 'blocks-text', actions: ['look', 'add', 'change'], whose: 'anyone' })
    const call = { kind: 'call', body: { label: 'Go', href: '/' } }
    expect(await tried(site.db, db => changeThing(db, texts, { kind: 'block', key: 'two' }, call, ines))).toBe(
      'not-allowed',
    )
  })

  it('see of pages and blocks what they may look at: by who made it, who looks after it, and what its maker is', async () => {
    await site.db
      .update(thing)
      .set({ assignedTo: 'p-tomas' })
      .where(and(eq(thing.kind, 'page'), eq(thing.key, 'ferry')))
    const mine = worker(
      'p-tomas',
      { kind: 'pages', actions: ['look'], whose: 'assigned' },
      { kind: 'blocks-text', actions: ['look'], whose: 'me' },
    )
    const seen = async (who: typeof mine, kind: VersionedThing) =>
      (await lookable(site.db, who, await kept(kind))).map(({ one }) => one.key)
    expect(await seen(mine, 'page')).toEqual(['ferry'])
    expect(await seen(mine, 'block')).toEqual(['tomas-block'])
    // Guda is in the gansey circle; what she made shows to whom looks after what the circle makes.
    await addBlock(text('guda-block'), { id: 'p-guda', name: 'Guda Moor' })
    const circle = worker('p-tomas', {
      kind: 'blocks-text',
      actions: ['look'],
      whose: 'audience',
      audience: 'gansey-circle',
    })
    expect(await seen(circle, 'block')).toEqual(['guda-block'])
  })
})
