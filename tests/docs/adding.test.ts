/** `docs/adding.md` read against the lists it tells of, and the sources against what it promises. */
import { execFileSync } from 'node:child_process'
import { existsSync, readFileSync } from 'node:fs'
import ts from 'typescript'
import { describe, expect, it } from 'vitest'
import { kinds, keptKinds } from '../../core/kinds/kinds'
import { folderGraph, wayBetween } from '../../scripts/lint/imports-of.mjs'
import { mayImport, roomOf } from '../../scripts/lint/rooms-apart.mjs'

const root = new URL('../../', import.meta.url)
const read = (path: string) => readFileSync(new URL(path, root), 'utf8')
const doc = read('docs/adding.md')
const sources = execFileSync('git', ['ls-files', '-co', '--exclude-standard', 'core', 'server', 'app', 'cli'], {
  cwd: root,
  encoding: 'utf8',
})
  .split('\n')
  .filter(path => /\.(ts|vue)$/.test(path) && !path.endsWith('.test.ts') && existsSync(new URL(path, root)))

interface Declared {
  /** Of an object its keys, of an array the names or texts in it. */
  members: string[]
  type: string
}
/** What a file declares by `const name = {…}` or `[…]`. */
function declared(path: string): Map<string, Declared> {
  const file = ts.createSourceFile(path, read(path), ts.ScriptTarget.Latest, true)
  const found = new Map<string, Declared>()
  for (const statement of file.statements) {
    if (!ts.isVariableStatement(statement)) continue
    for (const { name, type, initializer } of statement.declarationList.declarations) {
      let value = initializer
      while (value && (ts.isAsExpression(value) || ts.isSatisfiesExpression(value))) value = value.expression
      const members =
        value && ts.isObjectLiteralExpression(value)
          ? value.properties.flatMap(one => one.name?.getText().replaceAll("'", '') ?? [])
          : value && ts.isArrayLiteralExpression(value)
            ? value.elements.map(one => one.getText().replaceAll("'", ''))
            : undefined
      if (members) found.set(name.getText(), { members, type: type?.getText() ?? '' })
    }
  }
  return found
}

interface Family {
  name: string
  members: string[]
  lists: { list: string; path: string }[]
}
const families: Family[] = doc
  .split('\n## ')
  .slice(1)
  .filter(section => section.includes('There are now:'))
  .map(section => ({
    name: section.split('\n')[0]!,
    members: [
      ...section
        .split('There are now:')[1]!
        .split('\n')[0]!
        .matchAll(/`([^`]+)`/g),
    ].map(one => one[1]!),
    lists: [...section.matchAll(/^\| `(\w+)` \| `([^`]+)` \|/gm)].map(([, list, path]) => ({
      list: list!,
      path: path!,
    })),
  }))

