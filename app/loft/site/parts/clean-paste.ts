/** What is pasted from a word processor or a web page, as Markdown: its words and their structure, and nothing of its looks. */
import type { Nodes } from 'hast'
import { fromDom } from 'hast-util-from-dom'
import { defaultSchema, sanitize } from 'hast-util-sanitize'
import { toMdast } from 'hast-util-to-mdast'
import { gfmToMarkdown } from 'mdast-util-gfm'
import { toMarkdown } from 'mdast-util-to-markdown'

/** What a text of the site can say. Pictures stand in parts of their own. */
const schema = {
  ...defaultSchema,
  tagNames: (defaultSchema.tagNames ?? []).filter(name => !['img', 'input', 'picture', 'source'].includes(name)),
  strip: ['script', 'style', 'head', 'title', 'meta', 'xml'],
  protocols: { href: ['http', 'https', 'mailto', 'tel'] },
}

/** `html` as the clipboard gives it. */
export function cleanPaste(html: string): string {
  const page = new DOMParser().parseFromString(html, 'text/html')
  const clean = sanitize(fromDom(page.body) as Nodes, schema)
  const text = toMarkdown(toMdast(clean), { extensions: [gfmToMarkdown()], bullet: '-', emphasis: '*', rule: '-' })
  // Word processors mark what is empty with spaces that do not break.
  return text
    .replaceAll('\u00A0', ' ')
    .replaceAll(/\n{3,}/g, '\n\n')
    .trim()
}
