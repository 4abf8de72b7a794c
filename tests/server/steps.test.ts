import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { eq } from 'drizzle-orm'
import type { CompiledRules } from '../../core/gates/compiled'
import type { Level } from '../../core/rulebook/people-rules'
import { staffRule } from '../../core/staff/staff-rule'
import type { StaffRuleInput } from '../../core/staff/staff-rule'
import type { Connection } from '../../server/db/database'
import { draftStep, trace } from '../../server/db/schema'
import { inTransaction } from '../../server/db/turn'
import type { Problem } from '../../server/problem'
import { asSystem, saveEntry, undoChange } from '../../server/services/editions/entries'
import { publish } from '../../server/services/editions/publish'
import { dropOldSteps } from '../../server/services/editions/step-journal'
import { doSteps, stepsInput } from '../../server/services/editions/steps'
import type { Step } from '../../server/services/editions/steps'
import { takeBack } from '../../server/services/editions/taken-back'
import { changeThing } from '../../server/services/editions/things'
import type { Worker } from '../../server/services/live/worker'
import { contentOf } from '../../server/services/versions/versions'
import { freshDatabase } from '../support/database'
import { contentsOf, ines, keeperOf, liveRules, snapshotOf } from '../support/world'

let site: Connection & { url: string }
let rules: CompiledRules
const mako = { id: 'p-mako', name: 'Mako' }
const keeper = () => keeperOf(rules)
type Given = Record<string, unknown>

const done = (steps: Given[], worker: Worker = keeper(), actor = ines) =>
  inTransaction(site.db, tx => doSteps(tx, worker, stepsInput.parse({ steps }).steps as Step[], actor))
const back = (step: number | null, worker: Worker = keeper(), actor = ines) => takeBack(site.db, worker, step!, actor)
const problemOf = (work: Promise<unknown>) =>
  work.then(
    () => {
      throw new Error('It was not refused.')
    },
    (error: unknown) => error as Problem,
  )
const block = (id: string, place: object, more: object = {}) => ({
  id,
  kind: 'text',
  in: place,
  body: { markdown: id },
  ...more,
})
const add = (id: string, place: object, before: string | null = null, more: object = {}): Given => ({
  do: 'add',
  kind: 'block',
  thing: block(id, place, more),
  before,
})
const put = (key: string, place: object, before: string | null = null): Given => ({
  do: 'change',
  kind: 'block',
  key,
  parts: { in: place },
  before,
})
const gate = (key: string, on: object, expects: object | null = null): Given => ({
  do: 'put',
  entry: 'gate',
  key,
  body: { id: key, on, open: { signedIn: true } },
  expects,
})
const standing = async (kind: string, id: string) =>
  (await contentsOf(site)).index.standingIn(kind, id).map(one => one.id)
const gateOn = async (id: string) =>
  (await contentsOf(site)).book.gates?.filter(one => 'block' in one.on && one.on.block === id).map(one => one.id) ?? []
/** All the draft says, rows and contents: what must be the same after taking everything back. */
async function draftNow() {
  const { versions } = await contentsOf(site)
  const contents = await contentOf(
    site.db,
    versions.map(one => one.id),
  )
  return versions.map(({ kind, key, position, body, id }) => ({ kind, key, position, body, content: contents.get(id) }))
}

beforeAll(async () => {
  site = await freshDatabase('demo')
  rules = await liveRules(site)
  await done([{ do: 'add', kind: 'page', thing: { id: 'looms', path: '/looms', title: 'Looms' } }])
  for (const id of ['one', 'two', 'three']) await done([add(id, { page: 'looms' })])
})
afterAll(() => site.close())

