/** Which file imports which, as the lint rules read it: by a relative path, by `~/` and by `~~/`, types as well as values, and what is loaded later. */
import { execFileSync } from 'node:child_process'
import { existsSync, readFileSync, statSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = fileURLToPath(new URL('../..', import.meta.url))
const layers = ['core', 'server', 'app']
const importing = /(?:^|\n)\s*(?:import|export)\s[^'"`;]*?from\s+['"]([^'"]+)['"]|\bimport\(\s*['"]([^'"]+)['"]/g

const isFile = path => existsSync(path) && statSync(path).isFile()

/** The file an import of another names, or null where it is none of ours. */
export function importedFile(file, from) {
  const name = from.replace(/\?.*$/, '')
  const path = name.startsWith('.')
    ? resolve(dirname(file), name)
    : name.startsWith('~~/')
      ? join(root, name.slice(3))
      : name.startsWith('~/')
        ? join(root, 'app', name.slice(2))
        : null
  if (!path) return null
  return [path, `${path}.ts`, join(path, 'index.ts')].find(one => /\.(ts|vue|css)$/.test(one) && isFile(one)) ?? null
}

/** The folder a file belongs to. A file at the root of a layer counts as a folder of its own: those below share it. */
export function folderOf(file) {
  const path = relative(root, file)
  const folder = dirname(path)
  if (!layers.includes(path.split('/')[0])) return null
  return layers.includes(folder) ? path : folder
}

export const isTest = file => /\.(test|bench)\.ts$/.test(file)

/** Files that nothing imports but that import everything, as what a framework finds by where it stands: no folder depends on them. */
export function sources() {
  return execFileSync('git', ['ls-files', '-co', '--exclude-standard', ...layers], { cwd: root, encoding: 'utf8' })
    .split('\n')
    .filter(name => /\.(ts|vue)$/.test(name) && !isTest(name))
    .map(name => join(root, name))
    .filter(isFile)
}

/** What a file imports of ours. */
export function importsOf(file) {
  return [...readFileSync(file, 'utf8').matchAll(importing)].flatMap(([, named, later]) => {
    const to = importedFile(file, named ?? later)
    return to ? [to] : []
  })
}

/** By folder, the folders it imports from. */
export function folderGraph() {
  const edges = new Map()
  for (const file of sources()) {
    const from = folderOf(file)
    for (const to of importsOf(file).map(folderOf)) {
      if (!to || to === from) continue
      if (!edges.has(from)) edges.set(from, new Set())
      edges.get(from).add(to)
    }
  }
  return edges
}

/** A way from one folder to another, or null. */
export function wayBetween(edges, from, to) {
  const before = new Map([[from, null]])
  for (const queue = [from]; queue.length;) {
    const at = queue.shift()
    if (at === to) {
      const way = []
      for (let one = at; one; one = before.get(one)) way.unshift(one)
      return way
    }
    for (const next of edges.get(at) ?? []) if (!before.has(next)) before.set(next, at) && queue.push(next)
  }
  return null
}
