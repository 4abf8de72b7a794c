import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Connection } from '../../server/db/database'
import { bringFolder } from '../../server/services/folder/bring'
import { givenThings, takeFolder, takeFolderAs } from '../../server/services/folder/take'
import { bring as bringFrom, take as takeInto } from '../../cli/folder'
import { wayFromTheQuay } from '../../demo/wexlow/pictures'
import { picture } from '../../server/db/schema'
import { storedPicture } from '../../server/services/files/pictures'
import { picturePath } from '../../server/services/folder/picture-paths'
import { demoFiles, freshDatabase } from '../support/database'
import { saveSettings } from '../../server/services/site/site-settings'
import type { StaffRule } from '../../core/staff/staff-rule'
import type { Worker } from '../../server/services/live/worker'
import { contentsOf, ines, keeperOf, liveRules } from '../support/world'

let site: Connection & { url: string }
let taken: Map<string, string>
let pictures: Map<string, string>
const takeAll = async () => takeFolder(site.db, await contentsOf(site))
const take = async () => (await takeAll()).files
const bring = (files: Map<string, string>, dry = false) => bringFolder(site.db, files, { pictures, dry, actor: ines })
/** What was taken, with some files written anew. */
const withFiles = (changes: Record<string, string>) => new Map([...taken, ...Object.entries(changes)])
const given = async (name: string) => (await givenThings(site.db, await contentsOf(site))).get(name)
const issuesOf = async (file: string, text: string) => (await bring(withFiles({ [file]: text }))).issues
const ferry = 'pages/visit/ferry.md'
/** A page no gate names a part of. */
const quay = 'pages/visit/from-the-north-quay-when-the-coastal-path-is-under-water.md'

beforeAll(async () => {
  site = await freshDatabase('demo')
  ;({ files: taken, pictures } = await takeAll())
})
afterAll(() => site.close())