describe('what is done in one breath', () => {
  let before: Awaited<ReturnType<typeof draftNow>>
  beforeEach(async () => {
    before = await draftNow()
  })
  const wrap = [
    add('box', { page: 'looms' }, 'one', { kind: 'group', body: {} }),
    put('one', { block: 'box' }),
    put('two', { block: 'box' }),
    gate('box-only', { block: 'box' }),
  ]

  it('may be right only as a whole: two levels swap ranks, which neither could take alone', async () => {
    const [low, high] = (await contentsOf(site)).book.levels!
    const now = await contentsOf(site)
    const ranked = (level: Level, rank: number): Given => {
      const { id, revision } = now.get('level', level.id)!
      return { do: 'put', entry: 'level', key: level.id, body: { ...level, rank }, expects: { id, revision } }
    }
    const swap = [ranked(low!, high!.rank), ranked(high!, low!.rank)]
    expect((await problemOf(done([swap[0]!]))).reason).toBe('edition-broken')
    const { step } = await done(swap)
    const ranks = (await contentsOf(site)).book.levels!.map(one => [one.id, one.rank])
    expect(ranks).toEqual(
      expect.arrayContaining([
        [low!.id, high!.rank],
        [high!.id, low!.rank],
      ]),
    )
    await back(step)
    expect(await draftNow()).toEqual(before)
  })

  it('is one change: all of it is in the draft, and one taking back puts all of it as it was', async () => {
    const { step, names } = await done(wrap)
    expect([await standing('page', 'looms'), await standing('block', 'box'), await gateOn('box')]).toEqual([
      ['box', 'three'],
      ['one', 'two'],
      ['box-only'],
    ])
    expect(names.map(one => `${one.kind} ${one.key}`)).toEqual(['block box', 'block one', 'block two', 'gate box-only'])
    const lines = await site.db.select().from(trace).where(eq(trace.subject, 'block box'))
    expect(lines.map(line => [line.action, line.who])).toEqual([['block.add', 'Ines Varga']])
    const undone = await back(step)
    expect(await draftNow()).toEqual(before)
    // And again, and back once more.
    const again = await back(undone.step)
    expect(await standing('block', 'box')).toEqual(['one', 'two'])
    await back(again.step)
    expect(await draftNow()).toEqual(before)
  })

  it.each([
    ['the last', [...wrap, put('three', { block: 'nothing' })], '/steps/4'],
    ['the first', [put('three', { block: 'nothing' }), ...wrap], '/steps/0'],
    [
      'a gate of none',
      [
        ...wrap.slice(0, 3),
        { ...wrap[3]!, body: { id: 'box-only', on: { block: 'nowhere' }, open: { signedIn: true } } },
      ],
      undefined,
    ],
  ] as [string, Given[], string | undefined][])('is nothing at all where %s does not fit', async (_, steps, at) => {
    const steps_ = await site.db.$count(draftStep)
    const problem = await problemOf(done(steps))
    expect([problem.statusCode < 500, problem.extra.step]).toEqual([true, at])
    expect([await draftNow(), await site.db.$count(draftStep)]).toEqual([before, steps_])
  })

  it('takes what stands in a thing along, with the gates on all of it, and brings all of it back', async () => {
    const made = await done([
      ...wrap,
      gate('one-only', { block: 'one' }),
      { do: 'copy', kind: 'block', key: 'box', as: { id: 'second-box' }, before: 'three' },
    ])
    expect(await standing('page', 'looms')).toEqual(['box', 'second-box', 'three'])
    expect(await gateOn('second-box')).toHaveLength(1)
    const full = await draftNow()
    const { step } = await done([{ do: 'remove', kind: 'block', key: 'box', gates: true }])
    expect([await standing('page', 'looms'), await gateOn('box'), await gateOn('one')]).toEqual([
      ['second-box', 'three'],
      [],
      [],
    ])
    await back(step)
    expect(await draftNow()).toEqual(full)
    await back(made.step)
    expect(await draftNow()).toEqual(before)
  })

  it('keeps what the words of a thing are, though an earlier step changed them', async () => {
    const { step } = await done([
      { do: 'change', kind: 'block', key: 'one', parts: { body: { markdown: 'Said anew.' } } },
      { do: 'change', kind: 'block', key: 'one', parts: { title: 'With a heading' } },
    ])
    const one = (await draftNow()).find(row => row.key === 'one')!
    expect([one.content, (one.body as { title?: string }).title]).toEqual([
      expect.objectContaining({ body: { markdown: 'Said anew.' } }),
      'With a heading',
    ])
    await back(step)
    expect(await draftNow()).toEqual(before)
  })
})

