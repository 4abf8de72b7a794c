import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { CompiledRules } from '../../core/gates/compiled'
import type { Visitor } from '../../core/visitor/visitor'
import { staffRule } from '../../core/staff/staff-rule'
import type { Connection } from '../../server/db/database'
import { Problem } from '../../server/problem'
import { publish } from '../../server/services/editions/publish'
import { asSystem, removeEntry, saveEntry } from '../../server/services/editions/entries'
import { lookAtThing, lookAtVersions } from '../../server/services/editions/look'
import { copyThing } from '../../server/services/editions/copied-things'
import { addThing, changeThing } from '../../server/services/editions/things'
import { assembleView, cacheHeaders } from '../../server/services/pages/page-view'
import { contentsOf, ines, keeperOf, liveRules, snapshotOf } from '../support/world'
import { freshDatabase } from '../support/database'

let site: Connection
const nowMs = Date.parse('2026-11-24T10:00:00Z')
const guest: Visitor = { person: null }
const somebody = (id: string, level: string): Visitor => ({
  person: { id, name: `<${id}>` },
  levels: [{ level, since: '2026-01-01T00:00:00Z' }],
})
const keeping = async () => keeperOf(await liveRules(site))
const text = 'Open. :for[The key hangs behind the loom.]{who="Maker or above" else="Makers know."} Shut.'

beforeAll(async () => {
  site = await freshDatabase('demo')
  await addThing(
    site.db,
    await keeping(),
    'block',
    { id: 'key', kind: 'text', in: { page: 'visit' }, body: { markdown: text } },
    ines,
  )
})
afterAll(() => site.close())

const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'none',
    (error: unknown) => (error instanceof Problem ? error.code : String(error)),
  )
const write = async (markdown: string) =>
  changeThing(site.db, await keeping(), { kind: 'block', key: 'key' }, { body: { markdown } }, ines)
async function sent(visitor: Visitor, path = '/visit') {
  const contents = await contentsOf(site)
  const rules = new CompiledRules(contents.book, contents.index)
  const decider = new CompiledDecider(rules, visitor, nowMs)
  const assembled = await assembleView({ snapshot: snapshotOf(rules, [], contents), decider, db: site.db, path })
  return {
    html: assembled.slots.fill(JSON.stringify(assembled.view.blocks)),
    cache: cacheHeaders(assembled, {})['cache-control'],
  }
}

describe('a passage', () => {
  it('is in the bytes of whom it is for, and of nobody else; the page is no public one any more', async () => {
    const [one, two] = [await sent(guest), await sent(somebody('m', 'maker'))]
    expect([one.html.includes('behind the loom'), one.html.includes('Makers know.')]).toEqual([false, true])
    expect([two.html.includes('behind the loom'), two.html.includes('Makers know.')]).toEqual([true, false])
    expect(one.cache).toBe('private, no-cache')
    const keeper = await sent({ person: { id: 'k' }, roles: ['keeper'] })
    expect(keeper.html).toContain('behind the loom')
  })

  it('greets whoever reads it, escaped, and others by other words', async () => {
    await write('Good evening, :reader[name]{else="friend"} of :reader[levels]{else="nothing yet"}.')
    expect((await sent(guest)).html).toContain('Good evening, friend of nothing yet.')
    expect((await sent(somebody('a', 'maker'))).html).toContain('Good evening, &#60;a&#62; of Maker.')
  })

  it('that is not right waits in the draft, is sent to nobody, and is published nowhere', async () => {
    await write('Open. :for[The key hangs behind the loom.')
    for (const visitor of [guest, somebody('m', 'guild')]) {
      const { html } = await sent(visitor)
      expect([html.includes('behind the loom'), html.includes('Open.')]).toEqual([false, false])
    }
    expect(await codeOf(publish(site.db, { authorise: asSystem, note: '', expects: 1, actor: ines }))).toBe(
      'rules-broken',
    )
    await write('So :for[x]{who="Makr or above"}')
    expect(await codeOf(publish(site.db, { authorise: asSystem, note: '', expects: 1, actor: ines }))).toBe(
      'rules-broken',
    )
    await write(text)
    expect(await codeOf(publish(site.db, { authorise: asSystem, note: '', expects: 1, actor: ines }))).toBe('none')
  })

  it('keeps what it names: that is not removed under it, and it means the same when that is renamed', async () => {
    const maker = (await contentsOf(site)).get('level', 'maker')!
    const expects = { id: maker.id, revision: maker.revision }
    expect(
      await codeOf(removeEntry(site.db, { permit: asSystem, kind: 'level', key: 'maker', expects, actor: ines })),
    ).not.toBe('none')
    const body = { ...(maker.body as object), name: 'Weaver' }
    await saveEntry(site.db, { permit: asSystem, kind: 'level', key: 'maker', body, expects, actor: ines })
    expect((await sent(somebody('m', 'maker'))).html).toContain('behind the loom')
    expect((await sent(guest)).html).not.toContain('behind the loom')
  })

  it('cannot be given from outside, and is copied with its text', async () => {
    const forged = { body: { markdown: 'Secret. :for[Words.]{who="Guild or above"}' }, passages: [{ everyone: true }] }
    await changeThing(site.db, await keeping(), { kind: 'block', key: 'key' }, forged, ines)
    expect((await sent(guest)).html).not.toContain('Words.')
    await copyThing(site.db, await keeping(), { kind: 'block', key: 'key' }, { id: 'key-2' }, ines)
    const copy = (await contentsOf(site)).get('block', 'key-2')!.body as { passages: unknown[] }
    expect(copy.passages).toEqual([{ level: { atLeast: 'guild' } }])
  })
})

describe('a sign-in form', () => {
  it('stands for guests, and for nobody who is in', async () => {
    const form = { id: 'come-in', kind: 'signIn', in: { page: 'visit' }, body: {} }
    await addThing(site.db, await keeping(), 'block', form, ines)
    expect((await sent(guest)).html).toContain('"kind":"signIn"')
    expect((await sent(somebody('m', 'maker'))).html).not.toContain('"kind":"signIn"')
  })
})

describe('things looked at by their rows', () => {
  it('are told as the rights go: nothing of others, and no part that may not be looked at', async () => {
    const row = (await contentsOf(site)).get('block', 'key')!
    const gate = (await contentsOf(site)).versions.find(one => one.kind === 'gate')!
    const all = await lookAtVersions(site.db, await keeping(), [row.id, gate.id, 999_999_999])
    expect(all.map(one => [one.id, one.version.revision])).toEqual([['key', row.revision]])
    const hand = (fields?: string[]) => ({
      rights: {
        personId: 'p-tomas',
        masterKey: false,
        rules: [
          staffRule.parse({ role: 'page-hand', kind: 'blocks-text', actions: ['look'], ...(fields ? { fields } : {}) }),
        ],
      },
      snapshot: snapshotOf(new CompiledRules({ bravik: 'rulebook/1' }, { timezone: 'UTC', currency: 'EUR' })),
    })
    const [told] = await lookAtVersions(site.db, hand(['title']), [row.id])
    expect(Object.keys(told!.thing).sort()).toEqual(['in', 'kind'])
    const page = (await contentsOf(site)).get('page', 'visit')!
    expect(await lookAtVersions(site.db, hand(), [page.id])).toEqual([])
    expect((await lookAtThing(site.db, await keeping(), { kind: 'page', key: 'visit' })).inside.length).toBeGreaterThan(
      2,
    )
  })
})
