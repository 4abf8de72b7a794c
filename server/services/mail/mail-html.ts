/**
 * The HTML of a mail text an operator wrote: plain structure, links and nothing
 * that loads from anywhere. Values stand where readers read them; the link the
 * mail is about stands as a whole `href` or by itself on a line, so that no
 * other address ever holds it.
 */
import { Parser } from 'htmlparser2'
import sanitizeHtml from 'sanitize-html'

const tags = [
  'p',
  'br',
  'hr',
  'a',
  'b',
  'strong',
  'i',
  'em',
  'u',
  'small',
  'span',
  'div',
  'ul',
  'ol',
  'li',
  'h1',
  'h2',
  'h3',
  'h4',
  'blockquote',
  'table',
  'thead',
  'tbody',
  'tr',
  'th',
  'td',
  'pre',
  'code',
]
const attributes: Record<string, string[]> = {
  a: ['href', 'title'],
  td: ['align', 'colspan'],
  th: ['align', 'colspan'],
}

export const linkValue = 'link'
const wholeLink = `{${linkValue}}`

/** What is wrong with it, in a sentence; undefined when it can be sent. */
export function htmlProblem(html: string): string | undefined {
  let problem: string | undefined
  const tell = (sentence: string) => {
    problem ??= sentence
  }
  // The parser hands a text over in pieces, cut at entities; it is read as a whole.
  let text = ''
  const readText = () => {
    if (!linkStandsAlone(text)) tell(`${wholeLink} stands on a line of its own, or as the whole href of a link.`)
    text = ''
  }
  const parser = new Parser(
    {
      onopentag(name, given) {
        readText()
        if (!tags.includes(name))
          tell(`<${name.slice(0, 20)}> cannot be used in a mail: text, lists, tables and links can.`)
        for (const [attribute, value] of Object.entries(given)) {
          if (!(attributes[name] ?? []).includes(attribute))
            tell(`${attribute.slice(0, 20)} cannot be used on <${name.slice(0, 20)}>: mails load and style nothing.`)
          const whole = attribute === 'href' && value.trim() === wholeLink
          if (!whole && /\{[a-z]+\}/.test(value))
            tell(
              `{…} stands in what is read, and ${wholeLink} also as the whole href of a link: never as a part of an address.`,
            )
          if (attribute === 'href' && !whole && !/^(https?:\/\/|mailto:)\S+$/i.test(value.trim()))
            tell('A link leads to a web address or a mail address.')
        }
      },
      ontext(piece) {
        text += piece
      },
      onclosetag: readText,
      onend: readText,
      oncomment: () => tell('Comments cannot be used in a mail.'),
      onprocessinginstruction: () => tell('Only elements and text can be used in a mail.'),
    },
    { decodeEntities: true },
  )
  parser.end(html)
  return problem
}

/** Where a text names the link, nothing else stands on that line. */
export const linkStandsAlone = (text: string): boolean =>
  text.split('\n').every(line => !line.includes(wholeLink) || line.trim() === wholeLink)

/** As it is sent: whatever could load or run is gone, also from what an older version kept. */
export const cleanHtml = (html: string): string =>
  sanitizeHtml(html, {
    allowedTags: tags,
    allowedAttributes: attributes,
    allowedSchemes: ['http', 'https', 'mailto'],
    allowProtocolRelative: false,
    disallowedTagsMode: 'discard',
  })