describe('taking back', () => {
  const level = (name: string) => ({ id: 'guild', name, rank: 30 })
  const now = async () => (await contentsOf(site)).book.levels!.find(one => one.id === 'guild')!
  async function named(name: string, actor = ines) {
    const draft = await contentsOf(site)
    const { id, revision } = draft.get('level', 'guild')!
    const body = { ...(draft.get('level', 'guild')!.body as object), ...level(name), rank: (await now()).rank }
    return saveEntry(site.db, { kind: 'level', key: 'guild', body, expects: { id, revision }, actor, permit: asSystem })
  }

  it('goes one by one, the last first, and over publishing', async () => {
    const first = (await now()).name
    const [a, b] = [await named('A'), await named('B')]
    expect(await problemOf(back(a.step))).toMatchObject({ code: 'changed-meanwhile', reason: 'step-overtaken' })
    await publish(site.db, { note: '', expects: 1, actor: ines, authorise: asSystem })
    await back(b.step)
    expect((await now()).name).toBe('A')
    await back(a.step)
    expect((await now()).name).toBe(first)
  })

  it('is not done over what somebody else changed since: it is told who, and nothing is lost', async () => {
    const mine = await named('Mine')
    await named('Theirs', mako)
    const problem = await problemOf(back(mine.step))
    expect(problem).toMatchObject({ reason: 'step-overtaken', facts: { by: 'Mako', more: 0 } })
    expect(problem.message).toContain('level “Theirs”')
    expect((await now()).name).toBe('Theirs')
    // Once they have taken theirs back, mine can be.
    const theirs = await site.db.select().from(draftStep).where(eq(draftStep.personId, 'p-mako'))
    await back(theirs.at(-1)!.id, keeper(), mako)
    await back(mine.step)
  })

  it('is for whoever did it, once, however often and at once it is asked', async () => {
    const { step } = await named('Once')
    expect(await problemOf(back(step, keeper(), mako))).toMatchObject({ reason: 'no-such-step' })
    const tries = await Promise.allSettled([back(step), back(step), back(step)])
    expect(tries.map(one => one.status).sort()).toEqual(['fulfilled', 'rejected', 'rejected'])
    expect(await problemOf(back(step))).toMatchObject({ reason: 'no-such-step' })
    expect(await problemOf(back(0))).toMatchObject({ reason: 'no-such-step' })
  })

  it('takes the rights that writing it by hand takes, and tells nothing that may not be looked at', async () => {
    const hand = (...list: Omit<StaffRuleInput, 'role'>[]): Worker => ({
      rights: {
        personId: 'p-mako',
        masterKey: false,
        rules: list.map(one => staffRule.parse({ role: 'hand', ...one })),
      },
      snapshot: snapshotOf(rules),
    })
    const titles = hand({ kind: 'pages', actions: ['change'], fields: ['title'] })
    const page = { kind: 'page' as const, key: 'looms' }
    const { step } = await changeThing(site.db, titles, page, { title: 'Great looms' }, mako)
    expect(await problemOf(back(step, hand({ kind: 'pages', actions: ['look'] }), mako))).toMatchObject({
      code: 'not-allowed',
    })
    await back(step, titles, mako)
    expect((await contentsOf(site)).get('page', 'looms')!.body).toMatchObject({ title: 'Looms' })
  })

  it('puts a removal back only where what it names is still there', async () => {
    const made = await done([
      { do: 'add', kind: 'page', thing: { id: 'shed', path: '/shed', title: 'Shed' } },
      { do: 'add', kind: 'page', thing: { id: 'loft', path: '/shed/loft', title: 'Loft', parent: 'shed' } },
    ])
    const { step } = await done([{ do: 'remove', kind: 'page', key: 'loft' }])
    await done([{ do: 'remove', kind: 'page', key: 'shed' }])
    const problem = await problemOf(back(step))
    expect([problem.statusCode, problem.message]).toEqual([422, expect.stringContaining('page loft /parent')])
    expect(await problemOf(back(made.step))).toMatchObject({ reason: 'step-overtaken' })
  })

  it('knows a change that was undone to what is live', async () => {
    const { name: live } = (await contentsOf(site, 2)).book.levels!.find(one => one.id === 'guild')!
    const before = (await now()).name
    const { step } = await named('For a while')
    const undone = await undoChange(site.db, { kind: 'level', key: 'guild', actor: ines, permit: asSystem })
    expect((await now()).name).toBe(live)
    await back(undone.step)
    expect((await now()).name).toBe('For a while')
    await back(step)
    expect((await now()).name).toBe(before)
  })

  it('is kept for a while and for so many, and of nobody for the program itself', async () => {
    const system = { id: null, name: 'bravik' }
    expect((await named('By nobody', system as never)).step).toBeNull()
    await site.db
      .insert(draftStep)
      .values(Array.from({ length: 250 }, () => ({ personId: ines.id, madeAt: new Date('2020-01-01'), back: [] })))
    await named('The last')
    expect(await site.db.$count(draftStep, eq(draftStep.personId, ines.id))).toBe(200)
    await dropOldSteps(site.db)
    expect(await site.db.$count(draftStep, eq(draftStep.personId, ines.id))).toBe(1)
  })
})

describe('steps', () => {
  it('are bounded and known', () => {
    const wrong = (steps: unknown) => stepsInput.safeParse({ steps }).success
    expect([
      wrong([]),
      wrong(Array.from({ length: 501 }, () => ({ do: 'move', kind: 'block', key: 'one', before: null }))),
      wrong([{ do: 'publish' }]),
      wrong([{ do: 'move', kind: 'person', key: 'p-ines', before: null }]),
      wrong([{ do: 'put', entry: 'block', key: 'one', body: {}, expects: null }]),
      wrong([{ do: 'remove', kind: 'block', key: 'one', also: 'that' }]),
    ]).toEqual([false, false, false, false, false, false])
  })
})
