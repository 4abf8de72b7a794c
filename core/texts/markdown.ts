/**
 * Texts as people write them, in Markdown (CommonMark 0.31 with GitHub's tables, lists of tasks, struck words and bare
 * addresses), and the HTML they become. HTML in a text is words like any other; links lead only where links may.
 */
import { fromMarkdown } from 'mdast-util-from-markdown'
import { gfmFromMarkdown } from 'mdast-util-gfm'
import { gfm } from 'micromark-extension-gfm'
import { toHast } from 'mdast-util-to-hast'
import { defaultSchema, sanitize } from 'hast-util-sanitize'
import { toHtml } from 'hast-util-to-html'
import { visit } from 'unist-util-visit'
import type { Root } from 'mdast'

/** What a text is read as. */
export const parseText = (markdown: string): Root =>
  fromMarkdown(markdown, { extensions: [gfm()], mdastExtensions: [gfmFromMarkdown()] })

const schema = {
  ...defaultSchema,
  clobberPrefix: '',
  protocols: { href: ['http', 'https', 'mailto', 'tel'], src: ['http', 'https'], cite: ['http', 'https'] },
}

/** `base` is put before links that stay on the site, for pages walked under a preview address. */
export function renderMarkdown(markdown: string, base = ''): string {
  const root = parseText(markdown)
  visit(root, node => {
    if (node.type === 'html') Object.assign(node, { type: 'text' })
    const isLink = node.type === 'link' || node.type === 'definition'
    if (base && isLink && node.url.startsWith('/') && !node.url.startsWith('//')) node.url = base + node.url
  })
  return `${toHtml(sanitize(toHast(root), schema))}\n`
}
