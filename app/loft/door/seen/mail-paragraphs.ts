/** The words of a mail paragraph by paragraph, kept alike in its plain text and its HTML. */
export const paragraphsOf = (plain: string): string[] => plain.split(/\n{2,}/)

/** A paragraph that is a link with its words: `Take it:` and, on a line of its own, the place of the address. */
export function linkPiece(paragraph: string): { label: string; value: string } | null {
  const found = /^(.+):\n\{([a-z]+)\}$/.exec(paragraph.trim())
  return found ? { label: found[1]!, value: found[2]! } : null
}

const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')
const asHtml = (paragraph: string): string => {
  const link = linkPiece(paragraph)
  return link ? `<p><a href="{${link.value}}">${escaped(link.label)}</a></p>` : `<p>${escaped(paragraph)}</p>`
}

/** The HTML with a paragraph said otherwise; none where the words are gone. Null where it does not say it alike. */
export function htmlWith(html: string, before: string, now: string): string | null {
  // What is brought along is written without escapes where there is nothing to escape, and with them else.
  const found = [asHtml(before), `<p>${before}</p>`].find(one => html.includes(one))
  if (found === undefined) return null
  return now.trim()
    ? html.replace(found, () => asHtml(now))
    : html
        .replace(found, '')
        .replaceAll(/\n{2,}/g, '\n')
        .trim()
}
