import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Connection } from '../../server/db/database'
import { edition, trace } from '../../server/db/schema'
import type { Gate } from '../../core/rulebook/gate'
import { Problem } from '../../server/problem'
import { draftChanges } from '../../server/services/editions/changes'
import { asSystem, removeEntry, saveEntry, undoChange } from '../../server/services/editions/entries'
import { publish } from '../../server/services/editions/publish'
import { freshDatabase } from '../support/database'
import { bookAt, entriesAt } from '../support/world'

const ines = { id: 'p-ines', name: 'Ines Varga' }
const tomas = { id: 'p-tomas', name: 'Tomas Reyl' }
let site: Connection

beforeEach(async () => {
  site = await freshDatabase('demo')
})
afterEach(() => site.close())

const gate = (changes: Partial<Gate> = {}): Gate => ({
  id: 'trade',
  name: 'Trade desk',
  on: { page: 'trade', below: true },
  open: { role: { anyOf: ['stockist', 'classroom'] } },
  ...changes,
})
const versionOf = async (kind: string, key: string, at = 2) => {
  const found = (await entriesAt(site.db, at)).find(entry => entry.kind === kind && entry.key === key)!
  return { id: found.id, revision: found.revision }
}
const saveGate = async (body: unknown, expects: Awaited<ReturnType<typeof versionOf>> | null, actor = ines) =>
  saveEntry(site.db, { permit: asSystem, kind: 'gate', key: 'trade', body, expects, actor })
const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'none',
    (error: unknown) => (error instanceof Problem ? error.code : String(error)),
  )
const draft = async () => JSON.stringify(await draftChanges(site.db))

