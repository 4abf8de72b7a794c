/**
 * Passages: words, or paragraphs, of a text that are for some. They are written as generic directives,
 *
 *     Nothing is hurried. :for[The swatch of lesson two is yours to keep.]{who="Maker or above" else="Makers keep a swatch."}
 *
 *     :::for{who="Guild or above"}
 *     The whole of it.
 *     :::
 *
 * and so is the reader: `:reader[name]{else="friend"}`. A text in which one of them is not right shows nothing to
 * anybody: what swallows the rest, or is swallowed, nobody can tell.
 */
import type { ContainerDirective, LeafDirective, TextDirective } from 'mdast-util-directive'
import type { Nodes, Parent, PhrasingContent, Root } from 'mdast'
import { SKIP, visit } from 'unist-util-visit'
import { read } from '../sentences/read'
import { sayText } from '../sentences/say'
import type { Lexicon } from '../sentences/lexicon'
import type { Condition } from '../conditions/condition'
import { htmlOf, parseText } from './markdown'
import { deepestMarkup, mostLines, mostMarks, mostParagraphLines, mostUnderlined, tooMuchMarkup } from './markup-bound'
import type { TooMuch } from './markup-bound'

export const readerWords = ['name', 'levels', 'firm'] as const
export type ReaderWord = (typeof readerWords)[number]

/** Something wrong with a passage, at its place in the text: an offset, and how much of it is meant. */
export interface TextProblem {
  at: number
  length: number
  message: string
}
type Directive = TextDirective | LeafDirective | ContainerDirective

const isDirective = (node: Nodes): node is Directive =>
  node.type === 'textDirective' || node.type === 'leafDirective' || node.type === 'containerDirective'
const startOf = (node: Nodes) => node.position?.start.offset ?? 0
const lengthOf = (node: Nodes) => (node.position?.end.offset ?? 0) - startOf(node)
const known = ['for', 'reader']
/** `7:pm` is a time, and no directive: one without words and without attributes is what it says. */
const isPlain = (node: Directive) =>
  node.type === 'textDirective' &&
  !known.includes(node.name) &&
  !node.children.length &&
  !Object.keys(node.attributes ?? {}).length

interface Read {
  root: Root
  passages: Directive[]
  problems: TextProblem[]
}

const tooMuch: Record<TooMuch['what'], string> = {
  deep: `No more than ${deepestMarkup} quotations, lists and passages can stand in one another.`,
  many: `A text holds at most ${mostMarks.toLocaleString('en')} marks of links, lists, tables and the like: divide it.`,
  lines: `A text holds at most ${mostLines.toLocaleString('en')} lines: divide it.`,
  paragraph: `A paragraph holds at most ${mostParagraphLines.toLocaleString('en')} lines: divide it.`,
  underlined: `A text holds at most ${mostUnderlined.toLocaleString('en')} headings with a line under them: begin them with “#”.`,
}

/** A text as it is read, whole: its passages stand in it as directives. */
export function readText(markdown: string): Read {
  const much = tooMuchMarkup(markdown)
  if (much) {
    const { at, length, what } = much
    return { root: { type: 'root', children: [] }, passages: [], problems: [{ at, length, message: tooMuch[what] }] }
  }
  const root = parseText(markdown)
  const passages: Directive[] = []
  const problems: TextProblem[] = []
  visit(root, (node, index, parent) => {
    if (!isDirective(node)) return undefined
    if (isPlain(node)) {
      const words = markdown.slice(startOf(node), startOf(node) + lengthOf(node))
      ;(parent as Parent).children[index!] = { type: 'text', value: words }
      return [SKIP, index! + 1]
    }
    const wrong = (message: string) =>
      problems.push({ at: startOf(node), length: Math.min(lengthOf(node), 200), message })
    if (node.name === 'reader') {
      const what = plainText(node)
      if (node.type !== 'textDirective' || !readerWords.includes(what as ReaderWord))
        wrong(`The reader has a name, levels and a firm: “:reader[name]{else="friend"}”.`)
      return SKIP
    }
    if (node.name !== 'for')
      return void wrong(`“${node.name}” is nothing a text can say; a passage begins with “:for”.`)
    passages.push(node)
    if (!node.attributes?.who?.trim()) wrong('A passage says whom it is for: {who="…"}.')
    if (!node.children.length) wrong('A passage has words in brackets, or paragraphs up to “:::”, and here are none.')
    if (node.type === 'containerDirective' && !isClosed(markdown, node))
      wrong('This passage has no end: “:::” is missing.')
    return undefined
  })
  return { root, passages, problems }
}

