/** The plain words of a text, apart for each set of passages they stand in: what is for some is never mixed with what is for all. */
import type { Nodes } from 'mdast'
import { passagesIn } from './passages'

export interface TextPiece {
  /** Passages it stands in, by their number in the text, the outermost first; none: it is for whoever the text is for. */
  within: readonly number[]
  words: string
}

/** What ends a line of its own. */
const ends: ReadonlySet<string> = new Set([
  'paragraph',
  'heading',
  'listItem',
  'tableCell',
  'tableRow',
  'code',
  'break',
])

/** Nothing where something in the text is not right: then it is shown to nobody. What stands for the reader is left out. */
export function textPieces(markdown: string): TextPiece[] {
  const read = passagesIn(markdown)
  if (!read) return []
  const { root, passages } = read
  const numbers = new Map(passages.map((node, i) => [node as Nodes, i]))
  const pieces = new Map<string, { within: number[]; words: string[] }>()
  const walk = (node: Nodes, within: number[]): void => {
    const number = numbers.get(node)
    const inside = number === undefined ? within : [...within, number]
    if ('name' in node && number === undefined) return
    const key = inside.join(' ')
    const piece = pieces.get(key) ?? { within: inside, words: [] }
    pieces.set(key, piece)
    if ('value' in node) piece.words.push(node.value)
    else if (node.type === 'image') piece.words.push(node.alt ?? '')
    if ('children' in node) for (const child of node.children) walk(child, inside)
    if (ends.has(node.type) || number !== undefined) piece.words.push('\n')
  }
  walk(root, [])
  return [...pieces.values()]
    .map(({ within, words }) => ({ within, words: tidied(words.join('')) }))
    .filter(piece => piece.words !== '')
}

const tidied = (words: string) =>
  words
    .replaceAll(/[ \t]+/g, ' ')
    .replaceAll(/ ?\n[\s]*/g, '\n')
    .trim()