describe('the rulebook store', () => {
  it('keeps a change in the draft until it is published, then in a new edition, and the old one as it was', async () => {
    await saveGate(gate(), await versionOf('gate', 'trade'))
    // A gate has no words that only whoever opens it is sent: none of them can differ.
    expect(await draftChanges(site.db)).toMatchObject([{ key: 'trade' }])
    expect((await draftChanges(site.db))[0]).not.toHaveProperty('content')
    const openIn = async (number: number) =>
      (await bookAt(site.db, number)).gates!.find(one => one.id === 'trade')!.open
    expect(await openIn(1)).toEqual({ role: { anyOf: ['stockist'] } })
    expect(await openIn(2)).toEqual({ role: { anyOf: ['stockist', 'classroom'] } })
    expect(await publish(site.db, { authorise: asSystem, note: 'Classrooms too', expects: 1, actor: ines })).toBe(2)
    expect(await openIn(1)).toEqual({ role: { anyOf: ['stockist'] } })
    expect(await openIn(2)).toEqual({ role: { anyOf: ['stockist', 'classroom'] } })
    expect(await draftChanges(site.db)).toEqual([])
    expect((await site.db.select().from(edition)).map(one => [one.number, one.publishedBy, one.note])).toContainEqual([
      2,
      'Ines Varga',
      'Classrooms too',
    ])
    expect((await site.db.select().from(trace)).map(one => `${one.who} ${one.action} ${one.subject}`)).toEqual([
      'Ines Varga rules.change gate trade',
      'Ines Varga rules.publish edition 2',
    ])
  })

  it('keeps gates in rulebook order through changes', async () => {
    const order = async (number: number) => (await bookAt(site.db, number)).gates!.map(one => one.id)
    const before = await order(1)
    await saveGate(gate(), await versionOf('gate', 'trade'))
    expect(await order(2)).toEqual(before)
  })

  it('tells the second of two keepers, and loses nothing of either', async () => {
    const seen = await versionOf('gate', 'trade')
    await saveGate(gate({ note: 'first' }), seen, tomas)
    const second = (await saveGate(gate({ note: 'second' }), seen).catch((error: Problem) => error)) as Problem
    expect(second.code).toBe('changed-meanwhile')
    expect(second.extra.current).toMatchObject({ body: { note: 'first' }, changedBy: 'Tomas Reyl' })
    expect((await draftChanges(site.db))[0]!.after).toMatchObject({ note: 'first' })
    const theirs = second.extra.current as { id: number; revision: number }
    await saveGate(gate({ note: 'second' }), { id: theirs.id, revision: theirs.revision })
    expect((await draftChanges(site.db))[0]!.after).toMatchObject({ note: 'second' })
  })

  it('lets only one of two publishers through', async () => {
    await saveGate(gate(), await versionOf('gate', 'trade'))
    const both = await Promise.all(
      [1, 2].map(() => codeOf(publish(site.db, { authorise: asSystem, note: '', expects: 1, actor: ines }))),
    )
    expect(both.sort()).toEqual(['changed-meanwhile', 'none'])
    expect(await codeOf(publish(site.db, { authorise: asSystem, note: '', expects: 2, actor: ines }))).toBe(
      'nothing-to-publish',
    )
  })

  it('drops a change that says what is live already, and undoes a single one', async () => {
    const live = (await bookAt(site.db, 1)).gates!.find(one => one.id === 'trade')!
    await saveGate(gate(), await versionOf('gate', 'trade'))
    await saveGate(live, await versionOf('gate', 'trade'))
    expect(await draftChanges(site.db)).toEqual([])
    await saveGate(gate(), await versionOf('gate', 'trade'))
    await saveEntry(site.db, {
      permit: asSystem,
      kind: 'gate',
      key: 'new',
      body: { id: 'new', on: { page: 'visit' }, open: { signedIn: true } },
      expects: null,
      actor: ines,
    })
    await undoChange(site.db, { permit: asSystem, kind: 'gate', key: 'trade', actor: ines })
    expect((await draftChanges(site.db)).map(change => change.key)).toEqual(['new'])
  })

  it.each([
    [
      'an unknown level',
      gate({ open: { level: { atLeast: 'elder' } } }),
      'rules-broken',
      '/gates/5/open/level/atLeast',
    ],
    ['a gate that states nothing', { id: 'trade', on: { page: 'trade' } }, 'bad-input', ''],
    ['a broken date', gate({ open: { date: { from: '2026-02-30' } } }), 'bad-input', '/open/date/from'],
    ['an unknown key', { ...gate(), colour: 'red' }, 'bad-input', '/colour'],
    ['a page that is not there', gate({ on: { page: 'attic' } }), 'rules-broken', '/gates/5/on/page'],
    ['a ring', gate({ on: { page: 'trade' }, open: { opens: { page: 'trade' } } }), 'rules-broken', '/gates/5/open'],
    ['another id than the address', gate({ id: 'other' }), 'bad-input', undefined],
  ])('refuses %s and leaves the draft as it was', async (_, body, code, at) => {
    await saveGate(gate(), await versionOf('gate', 'trade'))
    const before = await draft()
    const refusal = (await saveGate(body, await versionOf('gate', 'trade')).catch((error: Problem) => error)) as Problem
    expect(refusal.code).toBe(code)
    if (at !== undefined) expect((refusal.extra.issues as { at: string }[]).map(issue => issue.at)).toContain(at)
    expect(await draft()).toBe(before)
  })

  it('names the rules that still need a level, and the people who hold one', async () => {
    const remove = async (kind: 'level' | 'role' | 'audience', key: string) =>
      removeEntry(site.db, { permit: asSystem, kind, key, expects: await versionOf(kind, key), actor: ines }).catch(
        (error: Problem) => error,
      ) as Promise<Problem>
    const maker = await remove('level', 'maker')
    expect([maker.code, maker.message]).toEqual(['in-use', 'Held by 1 person.'])
    const circle = await remove('audience', 'gansey-circle')
    expect(circle.code).toBe('in-use')
    expect(circle.message).toContain('“Gansey course”')
    await saveEntry(site.db, {
      permit: asSystem,
      kind: 'level',
      key: 'patron',
      body: { id: 'patron', name: 'Patron', rank: 40 },
      expects: null,
      actor: ines,
    })
    await removeEntry(site.db, {
      permit: asSystem,
      kind: 'level',
      key: 'patron',
      expects: await versionOf('level', 'patron'),
      actor: ines,
    })
    expect(await draftChanges(site.db)).toEqual([])
  })
})