/** A container without an end takes in all that follows; one with an end ends with colons. */
const isClosed = (markdown: string, node: ContainerDirective) =>
  /(?:^|\n)[ \t>]*:{3,}[ \t]*$/.test(markdown.slice(startOf(node) + 1, startOf(node) + lengthOf(node)))

/** Without passages, and no more than can be read: nothing can be wrong with it. */
export const isPlainText = (markdown: string) => !markdown.includes(':') && !tooMuchMarkup(markdown)

const plainText = (node: Nodes): string =>
  'value' in node ? node.value : 'children' in node ? node.children.map(plainText).join('') : ''

export interface Passages {
  /** Whom each is for, in the order in which they begin; null where that is not understood. */
  conditions: (Condition | null)[]
  problems: TextProblem[]
}

/** What stands in a text, before anybody asks what its phrases mean. */
export interface TextReading {
  passages: WrittenPassage[]
  problems: TextProblem[]
}

/** Reads a text once: where its passages stand, and what is not right in it. */
export function readingOf(markdown: string): TextReading {
  const { passages, problems } = readText(markdown)
  return {
    passages: passages.map(node => ({
      at: startOf(node),
      length: lengthOf(node),
      words: plainText(node),
      who: node.attributes?.who ?? '',
      else: node.attributes?.else?.trim() ?? '',
    })),
    problems,
  }
}

/** What a text says of whom its passages are for. `today` completes dates without a year. */
export const passagesOf = (markdown: string, lexicon: Lexicon, today?: string): Passages =>
  isPlainText(markdown) ? { conditions: [], problems: [] } : passagesRead(readingOf(markdown), lexicon, today)

/** The same of a text that is read already. */
export function passagesRead(reading: TextReading, lexicon: Lexicon, today?: string): Passages {
  const problems = [...reading.problems]
  const conditions = reading.passages.map(({ who: phrase, at: start, length: whole }) => {
    const found = phrase.trim() ? read(phrase, lexicon, today) : null
    if (found && !found.ok) {
      const { at, length, expected } = found.error
      const said = phrase.slice(at, at + length) || 'the end'
      problems.push({
        at: start,
        length: Math.min(whole, 200),
        message: `Whom this is for is not understood at “${said}”: expected ${expected}.`,
      })
    }
    return found?.ok ? found.condition : null
  })
  return { conditions, problems: problems.sort((a, b) => a.at - b.at) }
}

/** A passage as it stands in the text: where it begins, its words, and the phrase that says whom it is for. */
export interface WrittenPassage {
  at: number
  length: number
  words: string
  who: string
  /** What others read in its place; empty where that is nothing. */ else: string
}
export const writtenPassages = (markdown: string): WrittenPassage[] =>
  isPlainText(markdown) ? [] : readingOf(markdown).passages

const quoted = (phrase: string) => `"${phrase.replaceAll('&', '&amp;').replaceAll('"', '&quot;')}"`
/** Words of a text as a passage for somebody: in their line, or, where they are paragraphs, with lines around them. */
export const asPassage = (words: string, phrase: string): string =>
  words.trim().includes('\n\n')
    ? `\n\n:::for{who=${quoted(phrase)}}\n${words.trim()}\n:::\n\n`
    : `:for[${words}]{who=${quoted(phrase)}}`

/** A text read, with its passages in the order in which they begin; null where something in it is not right. */
export function passagesIn(markdown: string): Pick<Read, 'root' | 'passages'> | null {
  if (isPlainText(markdown)) return { root: parseText(markdown), passages: [] }
  const { root, passages, problems } = readText(markdown)
  return problems.length ? null : { root, passages }
}

/** Where the attributes of a passage stand: at its end in a line, and in the first line of one of paragraphs. */
function headOf(markdown: string, { at, length }: WrittenPassage): string {
  const said = markdown.slice(at, at + length)
  return /^:::/.test(said) ? said.slice(0, said.indexOf('\n')) : said
}
const attribute = (name: string) => new RegExp(`\\s*\\b${name}=("[^"]*"|'[^']*')`, 'g')

