/**
 * A page, a post, a part of the frame or a menu as a file: YAML front matter for what is said of it and how its parts
 * stand, and below it, in Markdown, its words and those of its parts, each after a mark of its own.
 */
import { isMap, isScalar, isSeq, LineCounter, parseDocument, stringify, visit } from 'yaml'
import type { Document, Node } from 'yaml'
import { pointer } from '../../core/pointer'
import { blockKinds, blockModule } from '../../core/blocks/blocks'
import type { BlockKind } from '../../core/blocks/blocks'
type Data = Record<string, unknown>

export interface FileIssue {
  file: string
  line: number
  message: string
}
/** What stands in something, with what stands in that. */
export interface PartTree {
  key: string
  thing: Data
  parts: PartTree[]
}

const markOf = (id: string) => `<!-- part: ${id} -->`
const mark = /^<!-- part: ([a-z0-9-]+) -->$/
const holdsMark = (text: string) => text.split('\n').some(line => mark.test(line))

/** Names of fields in files, where they are called otherwise than within. */
const written: Record<string, string> = { path: 'address', parent: 'under' }
const read = Object.fromEntries(Object.entries(written).map(([own, other]) => [other, own]))

const renamed = (data: Data, names: Record<string, string>) =>
  Object.fromEntries(Object.entries(data).map(([key, value]) => [names[key] ?? key, value]))
const given = (data: Data) =>
  Object.fromEntries(Object.entries(data).filter(([, value]) => value !== undefined && value !== ''))

const textKeyOf = (kind: unknown) =>
  blockKinds.includes(kind as BlockKind) ? blockModule(kind as BlockKind).text : undefined

/** `head`: what is said of what holds the parts. */
export function writePage(head: Data, parts: readonly PartTree[]): string {
  const { words, ...rest } = head
  const sections: string[] = []
  const below = typeof words === 'string' && words !== '' && !holdsMark(words) ? `${words}\n` : ''
  const part = ({ key, thing, parts: inner }: PartTree): Data => {
    const { in: _, body, ...said } = thing
    const textKey = textKeyOf(said.kind)
    const { [textKey ?? '']: text, ...left } = (body ?? {}) as Data
    const isBelow = typeof text === 'string' && !holdsMark(text)
    if (isBelow) sections.push(`${markOf(key)}\n${text}\n`)
    const more = isBelow ? left : (body as Data)
    return {
      id: key,
      ...given(said),
      ...(more && Object.keys(more).length ? { body: more } : {}),
      ...(inner.length ? { parts: inner.map(part) } : {}),
    }
  }
  const list = parts.map(part)
  const front = {
    ...renamed(given(rest), written),
    ...(words && !below ? { words } : {}),
    ...(list.length ? { parts: list } : {}),
  }
  return `---\n${stringify(front, { lineWidth: 0 })}---\n${below}${sections.join('')}`
}

export interface ReadPage {
  head: Data
  lines: Lines
  parts: { tree: PartTree; path: (string | number)[] }[]
}

/** Front matter and text of a file; its issues where it is none. */
export function readPage(file: string, source: string): { page: ReadPage } | { issues: FileIssue[] } {
  const text = source.replaceAll('\r\n', '\n')
  const front = /^---\n([\s\S]*?)^---(?:\n|$)/m.exec(text)
  if (!front || front.index !== 0)
    return { issues: [{ file, line: 1, message: 'It begins with front matter: YAML between two lines of “---”.' }] }
  const parsed = readYaml(file, front[1]!, 1)
  if ('issues' in parsed) return parsed
  const { data, lines } = parsed
  const line = (path: readonly (string | number)[]) => lineIn(lines, path)
  const { words, sections, strays } = readText(text.slice(front[0].length))
  const bodyLine = front[0].split('\n').length
  const issues: FileIssue[] = []
  const parts: ReadPage['parts'] = []
  const used = new Set<string>()
  const part = (one: unknown, path: (string | number)[]): PartTree | undefined => {
    const { id, parts: inner = [], body, ...said } = (isData(one) ? one : {}) as Data
    if (typeof id !== 'string' || !Array.isArray(inner)) {
      issues.push({ file, line: line(path), message: 'A part has an id, and others in a list called parts.' })
      return undefined
    }
    const textKey = textKeyOf(said.kind)
    const below = sections.get(id)
    if (below) used.add(id)
    const whole = { ...(isData(body) ? body : {}), ...(textKey && below ? { [textKey]: below.text } : {}) }
    const tree: PartTree = { key: id, thing: { ...said, body: whole }, parts: [] }
    parts.push({ tree, path })
    tree.parts = inner.flatMap((other, i) => part(other, [...path, 'parts', i]) ?? [])
    return tree
  }
  const { parts: list = [], ...head } = data
  const trees = Array.isArray(list) ? list.flatMap((one, i) => part(one, ['parts', i]) ?? []) : []
  if (!Array.isArray(list)) issues.push({ file, line: line(['parts']), message: 'Parts are a list.' })
  for (const [id, { at }] of sections)
    if (!used.has(id))
      issues.push({
        file,
        line: bodyLine + at,
        message: `There is text for the part “${id}”, which the front matter does not name.`,
      })
  for (const at of strays) issues.push({ file, line: bodyLine + at, message: 'This part has text twice.' })
  if (issues.length) return { issues }
  const top = new Set(trees)
  return {
    page: {
      head: { ...renamed(head, read), ...(words === '' ? {} : { words }) },
      lines,
      parts: parts.map(one => ({ ...one, path: one.path, tree: one.tree })).filter(one => top.has(one.tree)),
    },
  }
}

