import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Offer } from '../../core/rulebook/shop-rules'
import type { Connection } from '../../server/db/database'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { CompiledRules } from '../../core/gates/compiled'
import { asSystem, removeEntry, saveEntry } from '../../server/services/editions/entries'
import { addThing, changeThing, removeThing } from '../../server/services/editions/things'
import { assembleView } from '../../server/services/pages/page-view'
import { bookAt, contentsOf, entriesAt, ines, keeperOf, liveRules, snapshotOf } from '../support/world'
import { freshDatabase } from '../support/database'

let site: Connection
beforeAll(async () => {
  site = await freshDatabase('demo')
})
afterAll(() => site.close())

type Refused = { code?: string; extra?: { at?: string; issues?: { at?: string; message?: string }[] } }
const told = (work: Promise<unknown>) =>
  work.then(
    () => 'done',
    ({ code, extra }: Refused) => [code, ...(extra?.issues ?? [{ at: extra?.at }]).map(one => one.at)],
  )
const yarn: Omit<Offer, 'id'> = { on: { categories: ['yarn'] }, bands: [{ off: { percent: 10 } }] }
const save = (key: string, offer: object) =>
  told(
    saveEntry(site.db, {
      permit: asSystem,
      kind: 'offer',
      key,
      body: { id: key, ...offer },
      expects: null,
      actor: ines,
    }),
  )
const remove = async (kind: 'role' | 'category' | 'offer', key: string) => {
  if (kind === 'category')
    return told(removeThing(site.db, keeperOf(await liveRules(site)), { kind: 'category', key }, ines))
  const { id, revision } = (await entriesAt(site.db)).find(one => one.kind === kind && one.key === key)!
  return told(removeEntry(site.db, { permit: asSystem, kind, key, expects: { id, revision }, actor: ines }))
}
describe('an offer', () => {
  it('for a role that is removed meanwhile keeps the role, and is refused where the role is gone already', async () => {
    await saveEntry(site.db, {
      permit: asSystem,
      kind: 'role',
      key: 'dyer',
      body: { id: 'dyer', name: 'Dyer' },
      expects: null,
      actor: ines,
    })
    expect(await save('dyers', { ...yarn, for: { role: { anyOf: ['dyer'] } } })).toBe('done')
    expect(await remove('role', 'dyer')).toEqual(['in-use', expect.anything()])
    expect(await remove('offer', 'dyers')).toBe('done')
    expect(await remove('role', 'dyer')).toBe('done')
    const last = (await bookAt(site.db)).offers!.length
    expect(await save('dyers', { ...yarn, for: { role: { anyOf: ['dyer'] } } })).toEqual([
      'rules-broken',
      `/offers/${last}/for/role/anyOf/0`,
    ])
    expect((await bookAt(site.db)).offers!.some(one => one.id === 'dyers')).toBe(false)
    expect(await remove('category', 'yarn')).toContain('in-use')
  })

  it.each<[string, object, string]>([
    ['steps upside down', { by: 'product', bands: [{ from: 10, to: 5, off: { percent: 1 } }] }, '/bands/0/to'],
    [
      'steps over one another',
      {
        by: 'product',
        bands: [
          { from: 1, to: 9, off: { percent: 1 } },
          { from: 9, off: { percent: 2 } },
        ],
      },
      '/bands/1/from',
    ],
    ['a step from nothing', { by: 'product', bands: [{ from: 0, off: { percent: 1 } }] }, '/bands/0/from'],
    ['a negative price', { bands: [{ off: { price: -1 } }] }, '/bands/0/off/price'],
    ['a price that is no number', { bands: [{ off: { price: 'much' } }] }, '/bands/0/off/price'],
    ['a huge percentage', { bands: [{ off: { percent: 101 } }] }, '/bands/0/off/percent'],
    ['how often a code works, without one', { uses: { all: 3 } }, '/uses'],
    ['a code that never works', { code: 'X', uses: { all: 0 } }, '/uses/all'],
  ])('with %s is refused at its place', async (_, given, path) => {
    const found = (await save('bad', { ...yarn, ...given })) as string[]
    expect(found[0]).toMatch(/rules-broken|bad-input/)
    expect(
      found.slice(1).some(one => one.endsWith(path)),
      found.join(' '),
    ).toBe(true)
    expect((await bookAt(site.db)).offers!.some(one => one.id === 'bad')).toBe(false)
  })
})

describe('a category', () => {
  it('that would lie in itself, however far in, is refused', async () => {
    const keeper = keeperOf(await liveRules(site))
    for (const [id, parent] of [
      ['one', undefined],
      ['two', 'one'],
      ['three', 'two'],
    ])
      await addThing(
        site.db,
        keeper,
        'category',
        { id, title: id, path: `/shop/${id}`, ...(parent ? { parent } : {}) },
        ines,
      )
    const lies = (key: string, parent: string) =>
      told(changeThing(site.db, keeper, { kind: 'category', key }, { parent }, ines))
    for (const inner of ['one', 'two', 'three']) expect((await lies('one', inner))[0]).toMatch(/rules-broken|bad-input/)
    expect(await lies('three', 'one')).toBe('done')
  })
})

describe('a part that shows a code', () => {
  it('is there for those the offer is for, and in no byte for others, nor for anybody once it is switched off', async () => {
    const keeper = keeperOf(await liveRules(site))
    const offer: Offer = { id: 'guild-code', ...yarn, code: '🧶WOOLDAY', for: { level: { atLeast: 'guild' } } }
    await saveEntry(site.db, {
      permit: asSystem,
      kind: 'offer',
      key: offer.id,
      body: offer,
      expects: null,
      actor: ines,
    })
    const block = { id: 'c', kind: 'code', title: 'For the guild', in: { page: 'visit' }, body: { offer: offer.id } }
    await addThing(site.db, keeper, 'block', block, ines)
    const contents = await contentsOf(site)
    const seen = async (level: string | null, active = true) => {
      const book = { ...contents.book, offers: contents.book.offers!.map(one => ({ ...one, active })) }
      const rules = new CompiledRules(book, contents.index)
      const visitor =
        level === null
          ? { person: null }
          : { person: { id: 'p-x', name: 'X' }, levels: [{ level, since: '2026-01-01T00:00:00Z' }] }
      const decider = new CompiledDecider(rules, visitor, Date.now())
      const { view } = await assembleView({
        snapshot: snapshotOf(rules, [], contents),
        decider,
        db: site.db,
        path: '/visit',
      })
      return JSON.stringify(view)
    }
    expect(await seen('guild')).toContain('🧶WOOLDAY')
    for (const hidden of [await seen(null), await seen('maker'), await seen('guild', false)])
      expect(hidden).not.toMatch(/WOOLDAY|guild-code|For the guild/)
  })
})
