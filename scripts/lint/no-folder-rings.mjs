/**
 * An ESLint rule: folders import each other one way. The graph of all folders is read once; an import
 * is reported where its folder can be reached back from the one it imports. A file at the root of a
 * layer (`server/clock.ts`) counts as a folder of its own: it is shared by those below.
 */
import { execFileSync } from 'node:child_process'
import { existsSync, readFileSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('../..', import.meta.url))
const layers = new Set(['core', 'server', 'app'])
const importing = /(?:^|\n)\s*(?:import|export)\s+(?!type\b)[^'"`;]*?from\s+['"]([^'"]+)['"]/g

function target(file, from) {
  const path = from.startsWith('.')
    ? resolve(dirname(file), from)
    : from.startsWith('~~/')
      ? join(root, from.slice(3))
      : null
  if (!path) return null
  return (
    [path, `${path}.ts`, join(path, 'index.ts')].find(one => /\.(ts|vue|css)$/.test(one) && existsSync(one)) ?? null
  )
}

/** The folder a file belongs to: two levels of a layer, three below services. */
export function folderOf(file) {
  const parts = relative(root, file).split('/')
  if (!layers.has(parts[0])) return null
  return dirname(parts.join('/')) === parts[0] ? parts.join('/') : dirname(parts.join('/'))
}

function read() {
  const edges = new Map()
  const files = execFileSync('git', ['ls-files', '-co', '--exclude-standard', ...layers], {
    cwd: root,
    encoding: 'utf8',
  })
  for (const name of files.split('\n').filter(one => /\.(ts|vue)$/.test(one) && !/\.(test|bench)\.ts$/.test(one))) {
    const file = join(root, name)
    if (!existsSync(file)) continue
    const from = folderOf(file)
    for (const [, source] of readFileSync(file, 'utf8').matchAll(importing)) {
      const to = target(file, source)
      const folder = to && folderOf(to)
      if (!folder || folder === from) continue
      if (!edges.has(from)) edges.set(from, new Set())
      edges.get(from).add(folder)
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

let graph
export default {
  meta: { type: 'problem', schema: [], messages: { ring: 'A ring of folders: {{way}}.' } },
  create(context) {
    const from = folderOf(context.filename)
    if (!from || /\.(test|bench)\.ts$/.test(context.filename)) return {}
    graph ??= read()
    const check = node => {
      if (!node.source || node.importKind === 'type' || node.exportKind === 'type') return
      const to = target(context.filename, node.source.value)
      const folder = to && folderOf(to)
      if (!folder || folder === from) return
      const back = wayBetween(graph, folder, from)
      if (back) context.report({ node, messageId: 'ring', data: { way: [from, ...back].join(' → ') } })
    }
    return { ImportDeclaration: check, ExportNamedDeclaration: check, ExportAllDeclaration: check }
  },
}