/** Words before the first mark, then the text of each part; `at`: lines below the front matter. */
function readText(text: string) {
  const sections = new Map<string, { text: string; at: number }>()
  const strays: number[] = []
  const lines = text === '' ? [] : text.replace(/\n$/, '').split('\n')
  let words: string[] | undefined
  let now: string[] = []
  let open: { id: string; at: number } | undefined
  const close = () => {
    if (!open) words = now
    else if (sections.has(open.id)) strays.push(open.at)
    else sections.set(open.id, { text: now.join('\n'), at: open.at })
    now = []
  }
  lines.forEach((line, at) => {
    const found = mark.exec(line)
    if (!found) return void now.push(line)
    close()
    open = { id: found[1]!, at }
  })
  close()
  return { words: (words ?? []).join('\n'), sections, strays }
}

/** Where each value of a file stands: lines, by paths as JSON Pointers; the empty path is where it begins. */
export type Lines = Readonly<Record<string, number>>
/** Of what is not there, where it would be. */
export function lineIn(lines: Lines, path: readonly (string | number)[]): number {
  for (let length = path.length; length > 0; length--) {
    const found = lines[pointer(path.slice(0, length))]
    if (found !== undefined) return found
  }
  return lines['']!
}

/** YAML whose top is a mapping. `after`: lines of the file before it. */
export function readYaml(
  file: string,
  text: string,
  after = 0,
): { data: Data; lines: Lines } | { issues: FileIssue[] } {
  const counter = new LineCounter()
  // Names given twice are looked for below: the package weighs each against all before it.
  const document: Document = parseDocument(text, { lineCounter: counter, maxAliasCount: 0, uniqueKeys: false } as never)
  const lineAt = (offset: number) => counter.linePos(Math.min(offset, text.trimEnd().length)).line + after
  if (document.errors.length)
    return {
      issues: document.errors.slice(0, mostErrors).map(error => ({
        file,
        line: lineAt(error.pos[0]),
        message: /call stack/.test(error.message)
          ? 'This is nested too deep.'
          : `Not YAML: ${error.message.split('\n')[0]!.replace(/ at line \d+, column \d+:?$/, '')}`,
      })),
    }
  if (!isMap(document.contents))
    return { issues: [{ file, line: after + 1, message: 'Names and values are expected.' }] }
  const lines: Record<string, number> = { '': after + 1 }
  const twice: FileIssue[] = []
  visit(document, {
    Map(_, map) {
      const names = new Set<string>()
      for (const { key } of map.items) {
        const name = String(isScalar(key) ? key.value : key)
        if (names.has(name) && twice.length < mostErrors)
          twice.push({ file, line: lineAt((key as Node).range?.[0] ?? 0), message: `“${name}” is said twice.` })
        names.add(name)
      }
    },
  })
  if (twice.length) return { issues: twice }
  const note = (node: unknown, path: string): void => {
    const { range } = (node ?? {}) as Node
    if (range) lines[path] ??= lineAt(range[0])
    if (isMap(node))
      for (const { key, value } of node.items)
        note(value, `${path}${pointer([String(isScalar(key) ? key.value : key)])}`)
    else if (isSeq(node)) node.items.forEach((one, i) => note(one, `${path}/${i}`))
  }
  note(document.contents, '')
  lines[''] = after + 1
  try {
    return { data: document.toJS({ maxAliasCount: 0 }) as Data, lines }
  } catch {
    return { issues: [{ file, line: after + 1, message: 'Anchors and aliases are not read.' }] }
  }
}
/** Told of one file. */
const mostErrors = 100

/** Where a field stands, by the name it has within. */
export const lineOfField = (lines: Lines, path: readonly (string | number)[]): number =>
  lineIn(
    lines,
    path.map((one, i) => (i === 0 ? (written[String(one)] ?? one) : one)),
  )

const isData = (value: unknown): value is Data => typeof value === 'object' && value !== null && !Array.isArray(value)
