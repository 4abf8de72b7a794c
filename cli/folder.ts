/** `bravik take DIR`, `bravik bring DIR`: pages, posts, menus and frame as a folder of Markdown files with YAML. */
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join, relative, sep } from 'node:path'
import { connect } from '../server/db/database'
import { bringFolder } from '../server/services/folder/bring'
import type { BringAnswer } from '../server/services/folder/bring'
import { isPicturePath } from '../server/services/folder/picture-paths'
import { inTransaction } from '../server/db/turn'
import { readPicture, storedPicture, storePicture } from '../server/services/files/pictures'
import type { ReadPicture } from '../server/services/files/pictures'
import { mostOfPicture, nameOfPicture } from '../core/pictures/picture-file'
import { Problem } from '../server/problem'
import { takeFolder } from '../server/services/folder/take'
import { contentsOf } from './export'
import { FileProblem } from './read-file'

/** A file of words is no larger; bytes. */
const mostBytes = 2_000_000
const mostFiles = 50_000

/** Writes the files, and answers their names. Refuses a folder that holds something already. */
export async function take(url: string, dir: string, edition: number | 'live' | 'draft'): Promise<string[]> {
  if (existsSync(dir) && (!statSync(dir).isDirectory() || readdirSync(dir).length))
    throw new FileProblem(`${dir}: is there already, and not empty.`)
  const connection = connect(url, 1)
  try {
    const write = (name: string, content: string | Buffer) => {
      const file = join(dir, ...name.split('/'))
      mkdirSync(dirname(file), { recursive: true })
      writeFileSync(file, content)
    }
    return await inTransaction(
      connection.db,
      async tx => {
        const { files, pictures } = await takeFolder(tx, await contentsOf(tx, edition))
        for (const [name, text] of files) write(name, text)
        for (const [path, name] of pictures) {
          const found = await storedPicture(tx, name)
          if (!found) throw new FileProblem(`${path}: is not kept any more.`)
          write(path, found.bytes)
        }
        return [...files.keys(), ...pictures.keys()]
      },
      { isolationLevel: 'repeatable read', accessMode: 'read only' },
    )
  } finally {
    await connection.close()
  }
}

export async function bring(url: string, dir: string, dry: boolean): Promise<BringAnswer> {
  if (!existsSync(dir) || !statSync(dir).isDirectory()) throw new FileProblem(`${dir}: is no folder.`)
  const files = new Map<string, string>()
  const found = new Map<string, Buffer>()
  const read = (folder: string) => {
    for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
      const file = join(folder, entry.name)
      if (entry.name.startsWith('.')) continue
      if (entry.isDirectory()) read(file)
      else add(file, relative(dir, file).split(sep).join('/'))
    }
  }
  const add = (file: string, name: string) => {
    const most = isPicturePath(name) ? mostOfPicture : mostBytes
    if (statSync(file).size > most) throw new FileProblem(`${file}: is larger than ${Math.floor(most / 1_000_000)} MB.`)
    if (files.size + found.size >= mostFiles) throw new FileProblem(`${dir}: holds more than ${mostFiles} files.`)
    if (isPicturePath(name)) found.set(name, readFileSync(file))
    else files.set(name, readFileSync(file, 'utf8'))
  }
  read(dir)
  const actor = { id: null, name: 'bravik bring' }
  const connection = connect(url, 1)
  try {
    const { pictures, read: fresh, issues } = await readPictures(found)
    // Everything that is not right is told at once; and nothing is kept of a folder that does not fit.
    const looked = await bringFolder(connection.db, files, { pictures, dry: true, actor })
    if (issues.length || looked.issues.length) return { deeds: [], issues: [...issues, ...looked.issues] }
    if (dry) return looked
    for (const one of fresh) await inTransaction(connection.db, tx => storePicture(tx, one, actor))
    return await bringFolder(connection.db, files, { pictures, dry, actor })
  } finally {
    await connection.close()
  }
}

/** What each picture would be called once it is kept; at a file that is none, why. */
async function readPictures(found: ReadonlyMap<string, Buffer>) {
  const pictures = new Map<string, string>()
  const read: ReadPicture[] = []
  const issues: BringAnswer['issues'] = []
  for (const [path, bytes] of found)
    try {
      const one = await readPicture(bytes)
      read.push(one)
      pictures.set(path, nameOfPicture(one))
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      issues.push({ file: path, line: 1, message: error.message })
      // It is there, whatever it is: the parts that name it have nothing wrong with them.
      pictures.set(path, nameOfPicture({ sha256: '0'.repeat(64), width: 1, height: 1, type: 'png' }))
    }
  return { pictures, read, issues }
}

export function broughtLines({ deeds, issues }: BringAnswer, dry: boolean): string[] {
  if (issues.length)
    return [
      ...issues.map(({ file, line, message }) => (file ? `${file}:${line}: ${message}` : message)),
      `${issues.length} ${issues.length === 1 ? 'thing is' : 'things are'} not right: nothing was changed`,
    ]
  const lines = deeds.map(
    ({ file, line, does, kind, key }) => `${file ? `${file}:${line}: ` : ''}${does} the ${kind} ${key}`,
  )
  const count = `${deeds.length} ${deeds.length === 1 ? 'change' : 'changes'}`
  return [
    ...lines,
    deeds.length === 0 ? 'Nothing differs.' : dry ? `${count}, none made: a dry run` : `${count} in the draft`,
  ]
}