/** The text with other words for others in place of one of its passages, or with none; as it was where that cannot be told. */
export function withElse(markdown: string, passage: WrittenPassage, words: string): string {
  const { at } = passage
  const head = headOf(markdown, passage)
  const who = [...head.matchAll(attribute('who'))].at(-1)
  if (!who) return markdown
  const plain = words.replaceAll(/\s+/g, ' ').trim()
  const put = plain ? ` else=${quoted(plain)}` : ''
  const was = [...head.matchAll(attribute('else'))].find(one => one.index > head.lastIndexOf('{'))
  const [from, to] = was
    ? [was.index, was.index + was[0].length]
    : [who.index + who[0].length, who.index + who[0].length]
  // What stood first has nothing before it to be kept apart from.
  const isFirst = head[from - 1] === '{'
  return `${markdown.slice(0, at + from)}${isFirst ? put.trimStart() : put}${markdown.slice(at + to)}`
}

/** The text with another phrase for one of its passages; as it was where that cannot be told. */
export function withWho(markdown: string, passage: WrittenPassage, phrase: string): string {
  const { at } = passage
  const head = headOf(markdown, passage)
  const found = [...head.matchAll(/\bwho=("[^"]*"|'[^']*')/g)].at(-1)
  if (!found) return markdown
  const from = at + found.index
  return `${markdown.slice(0, from)}who=${quoted(phrase)}${markdown.slice(from + found[0].length)}`
}

/**
 * The text with its phrases as they would be said now: what a passage means is kept by what it names, and names change.
 * `conditions`: what was kept of it.
 */
export function restated(markdown: string, conditions: readonly (Condition | null)[], lexicon: Lexicon): string {
  const passages = writtenPassages(markdown)
  if (passages.length !== conditions.length) return markdown
  return passages.reduceRight((text, passage, i) => {
    const meant = conditions[i]
    const said = read(passage.who, lexicon)
    const isSaid = said.ok && JSON.stringify(said.condition) === JSON.stringify(meant)
    return meant && !isSaid ? withWho(text, passage, sayText(meant, lexicon)) : text
  }, markdown)
}

/** What a text is rendered with. */
export interface Rendering {
  base?: string
  /** For each passage whether it is sent; null where the text is kept from everybody. */
  admitted: readonly boolean[] | null
  /** What stands for the reader; nothing where they have none. */
  reader(what: ReaderWord): string | null
  /** Around what is for some, and what is not sent of it, for whoever writes. */
  marked?: boolean
}

/** The HTML of a text, with what is sent of its passages. Empty where one of them is not right. */
export function renderText(markdown: string, { base, admitted, reader, marked }: Rendering): string {
  if (isPlainText(markdown)) return htmlOf(parseText(markdown), base)
  const { root, passages, problems } = readText(markdown)
  if (problems.length || !admitted || admitted.length !== passages.length) return ''
  const numbers = new Map(passages.map((node, i) => [node as Nodes, i]))
  replaceIn(root, node => {
    if (node.name === 'reader')
      return [{ type: 'text', value: reader(plainText(node) as ReaderWord) ?? node.attributes?.else ?? '' }]
    const isAdmitted = admitted[numbers.get(node)!]!
    if (isAdmitted && !marked) return node.children as Nodes[]
    if (isAdmitted) return [around(node, node.children as Nodes[], 'passage')]
    const instead = node.attributes?.else?.trim()
    const words: PhrasingContent[] = instead ? [{ type: 'text', value: instead }] : []
    if (marked) return [around(node, words.length ? words : [{ type: 'text', value: '…' }], 'passage kept')]
    if (node.type === 'textDirective') return words
    return words.length ? [{ type: 'paragraph', children: words }] : []
  })
  return htmlOf(root, base, marked)
}

/** Puts something else in place of each directive; what has nothing left in it goes too. */
function replaceIn(parent: Parent, make: (node: Directive) => Nodes[]): void {
  parent.children = parent.children.flatMap((child): Parent['children'] => {
    if (isDirective(child)) {
      const made = make(child)
      const holder: Parent = { type: 'root', children: made as Parent['children'] }
      replaceIn(holder, make)
      return holder.children
    }
    if (!('children' in child)) return [child]
    const before = child.children.length
    replaceIn(child, make)
    return child.type === 'paragraph' && before && !child.children.length ? [] : [child]
  })
}

/** An element around a passage, for whoever writes the page. */
function around(node: Directive, children: Nodes[], className: string): Nodes {
  const hName = node.type === 'textDirective' ? 'mark' : 'div'
  return {
    type: 'passage',
    children,
    data: { hName, hProperties: { className: className.split(' '), title: node.attributes?.who } },
  } as unknown as Nodes
}
