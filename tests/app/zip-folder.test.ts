import { zipSync, strToU8 } from 'fflate'
import { describe, expect, it } from 'vitest'
import { unzipped, zipped } from '../../app/loft/site/bring/zip-folder'

const made = (files: Record<string, string>) =>
  zipSync(Object.fromEntries(Object.entries(files).map(([k, v]) => [k, strToU8(v)])))

describe('a folder as a zip', () => {
  it('is the same when it is read again', async () => {
    const files = { 'pages/visit.md': '---\ntitle: Besuch – ü\n---\n', 'menus/main.yaml': 'title: Main\n' }
    const pictures = { 'pictures/0a1b.png': new Uint8Array([137, 80, 78, 71, 0, 255]) }
    expect(await unzipped(await zipped(files, pictures))).toEqual({ files, pictures })
  })

  it('is read without the folder around all and without what operating systems add', async () => {
    expect(
      await unzipped(made({ 'site/pages/a.md': 'a', 'site/.DS_Store': 'x', '__MACOSX/site/pages/._a.md': 'x' })),
    ).toEqual({ files: { 'pages/a.md': 'a' }, pictures: {} })
    // A page may be called so too.
    const named = { 'pages/pictures/a.md': 'a' }
    expect(await unzipped(made(named))).toEqual({ files: named, pictures: {} })
    expect(
      Object.keys((await unzipped(made({ 'site/pages/a.md': 'a', 'site/pictures/b.png': 'b' }))).pictures),
    ).toEqual(['pictures/b.png'])
  })

  it.each([
    ['no zip', strToU8('not a zip at all'), /no zip/],
    ['one cut short', made({ 'pages/a.md': 'a'.repeat(5000) }).slice(0, 60), /no zip/],
    ['an empty one', made({}), /no file/],
    ['one that unpacks to very much', made({ 'pages/a.md': 'a'.repeat(3_000_000) }), /larger than 2 MB/],
    [
      'one of many that together are very much',
      made(Object.fromEntries([...Array(14).keys()].map(i => [`pages/${i}.md`, 'a'.repeat(1_900_000)]))),
      /more than 24 MB/,
    ],
  ])('%s is told so', async (_, bytes, why) => {
    await expect(unzipped(bytes)).rejects.toThrow(why)
  })
})
