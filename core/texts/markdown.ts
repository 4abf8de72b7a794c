/**
 * Texts as people write them, in Markdown (CommonMark 0.31 with GitHub's tables, lists of tasks, struck words and bare
 * addresses, and the generic directives that passages are written with), and the HTML they become. HTML in a text is
 * words like any other; links lead only where links may.
 */
import { directiveFromMarkdown } from 'mdast-util-directive'
import { fromMarkdown } from 'mdast-util-from-markdown'
import { gfmFromMarkdown } from 'mdast-util-gfm'
import { directive } from 'micromark-extension-directive'
import { gfm } from 'micromark-extension-gfm'
import { toHast } from 'mdast-util-to-hast'
import { defaultSchema, sanitize } from 'hast-util-sanitize'
import { toHtml } from 'hast-util-to-html'
import { visit } from 'unist-util-visit'
import type { Root } from 'mdast'

/** What a text is read as. */
export const parseText = (markdown: string): Root =>
  fromMarkdown(markdown, {
    extensions: [gfm(), directive()],
    mdastExtensions: [gfmFromMarkdown(), directiveFromMarkdown()],
  })

const schema = {
  ...defaultSchema,
  clobberPrefix: '',
  protocols: { href: ['http', 'https', 'mailto', 'tel'], src: ['http', 'https'], cite: ['http', 'https'] },
}

/** With marks around passages, which only whoever writes a text is shown. */
const markedSchema = {
  ...schema,
  tagNames: [...(schema.tagNames ?? []), 'mark', 'div'],
  attributes: {
    ...schema.attributes,
    mark: [['className', 'passage', 'kept'] as [string, string, string], 'title'],
    div: [['className', 'passage', 'kept'] as [string, string, string], 'title'],
  },
}

/** `base` is put before links that stay on the site, for pages walked under a preview address. */
export function htmlOf(root: Root, base = '', marked = false): string {
  visit(root, node => {
    if (node.type === 'html') Object.assign(node, { type: 'text' })
    const isLink = node.type === 'link' || node.type === 'definition'
    if (base && isLink && node.url.startsWith('/') && !node.url.startsWith('//')) node.url = base + node.url
  })
  return `${toHtml(sanitize(toHast(root), marked ? markedSchema : schema))}\n`
}
