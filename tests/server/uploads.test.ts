/** Files on their way in: a last step that fails is taken once more, and what is missing begins anew. */
import { mkdirSync, mkdtempSync, readFileSync, rmSync, truncateSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { readFileName } from '../../core/files/stored-file'
import type { Connection, Database, Tx } from '../../server/db/database'
import { file, upload } from '../../server/db/schema'
import { readEnvironmentAnew } from '../../server/environment'
import { Problem } from '../../server/problem'
import { fullAs, pathOf, uploadPath } from '../../server/services/files/file-folder'
import { damagedFiles, filesKept, readFilesThrough } from '../../server/services/files/read-through'
import { beginUpload, goOnWithUpload, uploadOf } from '../../server/services/files/uploads'
import { freshDatabase } from '../support/database'
import { defaultSettings } from '../support/world'

let site: Connection
let folder: string
beforeAll(async () => {
  site = await freshDatabase('demo')
  folder = mkdtempSync(join(tmpdir(), 'bravik-uploads-'))
  process.env.BRAVIK_FILES = folder
  readEnvironmentAnew()
})
afterAll(async () => {
  await site.close()
  rmSync(folder, { recursive: true })
  delete process.env.BRAVIK_FILES
  readEnvironmentAnew()
})
beforeEach(() => site.db.delete(upload))

const person = { id: 'p-ines', name: 'Ines' }
const limits = defaultSettings.files
const begin = (size: number) => beginUpload(site.db, { name: 'list.csv', size }, limits, person)
async function* pieces(...texts: string[]) {
  for (const text of texts) yield Buffer.from(text)
}
const goOn = (id: string, from: number, text: string, db: Database = site.db) =>
  goOnWithUpload(db, { id, from, bytes: text ? pieces(text) : pieces() }, limits, person)
/** A database whose transactions do not commit. */
const locked = (): Database =>
  new Proxy(site.db, {
    get: (of, key) =>
      key === 'transaction'
        ? (work: (tx: Tx) => Promise<unknown>) =>
            of.transaction(async tx => {
              await work(tx)
              throw new Error('a lock is held')
            })
        : Reflect.get(of, key),
  })

describe('an upload', () => {
  it('whose last step fails keeps its bytes, and is done by asking once more', async () => {
    const text = 'name,price\nMoss,1\n'
    const { id } = await begin(text.length)
    await expect(goOn(id, 0, text, locked())).rejects.toThrow('a lock is held')
    expect(await uploadOf(site.db, id, person)).toMatchObject({ received: text.length })
    const done = await goOn(id, text.length, '')
    expect(readFileSync(pathOf(readFileName(done.file)!), 'utf8')).toBe(text)
    expect([await site.db.$count(upload), await site.db.$count(file, eq(file.name, done.file!))]).toEqual([0, 1])
  })

  it('whose bytes are gone, or are fewer than was said, begins where they end', async () => {
    const { id } = await begin(20)
    await goOn(id, 0, 'name,price')
    writeFileSync(uploadPath(id), 'name')
    expect(await uploadOf(site.db, id, person)).toMatchObject({ received: 4 })
    rmSync(uploadPath(id))
    expect(await uploadOf(site.db, id, person)).toMatchObject({ received: 0 })
    await expect(goOn(id, 10, '\nMoss,1')).rejects.toBeInstanceOf(Problem)
    const done = await goOn(id, 0, 'name,price\nWoad,222\n')
    expect(readFileSync(pathOf(readFileName(done.file)!), 'utf8')).toContain('Woad')
  })

  it('puts bytes right that were damaged where they lay', async () => {
    const text = 'name,price\nWeld,9\n'
    const first = await begin(text.length)
    const told = readFileName((await goOn(first.id, 0, text)).file)!
    writeFileSync(pathOf(told), 'name,price\nWel')
    const again = await begin(text.length)
    await goOn(again.id, 0, text)
    expect(readFileSync(pathOf(told), 'utf8')).toBe(text)
  })

  it('on a full disk is told so', () => {
    expect(fullAs(Object.assign(new Error('full'), { code: 'ENOSPC' }))).toMatchObject({ statusCode: 507 })
    expect(fullAs(new Error('other'))).not.toBeInstanceOf(Problem)
  })
})

describe('the bytes of what is kept', () => {
  const kept = async (text: string) => (await goOn((await begin(text.length)).id, 0, text)).file!
  const placeOf = (name: string) => pathOf(readFileName(name)!)
  const through = (all = false) => readFilesThrough(site.db, { all, pause: 0 })
  const damage = async () => Object.fromEntries(await damagedFiles(site.db))

  it('are compared with their names by and by; what is wrong is told until it is brought again', async () => {
    await site.db.delete(file)
    const [whole, gone, cut, changed, unread] = [
      await kept('a,b\n1,2\n'),
      await kept('gone,b\n1,2\n'),
      await kept('cut,b\n1,2\n'),
      await kept('changed,b\n1,2\n'),
      await kept('unread,b\n1,2\n'),
    ]
    expect(await filesKept(site.db)).toMatchObject({ files: 5, unread: 5, damaged: 0, readSince: null })
    rmSync(placeOf(gone!))
    truncateSync(placeOf(cut!), 3)
    writeFileSync(placeOf(changed!), 'CHANGED,b\n1,2\n')
    rmSync(placeOf(unread!))
    mkdirSync(placeOf(unread!))
    await through()
    expect(await damage()).toEqual({ [gone!]: 'missing', [cut!]: 'cut', [changed!]: 'changed', [unread!]: 'cut' })
    expect(await filesKept(site.db)).toMatchObject({ files: 5, unread: 0, damaged: 4 })

    rmSync(placeOf(unread!), { recursive: true })
    for (const text of ['gone,b\n1,2\n', 'changed,b\n1,2\n']) await kept(text)
    expect(Object.keys(await damage()).sort()).toEqual([cut, unread].sort())
    // Out of a backup: the folder alone.
    writeFileSync(placeOf(cut!), 'cut,b\n1,2\n')
    writeFileSync(placeOf(unread!), 'unread,b\n1,2\n')
    await through()
    expect([await damage(), (await filesKept(site.db)).unread, whole]).toEqual([{}, 0, whole])
  })

  it('are read once in a week, or all of them when somebody asks; their sizes each time', async () => {
    await site.db.delete(file)
    const [one, other] = [await kept('one,b\n1,2\n'), await kept('other,b\n1,2\n')]
    await through()
    writeFileSync(placeOf(one), 'ONE,b\n1,2\n')
    truncateSync(placeOf(other), 3)
    await through()
    expect(await damage()).toEqual({ [other]: 'cut' })
    await through(true)
    expect(await damage()).toEqual({ [one]: 'changed', [other]: 'cut' })
  })
})
