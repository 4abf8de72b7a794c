/** The first words of a text, for who may not have the rest: of its plain words only, nothing that is for some. */
import type { Nodes } from 'mdast'
import { readText } from './passages'

/** Words that are told. */
const told = 20
/** Within a line: words go on around these. */
const within = new Set(['text', 'inlineCode', 'emphasis', 'strong', 'delete', 'link', 'linkReference'])

export function firstWords(markdown: string): string {
  const { root, problems } = readText(markdown)
  // Where a passage is not written well, nobody knows where it ends.
  if (problems.length) return ''
  return firstOfPlain(plainWords(root))
}

/** The same of words that are no Markdown. */
export function firstOfPlain(plain: string): string {
  const words = plain.split(/\s+/).filter(Boolean)
  return words.length > told ? `${words.slice(0, told).join(' ')} …` : words.join(' ')
}

/** A passage is for some, whoever they are. */
function plainWords(node: Nodes): string {
  if (/Directive$/.test(node.type) || node.type === 'html') return ''
  const words = 'value' in node ? node.value : 'children' in node ? node.children.map(plainWords).join('') : ''
  return within.has(node.type) ? words : ` ${words} `
}
