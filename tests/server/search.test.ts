import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { CompiledRules } from '../../core/gates/compiled'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { PlainDecider } from '../../core/gates/plain-decider'
import type { Gate } from '../../core/rulebook/gate'
import type { Visitor } from '../../core/visitor/visitor'
import type { VersionedThing } from '../../core/kinds/kinds'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import type { Connection } from '../../server/db/database'
import { searchKey, searchText } from '../../server/db/schema'
import { asSystem, saveEntry } from '../../server/services/editions/entries'
import { publish } from '../../server/services/editions/publish'
import { addThing, changeThing } from '../../server/services/editions/things'
import { inTransaction } from '../../server/db/turn'
import { keepBytes } from '../../server/services/files/files'
import { search } from '../../server/services/search/search'
import { indexSearch } from '../../server/services/search/index-texts'
import { keepSearchUp } from '../../server/services/search/keep-up'
import { contentsOf, ines, keeperOf, liveRules } from '../support/world'
import { freshDatabase } from '../support/database'

let site: Connection
let edition = 1
const guest: Visitor = { person: null }
const held = (level: string): Visitor => ({ person: { id: level }, levels: [{ level, since: '2026-01-01T00:00:00Z' }] })
const [maker, guild] = [held('maker'), held('guild')]
const keeper: Visitor = { person: { id: 'k' }, roles: ['keeper'] }
const nowMs = Date.parse('2026-11-24T10:00:00Z')

beforeAll(async () => {
  site = await freshDatabase('demo')
  await keepSearchUp(site.db)
})
afterAll(() => site.close())

async function found(text: string, visitor: Visitor = guest, gates?: Gate[]) {
  const contents = await contentsOf(site, edition)
  const rules = new CompiledRules(gates ? { ...contents.book, gates } : contents.book, contents.index)
  const answer = await search(site.db, {
    snapshot: { rules, contents },
    decider: new CompiledDecider(rules, visitor, nowMs),
    text,
  })
  return {
    ...answer,
    ids: answer.found.map(one => one.thing.id),
    said: answer.found.map(one => one.quote.map(part => part.text).join('')),
  }
}
const publishDraft = async () => {
  edition = await publish(site.db, { authorise: asSystem, note: '', expects: edition, actor: ines })
  await site.db.transaction(tx => indexSearch(tx))
}
const add = async (kind: VersionedThing, id: string, thing: object) =>
  addThing(site.db, keeperOf(await liveRules(site)), kind, { id, ...thing }, ines)

describe('a search', () => {
  it('finds by titles and words, the best first, with the endings of the language, as one types', async () => {
    expect((await found('gansey course')).ids[0]).toBe('gansey')
    expect((await found('welts', guild)).ids[0]).toBe('welts')
    expect((await found('raised the stitch', guild)).ids).toContain('welts')
    expect((await found('mad')).ids).toContain('madder')
    expect((await found('harbour needle', maker)).ids).toContain('harbour-cowl')
    expect((await found('sheep wall stile')).ids).toContain('north-quay')
  })

  it('forgives a slip of the pen, and says that it did', async () => {
    expect((await found('treadle')).near).toBe(false)
    const slip = await found('kettel boat', guild)
    expect(slip.near).toBe(true)
    expect(slip.said.join()).toMatch(/kettle/)
    expect((await found('xylophone')).found).toEqual([])
  })

  it('takes words in a row, and leaves out what is not wanted', async () => {
    expect((await found('"salt water"', keeper)).ids).not.toContain('visit')
    expect((await found('"second stile"')).ids).toEqual(['north-quay'])
    expect((await found('"stile second"')).ids).toEqual([])
    expect((await found('boat -quay', guild)).ids).not.toContain('north-quay')
  })

  it('reads ten kilobytes of operators as nothing asked, and anything else without a stumble', async () => {
    expect((await found("&|!()<->:*\\'".repeat(1000))).found).toEqual([])
    await fc.assert(
      fc.asyncProperty(fc.string({ unit: 'grapheme', maxLength: 60 }), async text => {
        expect(Array.isArray((await found(text, keeper)).found)).toBe(true)
      }),
      { numRuns: 60 },
    )
  })

  it('marks what was looked for in words that were said, and nothing else', async () => {
    const { found: things } = await found('stile', guest)
    expect(things[0]!.quote.filter(one => one.hit).map(one => one.text)).toEqual(['stile'])
  })
})