describe('a folder of the site', () => {
  it('is Markdown below YAML, a file for each page, post and menu, and for the parts of the frame', () => {
    expect([...taken.keys()]).toEqual(
      expect.arrayContaining([
        'pages/index.md',
        ferry,
        'posts/notes/madder-day.md',
        'menus/main.yaml',
        'frame/shelf.md',
      ]),
    )
    expect(taken.get(ferry)).toMatch(
      /^---\nid: ferry\naddress: \/visit\/ferry\n[\s\S]*under: visit\n[\s\S]*---\n<!-- part: ferry-times -->\nOut at 8:10/,
    )
    expect(taken.get('posts/notes/madder-day.md')).toMatch(/author: Ottilie Fern\n[\s\S]*---\nWe kept the vat/)
  })

  it('changes nothing when it is brought back, whatever the order of its files', async () => {
    expect(await bring(taken)).toEqual({ deeds: [], issues: [] })
    expect(await bring(new Map([...taken].reverse()))).toEqual({ deeds: [], issues: [] })
    const windows = new Map([...taken].map(([file, text]) => [file, text.replaceAll('\n', '\r\n')]))
    expect(await bring(windows)).toEqual({ deeds: [], issues: [] })
  })

  it('adds, changes, moves and takes out what it says, in a dry run nothing; then it is the same again', async () => {
    const text = taken
      .get(ferry)!
      .replace('Out at 8:10', 'Out at 8:20')
      .replace('  - id: ferry-times\n    kind: text\n', '')
      .replace('parts:\n', 'parts:\n  - id: ferry-new\n    kind: text\n    title: New\n')
      .replace(/(kind: shared\n[\s\S]*?)(\n?---\n)/, '$1\n  - id: ferry-times\n    kind: text$2')
    const files = withFiles({
      [ferry]: `${text.replace(/\n\n {2}- id/, '\n  - id')}<!-- part: ferry-new -->\nHello :for[makers]{who="Maker or above"}.\n`,
      'pages/fresh.md': '---\nid: fresh\ntitle: Fresh\naddress: /fresh\n---\n',
      'frame/footer.md': taken
        .get('frame/footer.md')!
        .replace(/ {2}- id: footer-about\n {4}kind: text\n/, '')
        .replace(/<!-- part: footer-about -->\n.*\n/, ''),
    })
    const dry = await bring(files, true)
    expect(dry.issues).toEqual([])
    expect(dry.deeds.map(one => `${one.does} ${one.key}`).sort()).toEqual([
      'adds ferry-new',
      'adds fresh',
      'changes ferry-times',
      'takes out footer-about',
    ])
    expect(await given('page fresh')).toBeUndefined()
    const done = await bring(files)
    expect(done.issues).toEqual([])
    expect(done.deeds).toHaveLength(4)
    expect(await given('page fresh')).toMatchObject({ path: '/fresh' })
    const contents = await contentsOf(site)
    expect(
      contents.index
        .standingIn('page', 'ferry')
        .map(one => one.id)
        .slice(0, 1),
    ).toEqual(['ferry-new'])
    expect(contents.index.get('block', 'ferry-new')!.passages).toEqual([{ level: { atLeast: 'maker' } }])
    expect(await bring(await take())).toEqual({ deeds: [], issues: [] })
    await bring(taken)
  })

  it('names what is not right by file and line, and changes nothing', async () => {
    const page = (front: string, below = '') => `---\n${front}\n---\n${below}`
    for (const [text, line, message] of [
      ['no front matter', 1, 'It begins with front matter'],
      [page('id: north-quay\ntitle: [unclosed'), 3, 'Not YAML'],
      [page('- a\n- b'), 2, 'Names and values'],
      [page('id: north-quay\ntitle: Boats\naddress: nowhere'), 4, 'A path such as'],
      [page('id: north-quay\ntitle: Boats\naddress: /quay\nsecret: 1'), 2, 'secret'],
      [page('id: visit\ntitle: Boats\naddress: /quay'), 2, 'is in'],
      [page('id: north-quay\ntitle: Boats\naddress: /quay\nparts: 3'), 5, 'Parts are a list'],
      [page('id: north-quay\ntitle: Boats\naddress: /quay', '<!-- part: gone -->\nWords\n'), 6, 'does not name'],
      [page('id: north-quay\ntitle: Boats\naddress: /quay\nparts:\n  - id: x1\n    kind: sculpture'), 7, ''],
      [page('id: north-quay\ntitle: Boats\naddress: /quay\nunder: nothing'), 5, ''],
      [page('id: north-quay\ntitle: Boats\naddress: /trade'), 4, ''],
      [page('a: &x [1]\nb: *x\nid: north-quay'), 2, 'aliases'],
    ] as const) {
      const [issue] = await issuesOf(quay, text)
      expect({ text, file: issue?.file, line: issue?.line }).toEqual({ text, file: quay, line })
      expect(issue!.message).toContain(message)
    }
    for (const [deep, message] of [
      [25, undefined],
      [30, 'No more than 30 can lie in one another.'],
      [100, 'No more than 30 can lie in one another.'],
      [10_000, 'This is nested too deep.'],
    ] as const) {
      const groups = [...Array(deep).keys()].map(i => `{id: deep-${i}, kind: group, title: G, parts: [`)
      const nested = page(`id: deep\ntitle: Deep\naddress: /deep\nparts: [${groups.join('')}${']}'.repeat(deep)}]`)
      const { issues } = await bring(withFiles({ 'pages/deep.md': nested }), true)
      expect([deep, issues[0]?.file, issues[0]?.line, issues[0]?.message]).toEqual(
        message ? [deep, 'pages/deep.md', 5, message] : [deep, undefined, undefined, undefined],
      )
    }
    // What a gate still needs stays, and what needs it is named.
    const [still] = await issuesOf('frame/footer.md', page('{}'))
    expect(still!.message).toContain('Footer for the trade')
    expect((await issuesOf('notes.txt', 'x'))[0]).toMatchObject({ file: 'notes.txt', line: 1 })
    expect(await bring(taken)).toEqual({ deeds: [], issues: [] })
  })

  it('takes the rights of whoever brings it, thing by thing, and leaves out what is not all for them to see', async () => {
    const rules = await liveRules(site)
    const hand = (...own: Partial<StaffRule>[]): Worker => ({
      ...keeperOf(rules),
      rights: {
        personId: 'p-hand',
        masterKey: false,
        rules: own.map(one => ({ role: 'hand', whose: 'anyone', fields: null, ...one }) as never),
      },
    })
    const look = { kind: 'pages', actions: ['look'] } as const
    const titles = { kind: 'pages', actions: ['change'], fields: ['title'] } as const
    const texts = { kind: 'blocks-text', actions: ['look'] } as const
    const images = { kind: 'blocks-picture', actions: ['look'] } as const
    const worker = hand(look as never, titles as never, texts as never, images as never)
    const bringAs = (changes: Record<string, string>, as = worker) =>
      bringFolder(site.db, withFiles(changes), { pictures, dry: true, actor: ines, worker: as })
    const plain = taken.get(quay)!
    expect((await bringAs({ [quay]: plain.replace(/^title: .*$/m, 'title: By the quay') })).deeds).toHaveLength(1)
    const summary = await bringAs({ [quay]: plain.replace(/^summary: .*$/m, 'summary: Other') })
    expect(summary.issues).toMatchObject([{ file: quay, message: expect.stringMatching(/^The page “.*”: /) }])
    expect(summary.deeds).toEqual([])
    // A part of a kind that is not for them is told at its place, and nothing else is.
    const other = taken.get(ferry)!.replace('Out at 8:10', 'Out at 8:20')
    expect((await bringAs({ [ferry]: other })).issues[0]).toMatchObject({ file: ferry })
    const contents = await contentsOf(site)
    const seen = await site.db.transaction(tx => takeFolderAs(tx, contents, worker))
    expect(Object.keys(seen.files)).toContain(quay)
    expect(Object.keys(seen.files)).not.toContain('menus/main.yaml')
    // Counted, and not named: what others write is among them.
    expect(Object.keys(seen.files).length + seen.leftOut).toBe((await take()).size)
    const all = await site.db.transaction(tx => takeFolderAs(tx, contents, keeperOf(rules)))
    expect(all.leftOut).toBe(0)
  })

  it('writes no kind of part the site is without', async () => {
    await saveSettings(site.db, 'parts', { off: ['text'] }, ines)
    const [issue] = await issuesOf(ferry, taken.get(ferry)!.replace('Out at 8:10', 'Out at 8:20'))
    expect(issue).toMatchObject({ file: ferry, message: expect.stringContaining('switched off') })
    await saveSettings(site.db, 'parts', { off: [] }, ines)
  })
})

