/** `bravik take DIR`, `bravik bring DIR`: pages, posts, menus and frame as a folder of Markdown files with YAML. */
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join, relative, sep } from 'node:path'
import { connect } from '../server/db/database'
import { bringFolder } from '../server/services/folder/bring'
import type { BringAnswer } from '../server/services/folder/bring'
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
    const files = await connection.db.transaction(async tx => takeFolder(tx, await contentsOf(tx, edition)), {
      isolationLevel: 'repeatable read',
      accessMode: 'read only',
    })
    for (const [name, text] of files) {
      const file = join(dir, ...name.split('/'))
      mkdirSync(dirname(file), { recursive: true })
      writeFileSync(file, text)
    }
    return [...files.keys()]
  } finally {
    await connection.close()
  }
}

export async function bring(url: string, dir: string, dry: boolean): Promise<BringAnswer> {
  if (!existsSync(dir) || !statSync(dir).isDirectory()) throw new FileProblem(`${dir}: is no folder.`)
  const files = new Map<string, string>()
  const read = (folder: string) => {
    for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
      const file = join(folder, entry.name)
      if (entry.name.startsWith('.')) continue
      if (entry.isDirectory()) read(file)
      else if (statSync(file).size > mostBytes) throw new FileProblem(`${file}: is larger than 2 MB.`)
      else if (files.size >= mostFiles) throw new FileProblem(`${dir}: holds more than ${mostFiles} files.`)
      else files.set(relative(dir, file).split(sep).join('/'), readFileSync(file, 'utf8'))
    }
  }
  read(dir)
  const connection = connect(url, 1)
  try {
    return await bringFolder(connection.db, files, { dry, actor: { id: null, name: 'bravik bring' } })
  } finally {
    await connection.close()
  }
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
