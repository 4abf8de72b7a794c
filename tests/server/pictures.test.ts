import { createHash } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { eq } from 'drizzle-orm'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { CompiledRules } from '../../core/gates/compiled'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import type { VersionedThing } from '../../core/kinds/kinds'
import {
  mostOfPicture,
  pictureMark,
  readMark,
  readPictureName,
  shownPicture,
  writersPictureAddress,
} from '../../core/pictures/picture-file'
import type { Gate } from '../../core/rulebook/gate'
import type { Visitor } from '../../core/visitor/visitor'
import { wexlowPictures } from '../../demo/wexlow/pictures'
import type { Connection } from '../../server/db/database'
import { picture } from '../../server/db/schema'
import { dropUnnamedPictures, keepPicture, readPicture, storedPicture } from '../../server/services/files/pictures'
import { addThing, changeThing, removeThing } from '../../server/services/editions/things'
import { pictureFor } from '../../server/services/pages/picture-of'
import type { Actor } from '../../server/trace'
import { demoFiles, freshDatabase } from '../support/database'
import { contentsOf, ines, keeperOf, liveRules } from '../support/world'
import type { Worker } from '../../server/services/live/worker'

let site: Connection
let keeper: Worker
const drawn = (width: number, height: number, colour = 'red') =>
  sharp({ create: { width, height, channels: 3, background: colour } })
const png = (colour: string) => drawn(9, 4, colour).png().toBuffer()
const keep = async (bytes: Uint8Array, who: Actor = ines) => site.db.transaction(tx => keepPicture(tx, bytes, who))
const part = (name: string, place: object = { page: 'visit' }) => ({
  kind: 'picture',
  in: place,
  body: { file: name, alt: 'A' },
})
const add = (id: string, thing: object, kind: VersionedThing = 'block') =>
  addThing(site.db, keeper, kind, { id, ...thing }, ines)
const nowMs = Date.parse('2026-11-24T10:00:00Z')
const guest: Visitor = { person: null }
const maker: Visitor = { person: { id: 'm' }, levels: [{ level: 'maker', since: '2026-01-01T00:00:00Z' }] }

/** What a visitor is sent for a picture, by the draft under these gates. */
async function sent(id: string, name: string, visitor: Visitor, gates: Gate[] = [], kind = 'block') {
  const contents = await contentsOf(site)
  const rules = new CompiledRules({ ...contents.book, gates }, contents.index)
  const decider = new CompiledDecider(rules, visitor, nowMs)
  const found = await pictureFor({
    snapshot: { rules, contents },
    decider,
    db: site.db,
    kind,
    id,
    mark: pictureMark(name),
  })
  return found?.name
}

beforeAll(async () => {
  site = await freshDatabase('demo')
  keeper = keeperOf(await liveRules(site))
})
afterAll(() => site.close())