describe('what is not for somebody', () => {
  it('is not found by them, and not quoted: pages, posts, parts, passages, files', async () => {
    // Passage of a text, in a page that opens to Makers.
    expect((await found('tension swatch lesson', maker)).said.join()).toContain('lesson two')
    expect((await found('swatch lesson', held('friend'))).ids).toEqual([])
    // The words of a file, for whoever may take it; its title for whoever may find it.
    expect((await found('selvedge', guild)).ids).toEqual(['gansey-charts'])
    expect((await found('selvedge')).ids).toEqual([])
    expect((await found('winter charts')).ids).toContain('gansey-charts')
    // A price list that is not found.
    expect((await found('fingering', guest)).ids).not.toContain('trade-list')
    expect((await found('Moor Fingering 48', keeper)).ids).toContain('trade-list')
    // The name of a refused page is found where a gate lets it be, and its words are not quoted.
    const { found: teased } = await found('underarm gussets', held('friend'))
    expect(teased.map(one => [one.thing.id, one.opens])).toEqual([['gussets', false]])
    expect((await found('nineteen stitches seam', held('friend'))).ids).toEqual([])
  })

  it('is told from what shows in the order of alternatives, on the shelf, and by the right to search', async () => {
    expect((await found('kettle', guild)).ids.sort()).toEqual(['ferry', 'visit'])
    expect((await found('kettle')).ids).toEqual([])
    const unsearched: Gate[] = [{ id: 'quiet', on: { page: 'north-quay' }, search: { nobody: true } }]
    expect((await found('stile', guest, [])).ids).toContain('north-quay')
    expect((await found('stile', guest, unsearched)).ids).not.toContain('north-quay')
  })

  it('is so for every visitor there could be, whatever gates there are: found again by the plain reading', async () => {
    const contents = await contentsOf(site, edition)
    const gate = fc.record({
      on: fc.constantFrom<Gate['on']>(
        { page: 'techniques', below: true },
        { page: 'visit' },
        { kind: 'block' },
        { kind: 'post' },
        { topic: 'dye-days' },
        { block: 'madder-how' },
        { folder: 'patterns' },
        { path: '/visit/**' },
      ),
      right: fc.constantFrom('open', 'search', 'find', 'take'),
      whom: fc.constantFrom<object>(
        { nobody: true },
        { signedIn: true },
        { level: { atLeast: 'guild' } },
        { everyone: true },
      ),
      inherit: fc.boolean(),
    })
    await fc.assert(
      fc.asyncProperty(
        fc.array(gate, { maxLength: 4 }),
        fc.constantFrom(guest, maker, guild),
        fc.constantFrom('madder vat', 'wall boat', 'chart', 'wheel', 'the'),
        async (given, visitor, text) => {
          const gates = given.map(
            ({ on, right, whom, inherit }, i) => ({ id: `g${i}`, on, inherit, [right]: whom }) as Gate,
          )
          const rules = new CompiledRules({ ...wexlowRulebook, gates }, contents.index)
          const plain = new PlainDecider(rules, visitor, nowMs)
          for (const { thing, opens } of (await found(text, visitor, gates)).found) {
            const verdict = plain.decide(thing)
            expect([verdict.search, verdict.open]).toEqual([true, opens])
          }
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('what is found', () => {
  it('keeps up with what is published, and with the gates it is behind', async () => {
    await add('page', 'selkie', { path: '/selkie', title: 'The selkie loom' })
    await add('block', 'selkie-text', {
      kind: 'text',
      in: { page: 'selkie' },
      body: { markdown: 'Oarweed on the warp.' },
    })
    expect((await found('selkie')).ids).toEqual([])
    await publishDraft()
    expect([(await found('selkie')).ids, (await found('oarweed')).ids]).toEqual([['selkie'], ['selkie']])
    const change = { body: { markdown: 'Sand on the warp.' } }
    await changeThing(site.db, keeperOf(await liveRules(site)), { kind: 'block', key: 'selkie-text' }, change, ines)
    const body = { id: 'selkie-gate', on: { page: 'selkie' }, open: { level: { atLeast: 'guild' } } }
    await saveEntry(site.db, { permit: asSystem, kind: 'gate', key: 'selkie-gate', body, expects: null, actor: ines })
    await publishDraft()
    expect([(await found('oarweed', guild)).ids, (await found('sand', guild)).ids]).toEqual([[], ['selkie']])
    expect((await found('selkie')).ids).toEqual([])
    const keys = new Set((await site.db.select({ key: searchKey.key }).from(searchKey)).map(one => one.key))
    const used = (await site.db.selectDistinct({ key: searchText.key }).from(searchText)).map(one => one.key)
    expect(used.every(key => keys.has(key)) && used.length === keys.size).toBe(true)
    expect(await site.db.transaction(tx => indexSearch(tx))).toBe(false)
  })

  it('has the words of a file once it is read, and of none that is no file', async () => {
    const name = await inTransaction(site.db, tx =>
      keepBytes(tx, Buffer.from('gather the heather\n'), 'heather.txt', ines),
    )
    const broken = await inTransaction(site.db, tx =>
      keepBytes(tx, Buffer.from('%PDF-1.7\nnothing more'), 'broken.pdf', ines),
    )
    await add('download', 'heather', { title: 'H', path: '/h', file: name, fileName: 'heather.txt' })
    await add('download', 'broken', { title: 'Broken', path: '/b', file: broken, fileName: 'broken.pdf' })
    await publishDraft()
    expect((await found('gathering')).ids).toEqual([])
    await keepSearchUp(site.db)
    expect([(await found('gathering')).ids, (await found('broken')).ids]).toEqual([['heather'], ['broken']])
  })
})
