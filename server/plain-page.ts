/** A page for when none can be rendered: the path is no address, the database is away, something broke. Needs nothing but its words. */
const escapes: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' }
const escaped = (text: string) => text.replaceAll(/[&<>"]/g, char => escapes[char]!)

/** `front`: what the way to the front page is called. */
export function plainPage(title: string, detail: string, { lang, front }: { lang: string; front: string }): string {
  const more = detail && detail !== title ? `<p>${escaped(detail)}</p>` : ''
  return (
    `<!DOCTYPE html><html lang="${escaped(lang)}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">` +
    `<meta name="robots" content="noindex"><title>${escaped(title)}</title></head>` +
    `<body style="font:18px/1.5 system-ui,sans-serif;max-width:34em;margin:12vh auto;padding:0 1.2em;color:#23302f;background:#f7f4ec">` +
    `<h1 style="font-size:1.5em">${escaped(title)}</h1>${more}<p><a href="/" style="color:#1d5c63">${escaped(front)}</a></p></body></html>`
  )
}
