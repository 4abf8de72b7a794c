import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { CompiledRules } from '../../core/gates/compiled'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import type { VersionedThing } from '../../core/kinds/kinds'
import type { Gate } from '../../core/rulebook/gate'
import type { Visitor } from '../../core/visitor/visitor'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import type { Connection } from '../../server/db/database'
import { writeSetting } from '../../server/services/settings/settings'
import { copyThing } from '../../server/services/editions/copied-things'
import { addThing, changeThing, removeThing } from '../../server/services/editions/things'
import { assembleView } from '../../server/services/pages/page-view'
import type { Worker } from '../../server/services/live/worker'
import { freshDatabase } from '../support/database'
import { contentsOf, ines, keeperOf, liveRules, snapshotOf } from '../support/world'

let site: Connection
let keeper: Worker
const nowMs = Date.parse('2026-11-24T10:00:00Z')
const add = (kind: VersionedThing, id: string, thing: object) => addThing(site.db, keeper, kind, { id, ...thing }, ines)
const guest: Visitor = { person: null }
const maker: Visitor = { person: { id: 'm' }, levels: [{ level: 'maker', since: '2026-01-01T00:00:00Z' }] }

beforeAll(async () => {
  site = await freshDatabase('demo')
  keeper = keeperOf(await liveRules(site))
  const body = { markdown: 'The stove is on.' }
  await add('block', 'stove', { kind: 'text', title: 'Stove', in: { frame: 'shelf' }, body })
  for (const page of ['visit', 'ferry'])
    await add('block', `stove-${page}`, { kind: 'shared', shares: 'stove', in: { page }, body: {} })
})
afterAll(() => site.close())

async function sent(path: string, visitor: Visitor, gates: Gate[] = []): Promise<string> {
  const contents = await contentsOf(site)
  const rules = new CompiledRules({ ...wexlowRulebook, gates }, contents.index)
  const decider = new CompiledDecider(rules, visitor, nowMs)
  return JSON.stringify(
    (await assembleView({ snapshot: snapshotOf(rules, [], contents), decider, db: site.db, path })).view,
  )
}

describe('a shared part', () => {
  it('is the same wherever it stands, and nowhere else', async () => {
    for (const path of ['/visit', '/visit/ferry']) expect(await sent(path, guest)).toContain('The stove is on.')
    expect(await sent('/', guest)).not.toContain('stove')
    await changeThing(site.db, keeper, { kind: 'block', key: 'stove' }, { body: { markdown: 'It is cold.' } }, ines)
    for (const path of ['/visit', '/visit/ferry']) expect(await sent(path, guest)).toContain('It is cold.')
  })

  it('has its gate wherever it stands; one where it stands holds there too', async () => {
    const gate: Gate = { id: 'k', on: { block: 'stove' }, open: { level: { atLeast: 'maker' } } }
    for (const path of ['/visit', '/visit/ferry']) {
      expect(await sent(path, guest, [gate])).not.toContain('cold')
      expect(await sent(path, maker, [gate])).toContain('cold')
    }
    const here: Gate = { id: 'h', on: { block: 'stove-visit' }, open: { nobody: true } }
    expect(await sent('/visit', maker, [gate, here])).not.toContain('cold')
    expect(await sent('/visit/ferry', maker, [gate, here])).toContain('cold')
  })

  it('shows nothing that does not stand on the shelf, and ends where it would show itself', async () => {
    await add('block', 'thief', { kind: 'shared', shares: 'export-words', in: { page: 'visit' }, body: {} })
    expect(await sent('/visit', guest)).not.toContain('customs papers')
    await add('block', 'ring', { kind: 'group', title: 'Ring', in: { frame: 'shelf' }, body: {} })
    await add('block', 'ring-in', { kind: 'shared', shares: 'ring', in: { block: 'ring' }, body: {} })
    await add('block', 'ring-here', { kind: 'shared', shares: 'ring', in: { page: 'visit' }, body: {} })
    expect((await sent('/visit', guest)).match(/"Ring"/g)).toHaveLength(1)
  })

  it('is refused where it names nothing, or where nothing that shares names something', async () => {
    const place = { in: { page: 'visit' }, body: {} }
    await expect(add('block', 'x', { kind: 'shared', ...place })).rejects.toMatchObject({ extra: { at: '/shares' } })
    await expect(add('block', 'x', { kind: 'shared', shares: 'gone', ...place })).rejects.toMatchObject({
      extra: { at: '/shares' },
    })
    await expect(add('block', 'x', { kind: 'group', shares: 'stove', ...place })).rejects.toMatchObject({
      extra: { at: '/shares' },
    })
  })

  it('can be copied to another page, where it is its own', async () => {
    const to = { id: 'stove-own', in: { page: 'join' } }
    await copyThing(site.db, keeper, { kind: 'block', key: 'stove' }, to, ines)
    await changeThing(site.db, keeper, { kind: 'block', key: 'stove' }, { body: { markdown: 'Gone out.' } }, ines)
    expect(await sent('/join', guest)).toContain('It is cold.')
  })
})

describe('a kind of part that is switched off', () => {
  it('is not added, changed or copied by anybody; it is sent as before, and can be taken out', async () => {
    await site.db.transaction(tx => writeSetting(tx, 'parts', { off: ['picture'] }, 'Ines'))
    const body = { pattern: 'plain', alt: 'Cloth' }
    const switchedOff = { message: expect.stringContaining('switched off') as string }
    const cloth = { kind: 'block', key: 'visit-cloth' } as const
    await expect(add('block', 'more', { kind: 'picture', in: { page: 'visit' }, body })).rejects.toMatchObject(
      switchedOff,
    )
    await expect(changeThing(site.db, keeper, cloth, { body }, ines)).rejects.toMatchObject(switchedOff)
    await expect(copyThing(site.db, keeper, cloth, { id: 'more' }, ines)).rejects.toMatchObject(switchedOff)
    expect(await sent('/visit', guest)).toContain('Undyed plain weave')
    await removeThing(site.db, keeper, cloth, ines)
    expect(await sent('/visit', guest)).not.toContain('Undyed plain weave')
    await site.db.transaction(tx => writeSetting(tx, 'parts', { off: [] }, 'Ines'))
  })
})

describe('posts', () => {
  it('are listed by their topic, the newest first, with the day they are of and who wrote them', async () => {
    const list = { kind: 'list', in: { page: 'visit' }, body: { of: { topic: 'dye-days' } } }
    await add('block', 'dye-days-list', list)
    const said = await sent('/visit', maker)
    const listed = said.slice(said.indexOf('"kind":"list"'))
    expect(listed.indexOf('A day at the madder vat')).toBeLessThan(listed.indexOf('Sowing woad with the Guild'))
    expect(said).toContain('"day":"October 5, 2026"')
    expect(await sent('/notes/madder-day', guest)).toContain(
      '"byline":{"author":"Ottilie Fern","day":"October 5, 2026"}',
    )
  })
})