describe('a picture', () => {
  it('is told by its bytes, whatever it is called: its type, its shape as it is looked at, its SHA-256', async () => {
    for (const [type, bytes] of [
      ['png', await drawn(9, 4).png().toBuffer()],
      ['jpg', await drawn(9, 4).jpeg().toBuffer()],
      ['gif', await drawn(9, 4).gif().toBuffer()],
      ['webp', await drawn(9, 4).webp().toBuffer()],
      ['avif', await drawn(9, 4).avif().toBuffer()],
    ] as const) {
      const sha256 = createHash('sha256').update(bytes).digest('hex')
      expect(await readPicture(bytes)).toEqual({ sha256, type, width: 9, height: 4, bytes })
    }
    // A camera that was held upright says so, and the picture is shown upright.
    const upright = await drawn(9, 4).jpeg().withMetadata({ orientation: 6 }).toBuffer()
    expect(await readPicture(upright)).toMatchObject({ width: 4, height: 9 })
  })

  it('is kept without what a camera wrote beside it; a second time it is the same', async () => {
    const place = { IFD0: { Copyright: 'Somebody' }, IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '53/1 20/1 0/1' } }
    for (const format of ['jpeg', 'png', 'webp', 'avif'] as const) {
      const taken = await drawn(9, 4).withExif(place).withMetadata({ orientation: 6 }).toFormat(format).toBuffer()
      expect((await sharp(taken).metadata()).exif).toBeDefined()
      const kept = await readPicture(taken)
      const { exif, width, height } = await sharp(kept.bytes).metadata()
      expect([format, exif, width, height]).toEqual([format, undefined, 4, 9])
      expect(kept).toMatchObject({ width: 4, height: 9, sha256: createHash('sha256').update(kept.bytes).digest('hex') })
      expect(await readPicture(kept.bytes)).toEqual(kept)
    }
  })

  it('that is none, or too much, is told so', async () => {
    const whole = await drawn(400, 300, '#1e2b2d').png({ compressionLevel: 0 }).toBuffer()
    const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>'
    for (const bytes of [
      Buffer.from('nothing'),
      Buffer.from('<html><script>alert(1)</script></html>'),
      Buffer.from(svg),
      whole.subarray(0, 9000),
      Buffer.concat([whole.subarray(0, 33), Buffer.from('<?php phpinfo() ?>')]),
    ])
      await expect(readPicture(bytes)).rejects.toMatchObject({
        code: 'bad-input',
        message: expect.stringContaining('no picture'),
      })
    await expect(readPicture(Buffer.alloc(mostOfPicture + 1))).rejects.toMatchObject({ code: 'too-large' })
    // 49 million pixels of one colour are a few kilobytes.
    const bomb = await drawn(7000, 7000).png({ compressionLevel: 9 }).toBuffer()
    expect(bomb.length).toBeLessThan(1_000_000)
    await expect(readPicture(bomb)).rejects.toMatchObject({
      code: 'bad-input',
      message: expect.stringContaining('million pixels'),
    })
  })

  it('is made smaller for smaller screens, where that is lighter, and shown in the size that fits', async () => {
    const noise = Buffer.from(Array.from({ length: 1000 * 500 * 3 }, (_, i) => (i * 7919) % 251))
    const raw = { raw: { width: 1000, height: 500, channels: 3 as const } }
    const bytes = await sharp(noise, raw).jpeg({ quality: 95 }).toBuffer()
    const name = await keep(bytes)
    for (const width of [480, 960]) {
      const smaller = (await storedPicture(site.db, name, width))!
      expect([smaller.smaller, (await sharp(smaller.bytes).metadata()).width]).toEqual([width, width])
      expect(smaller.bytes.length).toBeLessThan(bytes.length)
    }
    // What was not made is answered by the picture as it is.
    for (const width of [1700, 481, 0, Number.NaN])
      expect((await storedPicture(site.db, name, width))!.bytes.equals(bytes)).toBe(true)
    const at = `/picture/page/visit/${pictureMark(name)}`
    expect(shownPicture(name, `${at}?a=1`)).toEqual({
      src: `${at}?a=1`,
      srcset: `${at}-480?a=1 480w, ${at}-960?a=1 960w, ${at}?a=1 1000w`,
      width: 1000,
      height: 500,
    })
    expect(shownPicture(name, writersPictureAddress(name))).not.toHaveProperty('srcset')
    const marks = [
      `${pictureMark(name)}-480`,
      pictureMark(name),
      `${pictureMark(name)}-`,
      `${pictureMark(name)}-0480`,
      'x-480',
    ]
    expect(marks.map(one => readMark(one)?.width ?? readMark(one)?.mark.length)).toEqual([
      480,
      16,
      undefined,
      undefined,
      undefined,
    ])
    // What moves, and what is small already, stay as they are.
    const small = await keep(await png('#334455'))
    expect((await storedPicture(site.db, small, 480))!.smaller).toBeUndefined()
  })

  it('is kept once, and so much of them a day by one person', async () => {
    const bytes = await png('#123456')
    const [name, again] = await Promise.all([keep(bytes), keep(bytes)])
    expect(again).toBe(name)
    expect(readPictureName(name)).toMatchObject({ width: 9, height: 4, type: 'png' })
    expect((await storedPicture(site.db, name))!.bytes.equals(bytes)).toBe(true)
    const busy = { id: 'p-busy', name: 'Busy' }
    await keep(await png('#000001'), busy)
    await site.db
      .update(picture)
      .set({ size: 100 * mostOfPicture })
      .where(eq(picture.madeBy, 'p-busy'))
    await expect(keep(await png('#000002'), busy)).rejects.toMatchObject({ code: 'too-many-tries' })
    await keep(await png('#000002'))
    // The command is nobody's day.
    await site.db.update(picture).set({ madeBy: 'bravik bring' }).where(eq(picture.madeBy, 'p-busy'))
    await keep(await png('#000003'), { id: null, name: 'bravik bring' })
  })

  it('of the mill is what its pages name', async () => {
    for (const [file, name] of Object.entries(wexlowPictures)) {
      const stored = await storedPicture(site.db, name)
      expect([file, stored?.bytes.equals(await readFile(new URL(file, demoFiles)))]).toEqual([file, true])
    }
  })

  it('is named by parts only once it is kept, and told at its field', async () => {
    const name = await keep(await png('#aa0000'))
    const gone = name.replace(/^.{8}/, '00000000')
    const tile = (file: string) => ({
      kind: 'panel',
      title: 'B',
      in: { page: 'visit' },
      body: { shows: 'words', text: 'B', file },
    })
    for (const file of [gone, '../secret', `${name}.svg`])
      for (const body of [part(file), tile(file)])
        await expect(add('p-gone', body)).rejects.toMatchObject({ code: 'bad-input', extra: { at: '/body/file' } })
    await add('p-here', part(name))
    const change = (file: string) =>
      changeThing(site.db, keeper, { kind: 'block', key: 'p-here' }, { body: { file, alt: 'B' } }, ines)
    await expect(change(gone)).rejects.toMatchObject({ extra: { at: '/body/file' } })
    await change(name)
  })

  it('is sent to whoever its part opens, and to nobody for its name', async () => {
    const name = await keep(await png('#bb0000'))
    await add('p-gated', part(name))
    const gate: Gate = { id: 'g', on: { block: 'p-gated' }, open: { level: { atLeast: 'maker' } } }
    expect(await sent('p-gated', name, guest)).toBe(name)
    expect(await sent('p-gated', name, guest, [gate])).toBeUndefined()
    expect(await sent('p-gated', name, maker, [gate])).toBe(name)
    const page: Gate = { id: 'g', on: { page: 'visit' }, open: { level: { atLeast: 'maker' } } }
    expect(await sent('p-gated', name, guest, [page])).toBeUndefined()
    // What stands in its place keeps the picture itself, or no more than that there is one.
    const dimmed = (gate: Gate, ...keep: ('sight' | 'picture')[]): Gate => ({
      ...gate,
      otherwise: { dimmed: { keep } },
    })
    expect(await sent('p-gated', name, guest, [dimmed(gate, 'sight')])).toBe(name)
    expect(await sent('p-gated', name, guest, [dimmed(gate, 'picture')])).toBeUndefined()
    expect(await sent('p-gated', name, guest, [dimmed(page, 'sight')])).toBeUndefined()
    // Through another part that opens to them.
    await add('p-open', part(await keep(await png('#bb0001')), { page: 'ferry' }))
    expect(await sent('p-open', name, guest, [gate])).toBeUndefined()
    expect(await sent('visit-how', name, guest)).toBeUndefined()
    expect(await sent('p-nowhere', name, guest)).toBeUndefined()
  })

  it('at the head of a page is sent to whoever that opens, and can be a pattern in its place', async () => {
    const name = await keep(await png('#bb0002'))
    const change = (picture: string | null) =>
      changeThing(site.db, keeper, { kind: 'page', key: 'ferry' }, { picture }, ines)
    const gone = name.replace(/^.{8}/, '00000000')
    await expect(change(gone)).rejects.toMatchObject({ code: 'bad-input', extra: { at: '/picture' } })
    await change('twill')
    expect(await sent('ferry', name, guest, [], 'page')).toBeUndefined()
    await change(name)
    const gate: Gate = { id: 'g', on: { page: 'ferry' }, open: { level: { atLeast: 'maker' } } }
    expect(await sent('ferry', name, guest, [], 'page')).toBe(name)
    expect(await sent('ferry', name, guest, [gate], 'page')).toBeUndefined()
    expect(await sent('ferry', name, maker, [gate], 'page')).toBe(name)
    for (const kind of ['menu', 'constructor', 'product'])
      expect(await sent('ferry', name, guest, [], kind)).toBeUndefined()
  })

  it('on the shelf is sent where a part that opens shows it, or where it stands for the refused', async () => {
    const name = await keep(await png('#cc0000'))
    await add('shelf-group', { kind: 'group', title: 'Pictures', in: { frame: 'shelf' }, body: {} })
    await add('shelf-picture', part(name, { block: 'shelf-group' }))
    expect(await sent('shelf-picture', name, guest)).toBeUndefined()
    await add('shows-it', { kind: 'shared', shares: 'shelf-group', in: { page: 'visit' }, body: {} })
    expect(await sent('shelf-picture', name, guest)).toBe(name)
    const gate: Gate = { id: 'g', on: { block: 'shows-it' }, open: { level: { atLeast: 'maker' } } }
    expect(await sent('shelf-picture', name, guest, [gate])).toBeUndefined()
    expect(await sent('shelf-picture', name, maker, [gate])).toBe(name)
    const instead: Gate = { ...gate, otherwise: { guest: { swap: { block: 'shelf-group' } } } }
    expect(await sent('shelf-picture', name, guest, [instead])).toBe(name)
  })

  it('nothing names is forgotten after a day; one that any version of a part named stays', async () => {
    const [used, was, unused, fresh] = await Promise.all(
      ['#dd0000', '#dd0001', '#dd0002', '#dd0003'].map(async colour => keep(await png(colour))),
    )
    await add('p-kept', part(was!))
    await changeThing(site.db, keeper, { kind: 'block', key: 'p-kept' }, { body: { file: used, alt: 'C' } }, ines)
    await add('p-out', part(unused!))
    await removeThing(site.db, keeper, { kind: 'block', key: 'p-out' }, ines)
    const longAgo = new Date(Date.now() - 2 * 86_400_000)
    await changeThing(site.db, keeper, { kind: 'page', key: 'join' }, { picture: fresh }, ines)
    for (const name of [used, unused, fresh])
      await site.db.update(picture).set({ namedAt: longAgo }).where(eq(picture.name, name!))
    await dropUnnamedPictures(site.db)
    const kept = (await site.db.select({ name: picture.name }).from(picture)).map(one => one.name)
    expect(kept).toEqual(expect.arrayContaining([used, fresh]))
    expect(kept).not.toContain(unused)
    expect(kept).toEqual(expect.arrayContaining(Object.values(wexlowPictures)))
  })
})
