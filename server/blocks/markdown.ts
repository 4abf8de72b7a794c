/** Markdown to HTML. Raw HTML in the text is shown as text, never passed through. */
import MarkdownIt from 'markdown-it'

const engine = new MarkdownIt({ html: false, linkify: true, typographer: true })

/** `base` is put before links that stay on the site, for pages walked under a preview address. */
export function renderMarkdown(text: string, base = ''): string {
  const tokens = engine.parse(text, {})
  if (base)
    for (const token of tokens.flatMap(one => one.children ?? [])) {
      const href = token.type === 'link_open' ? String(token.attrGet('href') ?? '') : ''
      if (href.startsWith('/') && !href.startsWith('//')) token.attrSet('href', base + href)
    }
  return engine.renderer.render(tokens, engine.options, {})
}