describe('a folder with pictures, by the command', () => {
  const url = () => site.url
  const path = picturePath(wayFromTheQuay)

  it('holds each picture as a file of its own, and changes nothing when it is brought back', async () => {
    const folder = join(await mkdtemp(join(tmpdir(), 'bravik-folder-')), 'site')
    expect(await takeInto(url(), folder, 'draft')).toContain(path)
    expect(await readFile(join(folder, quay), 'utf8')).toContain(`file: ${path}`)
    expect(
      (await readFile(join(folder, path))).equals(await readFile(new URL('way-from-the-quay.png', demoFiles))),
    ).toBe(true)
    expect(await bringFrom(url(), folder, false)).toEqual({ deeds: [], issues: [] })

    const other = await sharp({ create: { width: 6, height: 5, channels: 3, background: 'teal' } })
      .webp()
      .toBuffer()
    await writeFile(join(folder, 'pictures/teal.webp'), other)
    const text = await readFile(join(folder, quay), 'utf8')
    const line = text.split('\n').findIndex(one => one.includes(path)) + 1
    await writeFile(join(folder, quay), text.replace(path, 'pictures/teal.webp'))
    expect(await bringFrom(url(), folder, true)).toMatchObject({
      issues: [],
      deeds: [{ key: 'north-quay-map', does: 'changes' }],
    })
    expect(await site.db.select().from(picture)).toHaveLength(1)
    expect((await bringFrom(url(), folder, false)).deeds).toHaveLength(1)
    const { file } = ((await given('block north-quay-map')) as { body: { file: string } }).body
    expect((await storedPicture(site.db, file))!.bytes.equals(other)).toBe(true)

    // A file that is not what its name says, and one that is not there, are told at their place; nothing is changed.
    await writeFile(join(folder, 'pictures/teal.webp'), 'just words')
    await writeFile(join(folder, ferry), (await readFile(join(folder, ferry), 'utf8')).replace('8:10', '8:25'))
    expect((await bringFrom(url(), folder, false)).issues).toEqual([
      { file: 'pictures/teal.webp', line: 1, message: expect.stringContaining('no picture') },
    ])
    await rm(join(folder, 'pictures/teal.webp'))
    expect((await bringFrom(url(), folder, false)).issues).toEqual([
      { file: quay, line, message: 'There is no picture “pictures/teal.webp” in the folder.' },
    ])
    await bring(taken)
    expect(await bring(taken)).toEqual({ deeds: [], issues: [] })
  })
})