describe('docs/adding.md', () => {
  it('tells of every family', () => {
    expect(families.map(one => one.name)).toEqual([
      'A kind of thing',
      'A block',
      'A condition',
      'A part of a request',
      'Something somebody is looked at as',
      'A finding',
      'A place of the console',
      'An activity',
    ])
  })

  it.each(families)('$name: names each member, and lists that exist', ({ name, members, lists }) => {
    const all = lists.map(({ list, path }) => ({ list, found: declared(path).get(list) }))
    expect(all.filter(one => !one.found).map(one => one.list)).toEqual([])
    // The first list is what the others follow from; of things those that only hold others stand in the second.
    const own = all.slice(0, name === 'A kind of thing' ? 2 : 1).flatMap(one => one.found!.members)
    expect(members).toEqual(own)
    for (const { list, found } of all)
      expect({ list, known: found!.members.some(one => members.includes(one)) }).toEqual({ list, known: true })
  })

  it('names every list that must know each member of a family', () => {
    const over =
      /(?:Record<|\[\w in )(?:VersionedThing|Kept|Kind|LeafKey|AsIfKey|RequestPartKey|TextPart|TraceAction|FindingCode|ActivityKind|BlockKind|ViewBlock\['kind'\])\b/
    const named = new Set(families.flatMap(one => one.lists.map(({ list, path }) => `${path} ${list}`)))
    const missing = sources
      .filter(path => path.endsWith('.ts'))
      .flatMap(path => [...declared(path)].flatMap(([list, { type }]) => (over.test(type) ? [`${path} ${list}`] : [])))
      .filter(one => !named.has(one))
    expect(missing).toEqual([])
  })

  it('takes at most nine files for a condition, with what its request brings', () => {
    const filesOf = (name: string) =>
      [
        ...doc
          .split(`\n## ${name}\n`)[1]!
          .split('\n## ')[0]!
          .matchAll(/^\d\. `([^`]+)`/gm),
      ].map(one => one[1]!)
    const files = new Set([...filesOf('A condition'), ...filesOf('A part of a request')])
    expect([...files].length).toBeGreaterThan(6)
    expect([...files].length).toBeLessThanOrEqual(9)
  })

  it('names files that exist', () => {
    const paths = [...doc.matchAll(/`((?:app|core|server|docs|tests|demo)\/[^`*]*)`/g)].map(one => one[1]!)
    expect(paths.length).toBeGreaterThan(20)
    expect(paths.filter(path => !existsSync(new URL(path, root)))).toEqual([])
  })
})

describe('the house', () => {
  it('asks which kind a thing is only in the modules of that kind', () => {
    const families = /^(core|server|app)\/(kinds|blocks)\/|^core\/staff\/block-kind/
    const asks = new RegExp(
      `(?:[kK]ind\\)?\\s*[!=]==\\s*'(?:${keptKinds.join('|')})'|'(?:${keptKinds.join('|')})'\\s*[!=]==\\s*\\w*[kK]ind\\b)`,
      'g',
    )
    const found = sources
      .filter(path => !families.test(path))
      .flatMap(path => [...read(path).matchAll(asks)].map(one => `${path}: ${one[0]}`))
    expect(kinds.length).toBeGreaterThan(5)
    expect(found).toEqual([])
  })

  it('takes every advisory lock in one file', () => {
    const found = sources.filter(path => read(path).includes('pg_advisory'))
    expect(found).toEqual(['server/db/locks.ts'])
  })

  it('sees a ring of folders, however long, and none where there is none', () => {
    const edges = new Map([
      ['core/a', new Set(['core/b'])],
      ['core/b', new Set(['core/c', 'core/d'])],
      ['core/c', new Set(['core/a'])],
    ])
    expect(wayBetween(edges, 'core/c', 'core/b')).toEqual(['core/c', 'core/a', 'core/b'])
    expect(wayBetween(edges, 'core/d', 'core/a')).toBeNull()
  })

  it('sees what screens import by short addresses, types, and what is loaded later', () => {
    const graph = folderGraph()
    expect([...graph.get('app/loft/reach')!]).toEqual(expect.arrayContaining(['app/loft/kit/gates', 'core/gates']))
    expect([...graph.get('app/loft/shop')!]).toContain('app/loft/shop/prices')
    // Only types of it.
    expect([...graph.get('app/loft/core')!]).toContain('server/actions')
  })

  it('keeps rooms apart, and rooms in rooms', () => {
    const may = (from: string, to: string) => mayImport(roomOf(from)!, roomOf(to))
    expect(may('app/loft/reach/Reach.vue', 'app/loft/site/place.ts')).toBe(false)
    expect(may('app/loft/reach/Reach.vue', 'app/loft/kit/fields/Field.vue')).toBe(true)
    expect(may('app/loft/shop/taxes/Taxes.vue', 'app/loft/shop/prices/Prices.vue')).toBe(false)
    expect(may('app/loft/shop/taxes/Taxes.vue', 'app/loft/shop/kit/tax-words.ts')).toBe(true)
    expect(may('app/loft/site/page/Pane.vue', 'app/loft/site/parts/Part.vue')).toBe(true)
  })

  it('has no folder of more than 25 files in the console', () => {
    const files = new Map<string, number>()
    for (const path of sources.filter(one => one.startsWith('app/'))) {
      const folder = path.slice(0, path.lastIndexOf('/'))
      files.set(folder, (files.get(folder) ?? 0) + 1)
    }
    expect([...files].filter(([, count]) => count > 25)).toEqual([])
  })
})
